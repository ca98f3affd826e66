import type { Vec3 } from '../numeric/vector.js';
import { carrySpots, copiedCurveData, roomLike, spotsOf } from './carry.js';
import { CORNER_COSINE } from './corners.js';
import { type CurveSet, curveCount, POINT } from './curve-set.js';
import { type Spot, Walk } from './walk.js';

/** How corners are taken: by an arc with a place every this much turn, or in this many even mitres. */
export type CornerManner = { by: 'arc'; step: number } | { by: 'cuts'; cuts: number };

/** A corner that became a bend. Metres and radians. */
export interface Bend {
  curve: number;
  /** Turn of the line. */
  angle: number;
  /** Of the arc; less than was asked where a leg is too short for it. */
  radius: number;
  /** From the corner to where the arc begins: the part of each leg that it takes. */
  takes: number;
  /** Where the corner was. */
  corner: Vec3;
  /** Where the arc begins along the line as it was. */
  at: number;
  /** First and last point of the bend among the new ones. */
  first: number;
  last: number;
}

export interface Rounded {
  curves: CurveSet;
  bends: Bend[];
}

/** Of a leg something stays straight beside its bends, as a share: two arcs never meet in one place. */
const MAX_BEND_SHARE = 0.999;

/** A line that turns back on itself (by more than 175°) has no arc there: its corner stays. */
const BACK = -Math.cos(Math.PI / 36);

/**
 * Corners of lines become true arcs of a radius, or even mitres round such an arc. An arc of radius r through a turn β
 * takes r·tan(β/2) of each leg; where a leg has less, the arc is as large as it allows. Legs that are not straight meet
 * the arc's conic (rational quadratic Bézier of weight cos(β/2), which over straight legs is the circle; Farin, Curves
 * and Surfaces for CAGD).
 */
export function roundCorners(
  curves: CurveSet,
  radius: number,
  manner: CornerManner,
  leastCosine = CORNER_COSINE,
): Rounded {
  const spots: Spot[] = [];
  const places: (Vec3 | undefined)[] = [];
  const sharp: boolean[] = [];
  const bends: Bend[] = [];
  const start = [0];
  for (let c = 0; c < curveCount(curves); c++) {
    const walk = new Walk(curves, c);
    const put = (spot: Spot, place?: Vec3, isSharp?: boolean) => {
      spots.push(spot);
      places.push(place);
      sharp.push(isSharp ?? (spot.t === 0 && curves.pointData[POINT.corner]?.[spot.a] === 1));
    };
    const turned = cornersAlong(curves, c, walk, radius, leastCosine);
    let next = 0;
    for (let p = curves.start[c]; p < curves.start[c + 1]; p++) {
      const s = walk.at[p - curves.start[c]];
      const corner = turned[next];
      // what an arc takes of its legs is gone; of a ring, what the arc over its seam takes of its end too
      const before = turned[next - 1];
      if (before && s < before.s + before.takes) continue;
      if (corner && corner.p !== p && s > corner.s - corner.takes) continue;
      const over = curves.closed[c] === 1 && turned[0]?.p === curves.start[c] ? turned[0] : undefined;
      if (over && corner !== over && s > walk.length - over.takes) continue;
      if (corner?.p !== p) {
        put({ a: p, b: p, t: 0 });
        continue;
      }
      next++;
      if (corner.takes <= 0) {
        put({ a: p, b: p, t: 0 });
        continue;
      }
      const first = spots.length;
      for (const { t, place } of arcPlaces(walk, corner, manner))
        put(walk.spot(corner.s + (2 * t - 1) * corner.takes), place, manner.by === 'cuts');
      const { angle, takes, s: at } = corner;
      const reached = takes / Math.tan(angle / 2);
      bends.push({
        curve: c,
        angle,
        radius: reached,
        takes,
        at: at - takes,
        first,
        last: spots.length - 1,
        corner: corner.place,
      });
    }
    start.push(spots.length);
  }
  const out = roomLike(curves, curveCount(curves), spots.length, [POINT.corner]);
  out.start.set(start);
  out.closed.set(curves.closed);
  out.id.set(curves.id);
  out.curveData = copiedCurveData(curves);
  carrySpots(curves, spotsOf(spots), out);
  places.forEach((place, p) => {
    if (place) out.position.set(place, 3 * p);
    out.pointData[POINT.corner][p] = sharp[p] ? 1 : 0;
  });
  return { curves: out, bends };
}

interface Corner {
  p: number;
  /** Metres from the start. */
  s: number;
  angle: number;
  takes: number;
  place: Vec3;
}

