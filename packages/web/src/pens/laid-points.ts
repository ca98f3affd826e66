import {
  type CurveSet,
  catmullRom,
  controlPoints,
  type DrawnPoint,
  distance,
  mix,
  POINT,
  resample,
  type Surroundings,
  type Vec3,
  vec3,
} from '@kelp/core';
import { fitLaid } from './fit-laid.js';
import { held, laidStroke, type PenSettings, type StrokePlace } from './laid-stroke.js';

/** A clicked place is seen where what is under it on the page lies within this many radii. */
const SEEN = 4;
/** Where what is laid lies no further off the line through the clicked points than this many radii, that line is kept. */
const NEAR = 2;

/** Where a laid line closes it goes over into itself, within such a part of the whole turn to either side. */
const SEAM = 0.15;

/**
 * A line through clicked points, laid over what is seen between them as a stroke through them would be. The points as
 * they are where the plain line through them runs as well, where all are in the air, and where some are hidden from here:
 * nothing is known of what is between.
 * @param onPage where a place of the world is on the page, pixels
 */
export function laidPoints(
  points: readonly DrawnPoint[],
  closed: boolean,
  hand: PenSettings & { onPage(place: ArrayLike<number>): readonly [number, number] | undefined },
  surroundings: Surroundings,
  tolerance: number,
): readonly DrawnPoint[] {
  const seen = points.every(({ position }, i) => {
    const at = hand.onPage(position);
    const under = at && hand.under(...at);
    if (!under) return false;
    if (distance(under.position, position) < SEEN * hand.radius) return true;
    // an end may have snapped to something in the air, in front of what is seen
    const isEnd = !closed && (i === 0 || i === points.length - 1);
    return isEnd && distance(hand.eye, position) < distance(hand.eye, under.position);
  });
  if (!seen || !points.some(({ anchor }) => anchor)) return points;
  const plain = resample(catmullRom(controlPoints({ id: '', name: '', closed, points: [...points] }, surroundings)), {
    spacing: hand.radius,
  });
  const stroke: StrokePlace[] = [];
  for (let p = 0; p < plain.position.length / 3; p++) {
    const at = hand.onPage(plain.position.subarray(3 * p, 3 * p + 3));
    const point = at && hand.under(...at);
    if (at && point) stroke.push({ at, point: { ...point, radius: plain.pointData[POINT.radius]?.[p] ?? 1 } });
  }
  // the line goes where its ends were clicked
  for (const [place, end] of closed
    ? []
    : ([
        [0, 0],
        [stroke.length - 1, points.length - 1],
      ] as const))
    if (stroke[place]) stroke[place] = { ...stroke[place], point: points[end] };
  if (!stroke.some(({ point }) => point.anchor)) return points;
  const laid = closed ? laidRound(stroke, hand, surroundings) : laidStroke(stroke, hand, surroundings);
  if (isNear(laid, plain, NEAR * hand.radius)) return points;
  return fitLaid(laid, closed, tolerance, hand.radius, surroundings);
}

/**
 * Once round, and on to both sides by a quarter: what is there twice, once near the beginning and once near the end of what
 * was laid, goes over from the one to the other, so that the line is as smooth where it closes as elsewhere.
 */
function laidRound(stroke: readonly StrokePlace[], hand: PenSettings, surroundings: Surroundings): DrawnPoint[] {
  const over = Math.ceil(stroke.length / 4);
  const twice = [...stroke.slice(-over), ...stroke, ...stroke.slice(0, over)];
  const along = [0];
  for (let i = 1; i < twice.length; i++)
    along.push(along[i - 1] + Math.hypot(...[0, 1].map((k) => twice[i].at[k] - twice[i - 1].at[k])));
  const laid = laidStroke(twice, hand, surroundings);
  // both run at even steps on the page
  const steps = (laid.length - 1) / along[twice.length - 1];
  const from = steps * along[over];
  const turn = steps * (along[over + stroke.length] - along[over]);
  const count = Math.max(3, Math.round(turn));
  const round = Array.from({ length: count }, (_, k): DrawnPoint => {
    const here = from + (turn * k) / count;
    const there = 2 * k < count ? here + turn : here - turn;
    const seam = Math.max(0, 1 - Math.min(k, count - k) / (SEAM * count));
    const share = (seam * seam * (3 - 2 * seam)) / 2;
    const position = mix(vec3(), placeAt(laid, here), placeAt(laid, there), share);
    const { radius } = laid[Math.round(here)];
    return held({ position, corner: false, radius }, surroundings, hand.radius);
  });
  return [...round, round[0]];
}

/** Where a line is this many steps along it. */
function placeAt(line: readonly DrawnPoint[], step: number): Vec3 {
  const i = Math.max(0, Math.min(line.length - 2, Math.floor(step)));
  return mix(vec3(), line[i].position, line[i + 1].position, step - i);
}

function isNear(line: readonly DrawnPoint[], to: CurveSet, within: number): boolean {
  const steps = to.position.length / 3;
  let from = 0;
  return line.every(({ position }) => {
    // both run along each other: what is nearest lies on from where it was
    const at = (p: number) => distance(position, to.position.subarray(3 * (p % steps), 3 * (p % steps) + 3));
    let best = from;
    for (let p = from; p < Math.min(from + 60, 2 * steps); p++) if (at(p) < at(best)) best = p;
    from = best;
    return at(best) <= within;
  });
}
