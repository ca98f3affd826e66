import { CONTACT, type Finding, type Fix } from '../../unit/finding.js';
import { finerBends } from '../steering.js';

/** Thinner by a little more than what is missing, so that it is gone. */
const ENOUGH = 0.97;

/** What a bundle knows to do about a finding: finer bends, thinner strands, less wandering. */
export function bundleFixes(finding: Finding, p: { scale: number; wander: number; wanderLength: number }): Fix[] {
  const { code, size } = finding;
  if (code !== 'strands-cut' || !size?.limit) return finerBends(finding);
  const thinner = p.scale * ENOUGH * (1 - size.value / (size.limit / CONTACT));
  const fixes: Fix[] = [];
  if (p.wander > 0)
    fixes.push({ label: 'Reduce the noise', kind: 'set', stage: 'make', parameter: 'wander', value: p.wander / 2 });
  if (p.wanderLength > 0)
    fixes.push({
      label: 'Reduce the noise',
      kind: 'set',
      stage: 'make',
      parameter: 'wanderLength',
      value: p.wanderLength / 2,
    });
  if (thinner >= 0.01)
    fixes.push({ label: 'Make the strands thinner', kind: 'set', stage: 'make', parameter: 'scale', value: thinner });
  return fixes;
}
