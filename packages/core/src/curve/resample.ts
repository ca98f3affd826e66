import { type Edges, measureEdges } from './arc-length.js';
import { carryCurves, carryPoints, rollStep, roomLike, type Spots } from './carry.js';
import { CURVE, type CurveSet, curveCount, POINT, pointCount } from './curve-set.js';
import { keepRoll } from './keep-roll.js';

export interface ResampleOptions {
  /** Longest step, metres. Default: no limit. */
  spacing?: number;
  /** Greatest turn of the tangent over one step, radians. Default: no limit. */
  maxTurn?: number;
  /** Greatest turn of the section over one step, by the roll of the points, radians. Default: no limit. */
  maxRoll?: number;
  /** How far a straight step may leave the curve, metres. Default: no limit. */
  maxSag?: number;
  /** Exactly so many steps a curve, even in length; the limits are then not looked at. */
  steps?: number;
  /** Put a sample on every drawn point, not only on corners. Default: false. */
  keepKnots?: boolean;
}

/** No curve gets more steps than this, whatever was asked: a typing error must not fill the memory. */
export const MOST_STEPS = 200_000;

/**
 * New samples on the same curves, evenly spread: on a straight stretch as far apart as `spacing` allows, on a bend as
 * close as `maxTurn` demands. Corners always keep a sample. Between two samples the curve is the cubic Hermite through
 * them with their tangents, so that no facet of the old sampling shows in the new one.
 * Writes `along` (true length from the start) on every point and `length` on every curve.
 * @param edges of these curves, where they were measured already
 */
export function resample(curves: CurveSet, options: ResampleOptions = {}, edges = measureEdges(curves)): CurveSet {
  const plan = planSteps(curves, options, edges);
  const total = plan.samples[curveCount(curves)];
  const out = roomLike(curves, curveCount(curves), total);
  out.pointData[POINT.along] = new Float32Array(total);
  out.start.set(plan.samples);
  out.closed.set(curves.closed);
  out.id.set(curves.id);
  out.curveData = carryCurves(curves, Uint32Array.from(curves.id.keys()));
  out.curveData[CURVE.length] = new Float32Array(curveCount(curves));
  const spots: Spots = { a: new Uint32Array(total), b: new Uint32Array(total), t: new Float64Array(total) };
  for (let c = 0; c < curveCount(curves); c++) fillCurve(curves, c, plan, out, spots);
  carryPoints(curves, spots, out);
  if (curves.pointData[POINT.roll]) keepRoll(curves, out, spots);
  return out;
}

/** How many points `resample` would write. */
export const samplesOf = (curves: CurveSet, options: ResampleOptions = {}): number =>
  planSteps(curves, options, measureEdges(curves)).samples[curveCount(curves)];

interface Plan {
  length: Float64Array;
  /** What each edge counts in steps; samples stand at equal cost. */
  cost: Float64Array;
  tangent: Float64Array;
  /** Steps of the run that begins at this point; 0 where no run begins. */
  runSteps: Uint32Array;
  /** Offsets of the new points. */
  samples: Uint32Array;
}

function planSteps(curves: CurveSet, options: ResampleOptions, { length, turn, tangent }: Edges): Plan {
  const { start, closed, pointData } = curves;
  const cost = new Float64Array(pointCount(curves));
  const runSteps = new Uint32Array(pointCount(curves));
  const samples = new Uint32Array(curveCount(curves) + 1);
  const corner = pointData[POINT.corner];
  const knot = options.keepKnots ? pointData[POINT.knot] : undefined;
  const perMetre = options.spacing ? 1 / options.spacing : 0;
  const perRadian = options.maxTurn ? 1 / options.maxTurn : 0;
  const roll = options.maxRoll ? pointData[POINT.roll] : undefined;
  const perRoll = options.maxRoll ? 1 / options.maxRoll : 0;
  // an arc of length l that turns by a leaves its chord by l·a/8
  const perSag = options.maxSag ? 1 / (8 * options.maxSag) : 0;
  const rolled = (p: number, q: number) => (roll ? Math.abs(rollStep(roll, p, q)) : 0);
  for (let c = 0; c < curveCount(curves); c++) {
    const first = start[c];
    const last = start[c + 1] - 1;
    const end = closed[c] ? last : last - 1;
    let total = 0;
    for (let p = first; p <= end; p++) total += length[p];
    let run = first;
    let runCost = 0;
    let steps = 0;
    for (let p = first; p <= end; p++) {
      cost[p] = options.steps
        ? (length[p] / (total || 1)) * options.steps
        : Math.max(
            length[p] * perMetre,
            turn[p] * perRadian,
            rolled(p, p === last ? first : p + 1) * perRoll,
            Math.sqrt(length[p] * turn[p] * perSag),
            1e-12,
          );
      runCost += cost[p];
      const breaks = p === end || corner?.[p + 1] || knot?.[p + 1];
      if (!breaks) continue;
      const least = closed[c] && run === first && p === end ? 3 : 1;
      const wanted = Math.max(least, Math.ceil(runCost - 1e-6));
      runSteps[run] = Math.min(wanted, Math.max(1, MOST_STEPS - steps));
      steps += runSteps[run];
      run = p + 1;
      runCost = 0;
    }
    samples[c + 1] = samples[c] + steps + (closed[c] ? 0 : 1);
  }
  return { length, cost, tangent, runSteps, samples };
}

