import { curveLengths } from '../../curve/arc-length.js';
import { copiedCurveData, pickCurves } from '../../curve/carry.js';
import { type CurveSet, curveCount, POINT } from '../../curve/curve-set.js';
import { resample } from '../../curve/resample.js';
import { valueAt } from '../../numeric/lane.js';
import { hashText, randomAt } from '../../numeric/random.js';
import { addScaled, distance, normalize, pointOf, subtract, type Vec3, vec3 } from '../../numeric/vector.js';
import { createHit } from '../../surface/surface.js';
import type { Surroundings } from '../../surface/surroundings.js';
import type { ValuesOf } from '../../unit/parameters.js';
import { type Limb, type Limbs, limbsOf } from '../limbs.js';
import type { TENDRILS } from './parameters.js';
import { Stray } from './stray.js';

export type Tendrils = ValuesOf<typeof TENDRILS>;

/** Rings stand no further apart than this many radii, and this many a wave. */
const STEP = 4;
const STEPS_A_WAVE = 6;
const TURN = 0.2;

const LEFT = hashText('left out');

/** The lines that are not left out. */
export function keptLines(input: CurveSet, { leftOut, seed }: Tendrils): CurveSet {
  if (leftOut === 0) return input;
  const kept: number[] = [];
  for (let c = 0; c < curveCount(input); c++) if (randomAt(seed, input.id[c], LEFT) >= leftOut) kept.push(c);
  return pickCurves(input, kept);
}

/** Rings of all strands of one piece together, about, at most. */
const MAX_RINGS = 1_500_000;

/** How the rings of strands are on their lines. */
export const strandCuts = (lines: CurveSet, p: Tendrils, size: number, density: number) => ({
  spacing: Math.max(
    curveLengths(lines).reduce((sum, one) => sum + one, 0) / MAX_RINGS,
    Math.min(STEP * size, p.noise > 0 || p.lumps > 0 ? (p.wave * size) / STEPS_A_WAVE : Infinity) / density,
  ),
  maxTurn: TURN / density,
});

/**
 * The main strands: thickest at their roots, thinning as |2t − 1| to a power, straying and lumpy between. Their ends stay
 * where they are fastened.
 * @param size their thickness, metres, that everything else goes by
 */
export function growStrands(lines: CurveSet, p: Tendrils, size: number, density: number): Limbs {
  const rails = resample(lines, strandCuts(lines, p, size, density));
  const lengths = curveLengths(rails);
  const along = rails.pointData[POINT.along];
  const drawn = rails.pointData[POINT.radius];
  const stray = new Stray({ amount: p.noise * size, wave: p.wave * size, lumps: p.lumps, seed: p.seed });
  const all: Limb[] = [];
  for (let c = 0; c < curveCount(rails); c++) {
    const closed = rails.closed[c] === 1;
    const length = lengths[c] || 1;
    stray.onLine(rails.id[c], length, closed);
    const points: Vec3[] = [];
    const radius: number[] = [];
    for (let q = rails.start[c]; q < rails.start[c + 1]; q++) {
      const t = along[q] / length;
      const off = closed ? 1 : Math.min(1, (2 * Math.min(along[q], length - along[q])) / (p.wave * size));
      const free = off * off * (3 - 2 * off);
      const at = pointOf(rails.position, q);
      stray.move(at, along[q], free);
      points.push(at);
      const thick = closed ? 1 : 1 + (p.root - 1) * Math.abs(2 * t - 1) ** p.thinning;
      radius.push(valueAt(p.radius, t) * thick * stray.lump(along[q], free) * (drawn?.[q] ?? 1));
    }
    all.push({ id: rails.id[c], points, radius, closed });
  }
  const grown = limbsOf(all);
  // what a strand connects goes with it: it can be picked by that
  Object.assign(grown.curves.curveData, copiedCurveData(rails));
  return grown;
}

/** This many root thicknesses before its end a strand begins to turn into what it grows from; and in this many steps. */
const TURNS_IN = 1.3;
const STEPS_IN = 5;
/** A body is looked for this many root thicknesses round an end. */
const LOOKS = 3;

/** The same strands, their roots led on into what they grow from, square to it: so a root shows no end. */
export function sunkRoots({ curves, radius }: Limbs, sunk: number, surroundings: Surroundings): Limbs {
  const all: Limb[] = [];
  for (let c = 0; c < curveCount(curves); c++) {
    const [first, end] = [curves.start[c], curves.start[c + 1]];
    let points = Array.from({ length: end - first }, (_, k) => pointOf(curves.position, first + k));
    let thick = [...radius.subarray(first, end)];
    const closed = curves.closed[c] === 1;
    // the start, then with all turned round the end
    for (let side = 0; side < 2 && !closed && sunk > 0; side++) {
      [points, thick] = ledIn(points, thick, sunk, surroundings);
      points.reverse();
      thick.reverse();
    }
    all.push({ id: curves.id[c], points, radius: thick, closed });
  }
  return limbsOf(all);
}

function ledIn(points: Vec3[], thick: number[], sunk: number, surroundings: Surroundings): [Vec3[], number[]] {
  const root = thick[0];
  const [x, y, z] = points[0];
  const hit = createHit();
  const body = surroundings.closest(x, y, z, hit, LOOKS * root) !== undefined;
  const into = body
    ? addScaled(vec3(), hit.point, hit.normal, -sunk * root)
    : onward(points[1], points[0], sunk * root);
  let turns = 1;
  while (turns < points.length - 2 && distance(points[0], points[turns]) < TURNS_IN * root) turns++;
  const out: Vec3[] = [];
  const outThick: number[] = [];
  for (let k = 0; k < STEPS_IN; k++) {
    // quadratic Bezier over the place where it is fastened
    const t = k / STEPS_IN;
    const [a, b, c] = [(1 - t) ** 2, 2 * t * (1 - t), t * t];
    out.push([0, 1, 2].map((n) => a * into[n] + b * points[0][n] + c * points[turns][n]) as Vec3);
    outThick.push(root + (thick[turns] - root) * t);
  }
  return [
    [...out, ...points.slice(turns)],
    [...outThick, ...thick.slice(turns)],
  ];
}

/** From one place over another and further by this many metres. */
function onward(from: Vec3, over: Vec3, by: number): Vec3 {
  if (distance(from, over) === 0) return [...over];
  return addScaled(vec3(), over, normalize(vec3(), subtract(vec3(), over, from)), by);
}
