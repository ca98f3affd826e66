import {
  type CurveSet,
  catmullRom,
  controlPoints,
  type DrawnPoint,
  distance,
  POINT,
  resample,
  type Surroundings,
} from '@kelp/core';
import { type Hand, laidStroke, type StrokePlace } from './laid-stroke.js';
import { fitStroke } from './steady.js';

/** A clicked place is seen where what is under it on the page lies within so many radii. */
const SEEN = 4;
/** Where what is laid lies no further off the line through the clicked points than so many radii, that line is kept. */
const NEAR = 2;

/**
 * A line through clicked points, laid over what is seen between them as a stroke through them would be. The points as
 * they are where the plain line through them runs as well, where all are in the air, and where some are hidden from here:
 * nothing is known of what lies between.
 * @param onPage where a place of the world is on the page, pixels
 */
export function laidPoints(
  points: readonly DrawnPoint[],
  closed: boolean,
  hand: Hand & { onPage(place: ArrayLike<number>): readonly [number, number] | undefined },
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
  const laid = closed ? laidRound(stroke, hand, surroundings) : laidStroke(stroke, hand, surroundings);
  if (isNear(laid, plain, NEAR * hand.radius)) return points;
  const fitted = fitStroke(laid, tolerance);
  return closed ? fitted.slice(0, -1) : fitted;
}

/** Once round and on as far as a line is bent by how it began: the seam then lies in the middle of what is laid. */
function laidRound(stroke: readonly StrokePlace[], hand: Hand, surroundings: Surroundings): DrawnPoint[] {
  const round = stroke.length;
  const over = Math.ceil(round / 4);
  const twice = [...stroke.slice(-over), ...stroke, ...stroke.slice(0, over)];
  return oneTurn(laidStroke(twice, hand, surroundings), over / twice.length, (over + round) / twice.length);
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

/** Of a line that goes round and on the part from where it is nearest to its own end. */
function oneTurn(line: readonly DrawnPoint[], from: number, to: number): DrawnPoint[] {
  const first = Math.round(from * (line.length - 1));
  const about = Math.round(to * (line.length - 1));
  let last = about;
  for (let i = Math.max(first + 2, about - 40); i < Math.min(line.length, about + 40); i++)
    if (distance(line[i].position, line[first].position) < distance(line[last].position, line[first].position))
      last = i;
  return [...line.slice(first, last), line[first]];
}
