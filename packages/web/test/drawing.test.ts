import { type DrawnPoint, polygonSection, resample, singleCurve, sweep } from '@kelp/core';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { bridged, fitStroke, ROPE, steadied } from '../src/pens/steady.js';
import { meshEdges } from '../src/view/geometry.js';

const point = (x: number, y: number): DrawnPoint => ({ position: [x, y, 0], corner: false, radius: 1 });

describe('a steadied stroke', () => {
  it('ignores a shake within the rope and follows at its end', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 2 * Math.PI, noNaN: true }),
        fc.double({ min: 0, max: 200, noNaN: true }),
        (angle, way) => {
          const hand: [number, number] = [100 + way * Math.cos(angle), 50 + way * Math.sin(angle)];
          const to = steadied([100, 50], hand);
          expect(Math.hypot(to[0] - hand[0], to[1] - hand[1])).toBeLessThanOrEqual(
            ROPE + way * 1e-9 + (way <= ROPE ? 0 : 1e-6),
          );
          if (way <= ROPE) expect(to).toEqual([100, 50]);
        },
      ),
    );
  });

  it('is fitted to few points that keep near it and apart from each other', () => {
    const samples = Array.from({ length: 300 }, (_, i) => point(i * 0.01, 0.4 * Math.sin(i * 0.03)));
    const fitted = fitStroke(samples, 0.01);
    expect(fitted.length).toBeLessThan(40);
    expect(fitted[0]).toBe(samples[0]);
    expect(fitted[fitted.length - 1]).toBe(samples[299]);
    for (let i = 1; i < fitted.length - 1; i++)
      expect(Math.hypot(...[0, 1].map((k) => fitted[i].position[k] - fitted[i - 1].position[k]))).toBeGreaterThan(0.08);
  });
});

it('the mesh look draws quads as quads: every edge of the body once, no diagonal', () => {
  const line = resample(singleCurve([0, 0, 0, 1, 0, 0]), { steps: 5 });
  const edges = meshEdges(sweep(line, polygonSection(6), { radius: 0.1, start: 'open', end: 'open' })).length / 6;
  // 6 rings of 6 edges, and 5 bands with both sides of each of the 6 sharp corners (their vertices are doubled)
  expect(edges).toBe(6 * 6 + 5 * 12);
});

it('a stroke over the gap between two props spans it; one over the ground between them stays there', () => {
  const anchor = { prop: 'a', triangle: 0, barycentric: [1, 0, 0] as [number, number, number], height: 0 };
  const at = (x: number, y: number, z: number, held: boolean) => ({
    position: [x, y, z] as [number, number, number],
    corner: false,
    radius: 1,
    ...(held ? { anchor } : {}),
  });
  const pier = [at(0, 1, 0, true), at(0.5, 1, 0, true)];
  const raft = [at(1.5, 1, 0, true), at(2, 1, 0, true)];
  // what a pointer meets between two decks: the sea bed far behind them
  const farBehind = [at(0.8, 0, -6, false), at(1.2, 0, -6.5, false)];
  expect(bridged([...pier, ...farBehind, ...raft])).toEqual([...pier, ...raft]);
  const ground = [at(0.8, 0.6, 0.1, false), at(1.2, 0.6, 0.1, false)];
  expect(bridged([...pier, ...ground, ...raft])).toHaveLength(6);
  // free at its beginning or end: that is where it was drawn
  expect(bridged([...farBehind, ...raft])).toHaveLength(4);
  expect(bridged([...pier, ...farBehind])).toHaveLength(4);
});
