import { isLane, type Lane, valueAt } from '@kelp/core';
import { expect, it } from 'vitest';
import { asLane, easeKnot, LANE_SHAPES, moveKnot, shapedLane, withKnot, withoutKnot } from '../src/strip/lane-edits.js';

it('a knot put in changes nothing yet; moved, it stays between its neighbours and within the limits', () => {
  const { lane, index } = withKnot(5, 0.4);
  expect(index).toBe(1);
  for (const t of [0, 0.2, 0.4, 0.9]) expect(valueAt(lane, t)).toBeCloseTo(5, 12);
  const second = withKnot(lane, 0.6);
  expect(second.lane.knots.map((knot) => knot.at)).toEqual([0, 0.4, 0.6, 1]);
  const moved = moveKnot(second.lane, 1, 0.9, 99, [0, 10]);
  expect(moved.knots[1]).toEqual({ at: 0.6, value: 10 });
});

it('knots come out one by one until a plain number is left', () => {
  let value = withKnot(5, 0.4).lane as Lane | number;
  for (let left = 3; left > 0; left--) {
    expect(asLane(value).knots).toHaveLength(left);
    value = withoutKnot(value as Lane, 0) as Lane | number;
  }
  expect(value).toBe(5);
});

it('ready-made courses run between the two values', () => {
  for (const shape of LANE_SHAPES) {
    const course = shapedLane(shape, 4, 1);
    const values = isLane(course) ? course.knots.map((knot) => knot.value) : [course];
    expect(Math.max(...values)).toBe(4);
    expect(Math.min(...values)).toBe(shape === 'Flat' ? 4 : 1);
  }
});

it('a knot eased alone leaves the others as they ran; eased all alike, the lane says it once', () => {
  const lane = shapedLane('Both ends', 4, 1) as Lane;
  const one = easeKnot(lane, 0, 'straight');
  expect(valueAt(one, 0.125)).toBeCloseTo((4 + (4 + 1) / 2) / 2, 12);
  for (const t of [0.6, 0.7, 0.9]) expect(valueAt(one, t)).toBe(valueAt(lane, t));
  expect(easeKnot(one, 1, 'straight')).toEqual({ ...lane, ease: 'straight' });
  expect(easeKnot(one, 0, 'smooth')).toEqual(lane);
});
