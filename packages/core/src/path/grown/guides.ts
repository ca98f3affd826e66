import { type CurveSet, curveCount } from '../../curve/curve-set.js';
import { resample } from '../../curve/resample.js';
import { createHit, type Surface } from '../../surface/surface.js';
import type { Finding } from '../../unit/finding.js';
import { placeOnSkin, type Skin } from './skin.js';

/** Where a guide stands on the skin. */
export interface GuideRoot {
  triangle: number;
  /** World. */
  at: Float64Array;
}

/** Guides as strands follow them. */
export interface Guides {
  roots: GuideRoot[];
  /** Smooth normal of the skin at each root, three numbers a guide. */
  normal: Float64Array;
  /** From its first point to each of its points, evenly spread: `points` places a guide, xyz. */
  shape: Float64Array;
  length: Float64Array;
  /** The guides themselves, root first. */
  curves: CurveSet;
}

/** A guide whose root is further from the skin than this share of its own length was hardly meant for it. */
const OFF = 0.5;

/**
 * Lines as guides on a skin: each with its root where its nearer end comes to the skin, and as many places as a strand has.
 * @param points of a strand
 */
export function guidesOn(
  surface: Surface,
  skin: Skin,
  lines: CurveSet,
  points: number,
  report: (finding: Finding) => void,
): Guides {
  const count = curveCount(lines);
  // a ring is a guide from where it begins to its last point
  const open = lines.closed.some(Boolean) ? { ...lines, closed: new Uint8Array(count), curveData: {} } : lines;
  const curves = resample(open, { steps: points - 1 });
  const roots: GuideRoot[] = [];
  const normal = new Float64Array(3 * count);
  const length = new Float64Array(count);
  const shape = new Float64Array(3 * points * count);
  const [near, far] = [createHit(), createHit()];
  const place = new Float64Array(6);
  for (let g = 0; g < count; g++) {
    const [first, end] = [3 * curves.start[g], 3 * curves.start[g + 1]];
    const line = curves.position.subarray(first, end);
    const last = line.length - 3;
    surface.closest(line[0], line[1], line[2], near);
    surface.closest(line[last], line[last + 1], line[last + 2], far);
    // drawn from its tip to its root: turned round
    if (far.distance < near.distance) turnRound(line);
    const hit = far.distance < near.distance ? far : near;
    placeOnSkin(skin, hit.triangle, hit.barycentric[1], hit.barycentric[2], place);
    // it is where its own first point is: strands beside it may be mixed from it without a step
    roots.push({ triangle: hit.triangle, at: place.slice(0, 3) });
    normal.set(place.subarray(3), 3 * g);
    for (let k = 0; k < points; k++) {
      const i = 3 * k;
      for (let n = 0; n < 3; n++) shape[3 * points * g + i + n] = line[i + n] - line[n];
      if (k > 0) length[g] += Math.hypot(line[i] - line[i - 3], line[i + 1] - line[i - 2], line[i + 2] - line[i - 1]);
    }
    if (hit.distance > OFF * length[g])
      report({
        code: 'guide-off',
        severity: 'warning',
        message:
          'A guide starts {value} off the skin (limit {limit}): its strands grow from the closest point. Move its first point onto the skin, or remove it from the list.',
        place: [line[0], line[1], line[2]],
        size: { value: hit.distance, limit: OFF * length[g], kind: 'length' },
      });
  }
  return { roots, normal, shape, length, curves };
}

function turnRound(line: Float64Array): void {
  for (let i = 0, j = line.length - 3; i < j; i += 3, j -= 3)
    for (let n = 0; n < 3; n++) [line[i + n], line[j + n]] = [line[j + n], line[i + n]];
}