/** The corners of one curve in order, with what their arcs may take of the legs. */
function cornersAlong(
  { start, closed, position, pointData }: CurveSet,
  c: number,
  walk: Walk,
  radius: number,
  leastCosine: number,
) {
  const [first, end] = [start[c], start[c + 1]];
  const count = end - first;
  const marked = pointData[POINT.corner];
  const corners: Corner[] = [];
  for (let p = first; p < end; p++) {
    if (!marked?.[p] || (!closed[c] && (p === first || p === end - 1)) || count < 3) continue;
    const [a, b, d] = [3 * (first + ((p - first + count - 1) % count)), 3 * p, 3 * (first + ((p - first + 1) % count))];
    const u = [0, 1, 2].map((n) => position[b + n] - position[a + n]);
    const v = [0, 1, 2].map((n) => position[d + n] - position[b + n]);
    const sizes = Math.hypot(...u) * Math.hypot(...v);
    const cosine = (u[0] * v[0] + u[1] * v[1] + u[2] * v[2]) / (sizes || 1);
    if (sizes === 0 || cosine > leastCosine || cosine < BACK) continue;
    const angle = Math.acos(Math.max(-1, cosine));
    const place: Vec3 = [position[b], position[b + 1], position[b + 2]];
    corners.push({ p, s: walk.at[p - first], angle, takes: radius * Math.tan(angle / 2), place });
  }
  // a leg between two corners is shared as they ask; one that ends is all its corner's
  const ring = closed[c] === 1;
  const share = corners.map(() => 1);
  const fit = (leg: number, i: number, j: number) => {
    const asked = (i >= 0 ? corners[i].takes : 0) + (j >= 0 ? corners[j].takes : 0);
    const part = asked > MAX_BEND_SHARE * leg ? (MAX_BEND_SHARE * leg) / asked : 1;
    for (const k of [i, j]) if (k >= 0) share[k] = Math.min(share[k], part);
  };
  const last = corners.length - 1;
  for (let i = 0; i < last; i++) fit(corners[i + 1].s - corners[i].s, i, i + 1);
  if (last >= 0 && ring) fit(walk.length - corners[last].s + corners[0].s, last, 0);
  else if (last >= 0) {
    fit(corners[0].s, -1, 0);
    fit(walk.length - corners[last].s, last, -1);
  }
  corners.forEach((corner, i) => {
    corner.takes *= share[i];
  });
  return corners;
}

/** The places of a bend in order, t from 0 where it begins to 1 where it ends. */
function arcPlaces(walk: Walk, { s, angle, takes, place }: Corner, manner: CornerManner) {
  const from = walk.pointAt(s - takes, [0, 0, 0]);
  const to = walk.pointAt(s + takes, [0, 0, 0]);
  const weight = Math.cos(angle / 2);
  /** The conic at a share of the turn: over straight legs the angle grows evenly with it. */
  const conic = (share: number, far = 1): Vec3 => {
    // the parameter at which a circular arc has turned by that share (half-angle substitution)
    const half = angle / 2;
    const t = 0.5 + (0.5 * Math.tan((share - 0.5) * half)) / Math.tan(half / 2);
    const [a, b, d] = [(1 - t) ** 2, 2 * weight * t * (1 - t), t * t];
    const sum = a + b + d;
    return [0, 1, 2].map((n) => {
      const on = (a * from[n] + b * place[n] + d * to[n]) / sum;
      if (far === 1) return on;
      const middle = centreOf(from, to, place, angle);
      return middle[n] + far * (on - middle[n]);
    }) as Vec3;
  };
  if (manner.by === 'cuts')
    return Array.from({ length: manner.cuts }, (_, k) => {
      const share = (2 * k + 1) / (2 * manner.cuts);
      return { t: share, place: conic(share, 1 / Math.cos(angle / (2 * manner.cuts))) };
    });
  const steps = Math.max(1, Math.ceil(angle / manner.step - 1e-6));
  return Array.from({ length: steps + 1 }, (_, k) => ({ t: k / steps, place: conic(k / steps) }));
}

/** Middle of the arc, on the line from the corner through the middle of the chord: 1/sin²(β/2) times as far as that. */
function centreOf(from: Vec3, to: Vec3, corner: Vec3, angle: number): Vec3 {
  const far = 1 / Math.sin(angle / 2) ** 2;
  return [0, 1, 2].map((n) => corner[n] + far * ((from[n] + to[n]) / 2 - corner[n])) as Vec3;
}
