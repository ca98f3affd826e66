import type { Parameter } from '../../unit/parameters.js';
import type { BuildContext } from '../../unit/unit.js';

/** What share of its strands a path makes for the view. */
export const SHOWN = {
  kind: 'ratio',
  of: 'all strands',
  label: 'Viewport share',
  help: 'Share of strands shown in the viewport; a bake includes all.',
  default: 1,
  min: 0.001,
  max: 1,
  comfortable: [0.01, 1],
  gauge: 'curves',
  group: 'View',
} as const satisfies Parameter;

/** Points of the strands of one piece at most, about half a gigabyte; and of those that are made for the view. */
const MAX_POINTS = 16_000_000;
const MAX_VISIBLE = 3_000_000;
/** Bytes of a point with its length. */
const POINT_BYTES = 28;

/**
 * What share of the strands that are asked for is made, 0 … 1: less than all where they would be too many, which is reported
 * with its figure, and where only some are to be shown.
 * @param strands asked for in all, and the points they have together
 * @param shown share of them that the view wants
 */
export function shareMade(
  { strands, points }: { strands: number; points: number },
  shown: number,
  { forView, report }: Pick<BuildContext, 'forView' | 'report'>,
): number {
  const most = Math.min(1, MAX_POINTS / Math.max(1, points));
  if (most < 1)
    report({
      code: 'too-many-strands',
      severity: 'warning',
      message: `Needs ${figure(strands)} strands with ${figure(points)} points (${figure((points * POINT_BYTES) / 2 ** 20)} MB): ${figure(most * strands)} are made. Reduce the count, or the point count.`,
      size: { value: points, limit: MAX_POINTS, kind: 'count' },
    });
  if (!forView) return most;
  const seen = Math.min(1, MAX_VISIBLE / Math.max(1, most * shown * points));
  if (seen < 1)
    report({
      code: 'shown-in-part',
      severity: 'note',
      message: `Only ${figure(most * shown * seen * strands)} strands are shown to keep the viewport fast; a bake makes all. Lower "Viewport share" to show fewer.`,
    });
  return most * shown * seen;
}

const figure = (value: number): string => Math.round(value).toLocaleString('en');
