import type { Piece } from '../document/document.js';
import type { Finding } from '../unit/finding.js';

/** This many places of one fault are reported; beyond that the list would hide everything else. */
const MAX_PER_KIND = 6;

/** How bad: the share by which the limit is broken, either way; faults without a size come first. */
const badness = ({ size }: Finding): number =>
  size ? Math.abs(size.value - size.limit) / Math.max(Math.abs(size.limit), 1e-9) : Infinity;

/** The findings in their order, of each kind only the worst places; the first of a kind says how many more there are. */
export function gatherFindings(findings: readonly Finding[]): Finding[] {
  const kinds = new Map<string, Finding[]>();
  for (const finding of findings) kinds.set(finding.code, [...(kinds.get(finding.code) ?? []), finding]);
  const kept = new Map<Finding, number>();
  for (const all of kinds.values()) {
    const worst = [...all].sort((a, b) => badness(b) - badness(a)).slice(0, MAX_PER_KIND);
    const reported = all.filter((finding) => worst.includes(finding));
    reported.forEach((finding, i) => {
      kept.set(finding, i === 0 ? all.length - reported.length : 0);
    });
  }
  return findings.flatMap((finding) => {
    const more = kept.get(finding);
    if (more === undefined) return [];
    return more === 0 ? [finding] : [{ ...finding, message: `${finding.message} ${more} more like this.` }];
  });
}

/** What the artist has not said to be meant. */
export function notIgnored(piece: Piece, findings: readonly Finding[]): Finding[] {
  const meant = new Set(piece.ignored?.map(({ code }) => code));
  return findings.filter(({ code }) => !meant.has(code));
}
