import { greatest, type Lane, mapAlong, type NumberParameter } from '@kelp/core';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { axisOf, panned, type Span, WHOLE, zoomed } from '../src/strip/axis.js';
import { copyLane, pastedLane } from '../src/strip/lane-clipboard.js';
import { inShares, pointMarks, ringShares, shareAt } from '../src/strip/shares.js';

const share = fc.double({ min: 0, max: 1, noNaN: true });

describe('the axis of the strip', () => {
  it('never leaves the line, and the place under the pointer stays under it while there is room', () => {
    const step = fc.oneof(
      fc.record({ at: share, factor: fc.double({ min: 0.2, max: 5, noNaN: true }) }),
      fc.record({ by: fc.double({ min: -2, max: 2, noNaN: true }) }),
    );
    fc.assert(
      fc.property(fc.array(step, { maxLength: 20 }), (steps) => {
        let span: Span = WHOLE;
        for (const one of steps) {
          const before = span;
          if ('by' in one) span = panned(span, one.by);
          else {
            const at = span.from + one.at * (span.to - span.from);
            span = zoomed(span, at, one.factor);
            if (span.from > 0 && span.to < 1)
              expect((at - span.from) / (span.to - span.from)).toBeCloseTo(
                (at - before.from) / (before.to - before.from),
                6,
              );
          }
          expect(span.from).toBeGreaterThanOrEqual(0);
          expect(span.to).toBeLessThanOrEqual(1 + 1e-12);
          expect(span.to - span.from).toBeGreaterThanOrEqual(0.01 - 1e-12);
          const axis = axisOf(150, 400, span);
          expect(axis.share(axis.x(0.3))).toBeCloseTo(0.3, 9);
        }
      }),
    );
  });
});

describe('shares of the length', () => {
  /** A straight line of two metres, and a second one of one metre beside it. */
  const guide = {
    position: Float64Array.from([0, 0, 0, 0.5, 0, 0, 2, 0, 0, 0, 1, 0, 1, 1, 0]),
    start: Uint32Array.from([0, 3, 5]),
    closed: Uint8Array.from([0, 0]),
    id: Uint32Array.from([1, 2]),
  };

  it('are each curve’s own', () => {
    expect([...inShares(Float32Array.from([0, 1, 4, 0, 3]))]).toEqual([0, 0.25, 1, 0, 1]);
    expect(shareAt(guide, 1, 0.5)).toBeCloseTo((0.5 + 0.75) / 2, 12);
    expect(shareAt(guide, 3, 0.25)).toBeCloseTo(0.25, 12);
  });

  it('of drawn points are those of the nearest place of the finished line', () => {
    const point = (x: number, y: number) => ({
      position: [x, y, 0] as [number, number, number],
      corner: false,
      radius: 1,
    });
    const line = (...points: ReturnType<typeof point>[]) => ({ id: 'a', name: 'A', closed: false, points });
    const marks = pointMarks([line(point(0, 0.1), point(0.6, 0), point(2, 0)), line(point(1, 0.9))], guide);
    expect(marks.map((mark) => mark.share)).toEqual([0, 0.25, 1, 1]);
    expect(ringShares(guide)).toEqual([0, 0.25, 1, 0, 1]);
  });
});

describe('a copied course', () => {
  const parameter = (kind: NumberParameter['kind'], max: number) =>
    ({ kind, label: '', help: '', default: 0, min: 0, max, comfortable: [0, 1] }) as NumberParameter;
  const lane: Lane = {
    ease: 'straight',
    knots: [
      { at: 0, value: 1 },
      { at: 1, value: 4 },
    ],
  };

  it('comes as it is to a lane of its kind, as a shape to any other, and never beyond its limits', () => {
    copyLane(lane, parameter('length', 10));
    expect(pastedLane(7, parameter('length', 10))).toEqual(lane);
    expect(pastedLane(8, parameter('angle', 10))).toEqual(mapAlong(lane, (value) => value * 2));
    expect(greatest(pastedLane(7, parameter('length', 3)))).toBe(3);
  });
});
