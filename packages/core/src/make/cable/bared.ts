import { curveLengths } from '../../curve/arc-length.js';
import { type CurveSet, curveCount, POINT } from '../../curve/curve-set.js';
import { rotationMinimizingFrames } from '../../curve/frames.js';
import { resample } from '../../curve/resample.js';
import { Walk } from '../../curve/walk.js';
import { childId } from '../../numeric/random.js';
import { addScaled, cross, type Vec3, vec3 } from '../../numeric/vector.js';
import { filledBy } from '../laid/packing.js';
import { type Limb, type Limbs, limbsOf } from '../limbs.js';
import type { Cable } from './course.js';

/** Cores lie in this much of a jacket. */
const INSIDE = 0.8;
/** They begin this many radii within it. */
const WITHIN = 1.5;
const STEPS = 14;
/** Metal is this much of a core's thickness. */
const METAL = 0.6;

/** What a jacket is cut back to, and what comes out of it. */
export interface Bared {
  jackets: CurveSet;
  cores: Limbs;
  tips: Limbs;
}

/**
 * Cuts jackets back at their ends: cores come out, spread a little, each with a tip of bare metal that ends where the line
 * did.
 * @param size radius of one cable, metres
 */
export function baredEnds(lines: CurveSet, p: Cable, size: number): Bared {
  const sides = [p.bared === 'start' || p.bared === 'both', p.bared === 'end' || p.bared === 'both'];
  const back = p.coreLength * size;
  const even = resample(lines, { maxTurn: 0.1, spacing: back / 2 });
  const lengths = curveLengths(even);
  const frames = rotationMinimizingFrames(even);
  const { x, y, radius } = filledBy(p.cores);
  const [thick, tip] = [INSIDE * size * radius, p.tips * size];
  const cores: Limb[] = [];
  const tips: Limb[] = [];
  for (let c = 0; c < curveCount(even); c++) {
    if (even.closed[c]) continue;
    const cut = Math.min(back, 0.4 * lengths[c]);
    const walk = new Walk(even, c, { along: even.pointData[POINT.along], length: lengths[c] });
    sides.forEach((bared, side) => {
      if (!bared) return;
      // from the end inwards
      const at = (far: number) => (side === 0 ? far : lengths[c] - far);
      for (let k = 0; k < p.cores; k++) {
        const points: Vec3[] = [];
        for (let s = 0; s <= STEPS; s++) {
          const far = (cut + WITHIN * size) * (1 - s / STEPS);
          const out = Math.max(0, 1 - far / cut);
          points.push(
            beside(walk, even, frames, at(far), [x[k], y[k]], INSIDE * size * (1 + p.coreSpread * out * out)),
          );
        }
        const id = childId(childId(even.id[c], 40 + side), k);
        const bare = tip > 0 ? Math.max(1, Math.round((STEPS * Math.min(tip, 0.6 * cut)) / (cut + WITHIN * size))) : 0;
        const shown = points.slice(0, points.length - bare);
        cores.push({ id, points: shown, radius: shown.map(() => thick) });
        const metal = points.slice(points.length - bare - 2);
        if (bare > 0) tips.push({ id, points: metal, radius: metal.map(() => METAL * thick) });
      }
    });
  }
  return {
    jackets: cutBack(
      even,
      sides.map((bared) => (bared ? back : 0)),
    ),
    cores: limbsOf(cores),
    tips: limbsOf(tips),
  };
}

/** A place beside a line, in radii of its frame there. */
function beside(
  walk: Walk,
  { position }: CurveSet,
  { tangent, normal }: { tangent: Float64Array; normal: Float64Array },
  at: number,
  [x, y]: [number, number],
  size: number,
): Vec3 {
  const { a, b, t } = walk.spot(at);
  const of = (data: Float64Array): Vec3 =>
    [0, 1, 2].map((n) => data[3 * a + n] * (1 - t) + data[3 * b + n] * t) as Vec3;
  const up = of(normal);
  const out = addScaled(vec3(), of(position), up, x * size);
  return addScaled(out, out, cross(vec3(), of(tangent), up), y * size);
}

/** Lines without this many metres at their start and end, at most 40 % of each. */
function cutBack(lines: CurveSet, [atStart, atEnd]: readonly number[]): CurveSet {
  const along = lines.pointData[POINT.along];
  const lengths = curveLengths(lines);
  const position: number[] = [];
  const source: number[] = [];
  const start = [0];
  for (let c = 0; c < curveCount(lines); c++) {
    const most = 0.4 * lengths[c];
    const [from, to] = lines.closed[c] ? [0, Infinity] : [Math.min(atStart, most), lengths[c] - Math.min(atEnd, most)];
    const walk = new Walk(lines, c, { along, length: lengths[c] });
    const push = (at: number, point: number) => {
      position.push(...walk.pointAt(at, vec3()));
      source.push(point);
    };
    if (from > 0) push(from, walk.spot(from).a);
    for (let q = lines.start[c]; q < lines.start[c + 1]; q++)
      if ((from === 0 || along[q] > from * 1.0001) && (atEnd === 0 || along[q] < to * 0.9999)) push(along[q], q);
    if (atEnd > 0 && !lines.closed[c]) push(to, walk.spot(to).b);
    start.push(position.length / 3);
  }
  const pointData = Object.fromEntries(
    Object.entries(lines.pointData)
      .filter(([name]) => name !== POINT.along)
      .map(([name, data]) => {
        const wide = data.length / Math.max(1, along.length);
        return [name, Float32Array.from(source.flatMap((q) => [...data.subarray(wide * q, wide * q + wide)]))];
      }),
  );
  return { ...lines, start: Uint32Array.from(start), position: Float64Array.from(position), pointData, curveData: {} };
}
