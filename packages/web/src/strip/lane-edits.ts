import { type AlongValue, isLane, type Lane, type LaneEase, valueAt } from '@kelp/core';

/** Edits of a lane, each giving a new one. A plain number becomes a lane with a knot at each end. */
export const asLane = (value: AlongValue): Lane =>
  isLane(value)
    ? value
    : {
        ease: 'smooth',
        knots: [
          { at: 0, value },
          { at: 1, value },
        ],
      };

/** A knot on the lane as it runs, so that putting one in changes nothing yet. */
export function withKnot(value: AlongValue, at: number): { lane: Lane; index: number } {
  const lane = asLane(value);
  const index = lane.knots.findIndex((knot) => knot.at > at);
  const place = index < 0 ? lane.knots.length : index;
  const knot = { ...lane.knots[place - 1], at, value: valueAt(lane, at) };
  return { lane: { ...lane, knots: lane.knots.toSpliced(place, 0, knot) }, index: place };
}

/** Moves a knot, between its neighbours and within the limits. */
export function moveKnot(
  lane: Lane,
  index: number,
  at: number,
  value: number,
  [min, max]: readonly [number, number],
): Lane {
  const low = lane.knots[index - 1]?.at ?? 0;
  const high = lane.knots[index + 1]?.at ?? 1;
  const knot = {
    ...lane.knots[index],
    at: Math.min(high, Math.max(low, at)),
    value: Math.min(max, Math.max(min, value)),
  };
  return { ...lane, knots: lane.knots.with(index, knot) };
}

/** How the lane runs from a knot to the next; what all knots share is the lane's own ease. */
export function easeKnot(lane: Lane, index: number, ease: LaneEase): Lane {
  const eases = lane.knots.slice(0, -1).map((knot, i) => (i === index ? ease : (knot.ease ?? lane.ease)));
  const shared = eases.every((one) => one === ease) ? ease : lane.ease;
  const knots = lane.knots.map(({ ease: _, ...knot }, i) =>
    i < eases.length && eases[i] !== shared ? { ...knot, ease: eases[i] } : knot,
  );
  return { ...lane, ease: shared, knots };
}

/** Takes a knot out; the last one leaves the plain number it stood for. */
export function withoutKnot(lane: Lane, index: number): AlongValue {
  return lane.knots.length <= 1 ? lane.knots[0].value : { ...lane, knots: lane.knots.toSpliced(index, 1) };
}

export const LANE_SHAPES = ['Flat', 'Spindle', 'Start only', 'Both ends', 'Wave'] as const;
export type LaneShape = (typeof LANE_SHAPES)[number];

/**
 * A ready-made course between two values: `full` where the shape is thickest, `slight` where it is thinnest.
 */
export function shapedLane(shape: LaneShape, full: number, slight: number): AlongValue {
  const lane = (...values: number[]): Lane => ({
    ease: 'smooth',
    knots: values.map((value, i) => ({ at: i / (values.length - 1), value })),
  });
  switch (shape) {
    case 'Flat':
      return full;
    case 'Spindle':
      return lane(slight, full, slight);
    case 'Start only':
      return lane(full, slight);
    case 'Both ends':
      return lane(full, slight, full);
    case 'Wave':
      return lane(full, slight, full, slight, full);
  }
}