function fillCurve(curves: CurveSet, c: number, plan: Plan, out: CurveSet, spots: Spots): void {
  const { start, closed } = curves;
  const { length, cost, runSteps, tangent } = plan;
  const { position: from } = curves;
  const { position } = out;
  const corner = curves.pointData[POINT.corner];
  const first = start[c];
  const last = start[c + 1] - 1;
  const end = closed[c] ? last : last - 1;
  const along = out.pointData[POINT.along];
  let to = out.start[c];
  let runStart = first;
  let base = 0;
  while (runStart <= end) {
    const steps = runSteps[runStart];
    let runEnd = runStart;
    let runCost = 0;
    do {
      runCost += cost[runEnd];
      runEnd++;
    } while (runEnd <= end && runSteps[runEnd] === 0);
    let p = runStart;
    let reached = 0;
    for (let k = 0; k < steps; k++) {
      const target = (runCost * k) / steps;
      while (p < runEnd - 1 && reached + cost[p] <= target) {
        reached += cost[p];
        base += length[p];
        p++;
      }
      const t = k === 0 ? 0 : Math.min(1, (target - reached) / cost[p]);
      const q = p === last ? first : p + 1;
      if (corner && (corner[p] || corner[q])) pointAtCorner(curves, plan, p, q, t, out.position, 3 * to);
      else {
        // cubic Hermite: the weights of both places and both tangents
        const t2 = t * t;
        const t3 = t2 * t;
        const b = 3 * t2 - 2 * t3;
        const a = 1 - b;
        const u = (t3 - 2 * t2 + t) * length[p];
        const v = (t3 - t2) * length[p];
        const i = 3 * p;
        const j = 3 * q;
        const o = 3 * to;
        position[o] = a * from[i] + u * tangent[i] + b * from[j] + v * tangent[j];
        position[o + 1] = a * from[i + 1] + u * tangent[i + 1] + b * from[j + 1] + v * tangent[j + 1];
        position[o + 2] = a * from[i + 2] + u * tangent[i + 2] + b * from[j + 2] + v * tangent[j + 2];
      }
      along[to] = base + t * length[p];
      spots.a[to] = p;
      spots.b[to] = q;
      spots.t[to] = t;
      to++;
    }
    while (p < runEnd) base += length[p++];
    runStart = runEnd;
  }
  if (!closed[c]) {
    for (let n = 0; n < 3; n++) position[3 * to + n] = from[3 * last + n];
    along[to] = base;
    spots.a[to] = last;
    spots.b[to] = last;
  }
  out.curveData[CURVE.length][c] = base;
}

/** The cubic where an end of the edge is a corner and its tangent means nothing: straight between two of them. */
function pointAtCorner(
  { position, pointData }: CurveSet,
  { tangent, length }: Plan,
  p: number,
  q: number,
  t: number,
  out: Float64Array,
  at: number,
): void {
  const corner = pointData[POINT.corner];
  const sharpP = corner?.[p] === 1;
  const sharpQ = corner?.[q] === 1;
  const t2 = t * t;
  const t3 = t2 * t;
  const h = length[p];
  for (let axis = 0; axis < 3; axis++) {
    const a = position[3 * p + axis];
    const b = position[3 * q + axis];
    let ta = tangent[3 * p + axis] * h;
    let tb = tangent[3 * q + axis] * h;
    if (sharpP) ta = sharpQ ? b - a : 1.5 * (b - a) - 0.5 * tb;
    if (sharpQ) tb = sharpP ? b - a : 1.5 * (b - a) - 0.5 * ta;
    out[at + axis] = (2 * t3 - 3 * t2 + 1) * a + (t3 - 2 * t2 + t) * ta + (3 * t2 - 2 * t3) * b + (t3 - t2) * tb;
  }
}
