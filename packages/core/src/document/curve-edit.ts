import { catmullRom } from '../curve/catmull-rom.js';
import { type CurveSet, curveCount, POINT } from '../curve/curve-set.js';
import { resample } from '../curve/resample.js';
import { Walk } from '../curve/walk.js';
import { controlPoints } from '../evaluate/resolve.js';
import { add, subtract, turn, vec3 } from '../numeric/vector.js';
import { anchorOf, heightOf } from '../surface/anchor.js';
import { createHit } from '../surface/surface.js';
import type { Surroundings } from '../surface/surroundings.js';
import type { DrawnCurve, DrawnPoint } from './document.js';

/**
 * Work on many points at once. All of it is pure and takes the props, because held points stand where their prop is.
 * `chosen` are point numbers; `stretchOf` turns them into the stretch from the first to the last.
 */
type Place = [number, number, number];

const placesOf = (curve: DrawnCurve, surroundings: Surroundings): Place[] => {
  const { position } = controlPoints(curve, surroundings);
  return curve.points.map((_, i) => [position[3 * i], position[3 * i + 1], position[3 * i + 2]]);
};

const hit = /* @__PURE__ */ createHit();

/** The point somewhere else. A held one is laid on its prop again at the same height; a free one goes just there. */
export function movedPoint(point: DrawnPoint, [x, y, z]: Place, surroundings: Surroundings): DrawnPoint {
  const { anchor, ...free } = point;
  const surface = anchor && surroundings.surface(anchor.prop);
  if (!surface || !surroundings.closest(x, y, z, hit, Infinity, anchor.prop)) return { ...free, position: [x, y, z] };
  const height = heightOf(anchor, surface);
  const place = [0, 1, 2].map((n) => hit.point[n] + height * hit.normal[n]) as Place;
  return { ...point, position: place, anchor: { ...anchor, ...anchorOf(anchor.prop, hit, anchor.height) } };
}

const withPlaces = (
  curve: DrawnCurve,
  surroundings: Surroundings,
  places: readonly (Place | undefined)[],
): DrawnCurve => ({
  ...curve,
  points: curve.points.map((point, i) => {
    const place = places[i];
    return place ? movedPoint(point, place, surroundings) : point;
  }),
});

/** First and last chosen point; the whole curve when fewer than two are chosen. */
export function stretchOf(curve: DrawnCurve, chosen: readonly number[]): [number, number] {
  const inside = chosen.filter((i) => i >= 0 && i < curve.points.length);
  return inside.length < 2 ? [0, curve.points.length - 1] : [Math.min(...inside), Math.max(...inside)];
}

/** Takes the zigzag out of a stretch: each inner point goes halfway to the middle of its neighbours, three times. */
export function smoothStretch(curve: DrawnCurve, chosen: readonly number[], surroundings: Surroundings): DrawnCurve {
  const [from, to] = stretchOf(curve, chosen);
  let places = placesOf(curve, surroundings);
  for (let pass = 0; pass < 3; pass++)
    places = places.map((place, i) =>
      i <= from || i >= to
        ? place
        : (place.map((value, n) => value / 2 + (places[i - 1][n] + places[i + 1][n]) / 4) as Place),
    );
  const moved = withPlaces(
    curve,
    surroundings,
    places.map((place, i) => (i > from && i < to ? place : undefined)),
  );
  return {
    ...moved,
    points: moved.points.map((point, i) => (i > from && i < to ? { ...point, corner: false } : point)),
  };
}

/** Puts the inner points of a stretch on the straight line between its ends, each at its old share of the way. */
export function straighten(curve: DrawnCurve, chosen: readonly number[], surroundings: Surroundings): DrawnCurve {
  const [from, to] = stretchOf(curve, chosen);
  const places = placesOf(curve, surroundings);
  const walked = [0];
  for (let i = from + 1; i <= to; i++)
    walked.push(walked[walked.length - 1] + Math.hypot(...places[i].map((value, n) => value - places[i - 1][n])));
  const total = walked[walked.length - 1] || 1;
  return withPlaces(
    curve,
    surroundings,
    places.map((_, i) => {
      if (i <= from || i >= to) return undefined;
      const t = walked[i - from] / total;
      return places[from].map((value, n) => value + t * (places[to][n] - value)) as Place;
    }),
  );
}

