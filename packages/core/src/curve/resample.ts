import { type Edges, measureEdges } from './arc-length.js';
import { carriedNames, carryPoints, copiedCurveData, rollStep, roomLike, type Spots } from './carry.js';
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
  /** Exactly this many steps a curve, even in length; the limits are then not looked at. */
  steps?: number;
  /** Put a sample on every drawn point, not only on corners. Default: false. */
  keepKnots?: boolean;
}

/** No curve gets more steps than this, whatever was asked: a typing error must not fill the memory. */
export const MAX_STEPS = 200_000;

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
  out.curveData = copiedCurveData(curves);
  out.curveData[CURVE.length] = new Float32Array(curveCount(curves));
  // where each point comes from is asked for only by what the points carry
  const carries = carriedNames(out).length > 0 ? total : 0;
  const spots: Spots = { a: new Uint32Array(carries), b: new Uint32Array(carries), t: new Float64Array(carries) };
  fillCurves(curves, plan, out, spots);
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
  for (let c = 0; c < curveCount(curves); c++) {
    const first = start[c];
    const last = start[c + 1] - 1;
    const end = closed[c] ? last : last - 1;
    let total = 0;
    if (options.steps) for (let p = first; p <= end; p++) total += length[p];
    let run = first;
    let runCost = 0;
    let steps = 0;
    for (let p = first; p <= end; p++) {
      let wanted = Math.max(length[p] * perMetre, turn[p] * perRadian, 1e-12);
      if (roll) wanted = Math.max(wanted, Math.abs(rollStep(roll, p, p === last ? first : p + 1)) * perRoll);
      if (perSag > 0) wanted = Math.max(wanted, Math.sqrt(length[p] * turn[p] * perSag));
      cost[p] = options.steps ? (length[p] / (total || 1)) * options.steps : wanted;
      runCost += cost[p];
      const breaks = p === end || corner?.[p + 1] || knot?.[p + 1];
      if (!breaks) continue;
      const least = closed[c] && run === first && p === end ? 3 : 1;
      const asked = Math.max(least, Math.ceil(runCost - 1e-6));
      runSteps[run] = Math.min(asked, Math.max(1, MAX_STEPS - steps));
      steps += runSteps[run];
      run = p + 1;
      runCost = 0;
    }
    samples[c + 1] = samples[c] + steps + (closed[c] ? 0 : 1);
  }
  return { length, cost, tangent, runSteps, samples };
}

/** Places and lengths of all samples, and where each comes from if anybody asks. */
function fillCurves(curves: CurveSet, plan: Plan, out: CurveSet, spots: Spots): void {
  const { start, closed, position: from } = curves;
  const { length, cost, runSteps, tangent } = plan;
  const { position } = out;
  const corner = curves.pointData[POINT.corner];
  const along = out.pointData[POINT.along];
  const lengths = out.curveData[CURVE.length];
  const placed = spots.t.length > 0;
  let to = 0;
  for (let c = 0; c < closed.length; c++) {
    const first = start[c];
    const last = start[c + 1] - 1;
    const end = closed[c] ? last : last - 1;
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
      const step = runCost / steps;
      let k = 0;
      let reached = 0;
      for (let p = runStart; p < runEnd; p++) {
        const q = p === last ? first : p + 1;
        const h = length[p];
        const share = cost[p];
        const perCost = 1 / share;
        // every sample of the run stands on one of its edges: on the last whatever rounding left over
        const upTo = p === runEnd - 1 ? Infinity : reached + share;
        const isCorner = corner !== undefined && (corner[p] === 1 || corner[q] === 1);
        const i = 3 * p;
        const j = 3 * q;
        const ax = from[i];
        const ay = from[i + 1];
        const az = from[i + 2];
        const bx = from[j];
        const by = from[j + 1];
        const bz = from[j + 2];
        const ux = h * tangent[i];
        const uy = h * tangent[i + 1];
        const uz = h * tangent[i + 2];
        const vx = h * tangent[j];
        const vy = h * tangent[j + 1];
        const vz = h * tangent[j + 2];
        for (; k < steps; k++) {
          const target = k * step;
          if (target >= upTo) break;
          const t = Math.min(1, (target - reached) * perCost);
          if (isCorner) pointAtCorner(curves, plan, p, q, t, position, 3 * to);
          else {
            // cubic Hermite: the weights of both places and both tangents
            const t2 = t * t;
            const t3 = t2 * t;
            const b = 3 * t2 - 2 * t3;
            const a = 1 - b;
            const u = t3 - 2 * t2 + t;
            const v = t3 - t2;
            const o = 3 * to;
            position[o] = a * ax + u * ux + b * bx + v * vx;
            position[o + 1] = a * ay + u * uy + b * by + v * vy;
            position[o + 2] = a * az + u * uz + b * bz + v * vz;
          }
          along[to] = base + t * h;
          if (placed) {
            spots.a[to] = p;
            spots.b[to] = q;
            spots.t[to] = t;
          }
          to++;
        }
        reached += share;
        base += h;
      }
      runStart = runEnd;
    }
    if (!closed[c]) {
      for (let n = 0; n < 3; n++) position[3 * to + n] = from[3 * last + n];
      along[to] = base;
      if (placed) spots.a[to] = spots.b[to] = last;
      to++;
    }
    lengths[c] = base;
  }
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
