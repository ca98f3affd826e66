import type { Finding } from '@kelp/core';

/** A bend tighter than allowed. */
export const isPinch = ({ code }: Finding) => code === 'pinch' || code === 'mitre-short';

/**
 * A draft is coarser on purpose: its facets are reported only where the whole would show them too, and of tight bends, which
 * coarse rings have more of, no more than the whole had.
 */
export function fairly<T extends { findings: readonly Finding[] }>(
  build: T,
  density: number,
  pinches = Number.POSITIVE_INFINITY,
): T {
  if (density === 1) return build;
  const shows = ({ code, size }: Finding) => code !== 'coarse' || !size || size.value * density > size.limit;
  const tightest = build.findings
    .filter(isPinch)
    .sort((a, b) => (a.size?.value ?? 0) - (b.size?.value ?? 0))
    .slice(0, pinches);
  return {
    ...build,
    findings: build.findings.filter((one) => shows(one) && (!isPinch(one) || tightest.includes(one))),
  };
}