/** Spaces the inner points of a stretch evenly along the curve as it runs. */
export function evenOut(curve: DrawnCurve, chosen: readonly number[], surroundings: Surroundings): DrawnCurve {
  const [from, to] = stretchOf(curve, chosen);
  const fine = fineCurve(curve, surroundings);
  if (!fine || to - from < 2) return curve;
  const along = fine.pointData[POINT.along];
  const source = fine.pointData[POINT.source];
  const lengthAt = (point: number) => along[source.indexOf(point)] ?? 0;
  const [begin, end] = [lengthAt(from), lengthAt(to)];
  const walk = new Walk(fine, 0, { along, length: along[along.length - 1] || 1 });
  return withPlaces(
    curve,
    surroundings,
    curve.points.map((_, i) => {
      if (i <= from || i >= to) return undefined;
      return walk.pointAt(begin + ((end - begin) * (i - from)) / (to - from), [0, 0, 0]);
    }),
  );
}

function fineCurve(curve: DrawnCurve, surroundings: Surroundings): CurveSet | undefined {
  const set = catmullRom({ ...controlPoints(curve, surroundings), closed: false });
  return curveCount(set) > 0 ? resample(set, { keepKnots: true, maxTurn: 0.1 }) : undefined;
}

/** Moves points by the same way; held ones are laid on their prop again. */
export const shiftPoints = (
  curve: DrawnCurve,
  chosen: readonly number[],
  by: Place,
  surroundings: Surroundings,
): DrawnCurve => {
  const picked = new Set(chosen);
  const places = placesOf(curve, surroundings);
  return withPlaces(
    curve,
    surroundings,
    places.map((place, i) => (picked.has(i) ? (place.map((value, n) => value + by[n]) as Place) : undefined)),
  );
};

/** Points the other way round; their roll is counted about the way the curve runs. */
const reversedPoints = (points: readonly DrawnPoint[]): DrawnPoint[] =>
  points.map((point) => (point.roll ? { ...point, roll: -point.roll } : point)).reverse();

/** The other way round. */
export const reversedCurve = (curve: DrawnCurve): DrawnCurve => ({ ...curve, points: reversedPoints(curve.points) });

/** Cut at an inner point, which both halves keep; a closed curve is opened there instead. */
export function splitCurve(curve: DrawnCurve, at: number, newId: string, newName: string): DrawnCurve[] {
  if (curve.closed)
    return [{ ...curve, closed: false, points: [...curve.points.slice(at), ...curve.points.slice(0, at + 1)] }];
  if (at <= 0 || at >= curve.points.length - 1) return [curve];
  return [
    { ...curve, points: curve.points.slice(0, at + 1) },
    { ...curve, id: newId, name: newName, points: curve.points.slice(at) },
  ];
}

/** Two open curves as one, over the two ends that are nearest; ends in one place become one point. */
export function joinedCurve(a: DrawnCurve, b: DrawnCurve, surroundings: Surroundings): DrawnCurve {
  const [pa, pb] = [placesOf(a, surroundings), placesOf(b, surroundings)];
  const gap = (p: Place, q: Place) => Math.hypot(...p.map((value, n) => value - q[n]));
  const ways = [
    { gap: gap(pa[pa.length - 1], pb[0]), points: [a.points, b.points] },
    { gap: gap(pa[pa.length - 1], pb[pb.length - 1]), points: [a.points, reversedPoints(b.points)] },
    { gap: gap(pa[0], pb[pb.length - 1]), points: [b.points, a.points] },
    { gap: gap(pa[0], pb[0]), points: [reversedPoints(a.points), b.points] },
  ].sort((x, y) => x.gap - y.gap);
  const [first, second] = ways[0].points;
  return { ...a, points: [...first, ...second.slice(ways[0].gap < 1e-6 ? 1 : 0)] };
}

/**
 * Turns all that follows a point (or comes before it) about it, rigidly: held points of that part are let go, because a
 * rigid part cannot also stay on its prop.
 * @param axis unit direction
 */
export function turnRest(
  curve: DrawnCurve,
  at: number,
  which: 'after' | 'before',
  axis: Place,
  angle: number,
  surroundings: Surroundings,
): DrawnCurve {
  const places = placesOf(curve, surroundings);
  const centre = places[at];
  return {
    ...curve,
    points: curve.points.map((point, i) => {
      if (which === 'after' ? i <= at : i >= at) return point;
      const from = subtract(vec3(), places[i], centre);
      const { anchor: _held, ...free } = point;
      return { ...free, position: add(from, turn(from, from, axis, angle), centre) };
    }),
  };
}

/** Sets corner, thickness share or roll of the chosen points. */
export const setPoints = (
  curve: DrawnCurve,
  chosen: readonly number[],
  values: Partial<Pick<DrawnPoint, 'corner' | 'radius' | 'roll'>>,
): DrawnCurve => {
  const picked = new Set(chosen);
  return { ...curve, points: curve.points.map((point, i) => (picked.has(i) ? { ...point, ...values } : point)) };
};
