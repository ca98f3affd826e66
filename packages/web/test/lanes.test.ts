import { newPiece, newShape, type Piece, withParameter } from '@kelp/core';
import { expect, it } from 'vitest';
import { lanesOf } from '../src/strip/lanes.js';

it('the strip holds every lane of a piece that has an effect, each distinguished and at its place', () => {
  const piece: Piece = {
    ...newPiece('a', 'A', [], false),
    shape: [
      newShape('wobble'),
      newShape('smooth'),
      newShape('wobble', { by: 'length' }),
      { ...newShape('offset'), enabled: false },
    ],
  };
  const lanes = lanesOf(piece);
  expect(lanes.map(({ label }) => label)).toEqual([
    'Radius',
    'Roll',
    'Twist',
    'Wobble: noise amount',
    'Wobble: noise amount',
  ]);
  expect(new Set(lanes.map(({ key }) => key)).size).toBe(lanes.length);
  expect(lanes.map(({ name }) => name).slice(3)).toEqual(['strength', 'amount']);
  for (const { place, name, value } of lanes) {
    const changed = withParameter(piece, place, name, 0.5);
    expect(lanesOf(changed).filter((lane, i) => lane.value !== lanes[i].value)).toHaveLength(value === 0.5 ? 0 : 1);
  }
});
