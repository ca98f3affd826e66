import type { AlongValue } from '../numeric/lane.js';
import { isLane, type Lane, type LaneKnot, valueAt } from '../numeric/lane.js';
import type { Finding, Fix } from '../unit/finding.js';
import { LIMITED } from './steering.js';

/** What a thinner section mends. */
const FOLDS: readonly string[] = ['pinch', 'mitre-short'];
/** Thinned, it stays this much within the bend. */
const WITHIN = 0.75;
/** It thins over this many times its own reach to either side. */
const OVER = 4;

/** The ways to mend a fold by the numbers of what is swept: thinner there, or its inner side creased. */
export function foldFixes(finding: Finding, radius: AlongValue, folds: string, length: number): Fix[] {
  const thin = thinThere(finding, 'radius', radius, length);
  const limits = finding.code === 'pinch' && folds !== LIMITED;
  return [
    ...(thin ? [thin] : []),
    ...(limits
      ? [{ label: 'Crease the inner side', kind: 'set', stage: 'make', parameter: 'folds', value: LIMITED } as const]
      : []),
  ];
}

/**
 * Makes what folds in a bend thinner there: its lane goes down to what the bend allows and back, everywhere else it stays.
 * None where the finding does not say how far along a single line it is.
 * @param length of the line, metres; 0 where there are several
 */
function thinThere(
  { code, along, size }: Finding,
  parameter: string,
  value: AlongValue,
  length: number,
): Fix | undefined {
  if (isLane(value) && value.region) return undefined;
  if (!FOLDS.includes(code) || along === undefined || !size || length === 0) return undefined;
  const at = along / length;
  const reach = (OVER * size.limit) / length;
  const ratio = (WITHIN * size.value) / size.limit;
  const [from, to] = [Math.max(0, at - reach), Math.min(1, at + reach)];
  const kept: LaneKnot[] = isLane(value)
    ? value.knots.filter((knot) => knot.at < from || knot.at > to)
    : [0, 1].filter((end) => end < from || end > to).map((end) => ({ at: end, value }));
  const put = (place: number, share: number): LaneKnot => ({ at: place, value: share * valueAt(value, place) });
  const dip = [
    ...(at - reach > 0 ? [put(from, 1)] : []),
    ...[at - reach / 3, at + reach / 3].map((place) => put(Math.max(0, Math.min(1, place)), ratio)),
    ...(at + reach < 1 ? [put(to, 1)] : []),
  ];
  const lane: Lane = { ease: 'smooth', knots: [...kept, ...dip].sort((a, b) => a.at - b.at) };
  return { label: 'Make it thinner there', kind: 'set', stage: 'make', parameter, value: lane };
}
