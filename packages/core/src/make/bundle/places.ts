import { type CurveSet, curveCount } from '../../curve/curve-set.js';
import { type ResampleOptions, samplesOf } from '../../curve/resample.js';
import { roundSection } from '../../section/section.js';
import { capSize } from '../../sweep/caps.js';
import type { BuildContext, Cost } from '../../unit/unit.js';
import { capOf } from './bundle.js';
import type { BundleEnd } from './ends/parameters.js';

/** A vertex with its share of the faces: position, normal and texture coordinate, and about two triangles. */
const VERTEX_BYTES = 56;

/** What a bundle comes to: its strands, of which a hull is one, with this many sides each at places that are so close. */
export function bundleCost(
  input: CurveSet,
  options: ResampleOptions,
  { shown, strands, sides, ends }: { shown: string; strands: number; sides: number; ends: readonly string[] },
): Cost {
  const lines = curveCount(input);
  if (shown === 'line') return { vertices: 0, bytes: 0, strands: lines };
  const section = roundSection(sides);
  const open = lines - input.closed.reduce((sum, one) => sum + one, 0);
  const caps = ends.reduce(
    (sum, kind) => sum + capSize(section, shown === 'hull' ? 'flat' : capOf(kind as BundleEnd)).vertices,
    0,
  );
  const each = shown === 'hull' ? 1 : strands;
  const vertices = each * (samplesOf(input, options) * section.x.length + open * caps);
  return { vertices, bytes: VERTEX_BYTES * vertices, strands: each * lines };
}

/** Reports more places than can be made, and of this few that strands cut across each other. */
export function reportPlaces(
  { longer, places, fewest, from }: { longer: number; places: number; fewest: number; from: string },
  { report }: BuildContext,
): void {
  if (longer > 1)
    report({
      code: 'too-many-turns',
      severity: 'warning',
      message: `The lay is too fine for so long a line: segments are ${longer.toFixed(1)} times as long. Increase the lay length, use fewer strands, or shorten the line.`,
      size: { value: longer, limit: 1, kind: 'count' },
    });
  else if (places < fewest)
    report({
      code: 'few-places',
      severity: 'warning',
      message: `${places} segments from one ${from} to the next are too few: strands intersect (minimum ${fewest}). Use ${fewest} or more.`,
      size: { value: places, limit: fewest, kind: 'count' },
    });
}
