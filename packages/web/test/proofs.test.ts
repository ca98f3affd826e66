import { greatest, type Lane, newPiece, newShape, type Piece } from '@kelp/core';
import { describe, expect, it } from 'vitest';
import { dialsOf, firstSweep, proofsOf } from '../src/compare/proofs.js';

const piece: Piece = { ...newPiece('a', 'A', ['line'], false), shape: [newShape('wobble')] };
const dial = (label: string) => dialsOf(piece).find((candidate) => candidate.label === label)!;

describe('the proof sheet', () => {
  it('steps every number of the piece within its limits, the present value in the middle', () => {
    for (const each of dialsOf(piece)) {
      const sweep = firstSweep(each);
      const proofs = proofsOf(piece, sweep, null);
      expect(proofs).toHaveLength(9);
      expect(new Set(proofs.map(({ values }) => values[0])).size, each.label).toBe(9);
      for (const { values } of proofs) {
        expect(values[0]).toBeGreaterThanOrEqual(each.parameter.min);
        expect(values[0]).toBeLessThanOrEqual(each.parameter.max);
      }
      expect(
        proofs.some(({ values }) => values[0] === each.value) || each.value === each.parameter.min,
        each.label,
      ).toBe(true);
    }
  });

  it('tries nine seeds, or three by three of two numbers', () => {
    const seeds = proofsOf(piece, firstSweep(dial('Wobble · Random seed')), null);
    expect(seeds.map(({ piece: { shape } }) => shape[0].parameters['seed'])).toEqual([1, 2, 3, 4, 5, 6, 7, 8, 9]);
    const grid = proofsOf(piece, firstSweep(dial('Cable · Radius')), firstSweep(dial('Cable · Twist')));
    expect(new Set(grid.map(({ values }) => values[0])).size).toBe(3);
    expect(new Set(grid.map(({ values }) => values[1])).size).toBe(3);
    expect(grid[4].piece).toEqual(piece);
  });

  it('keeps the course of a lane and steps how far it goes', () => {
    const lane: Lane = {
      ease: 'smooth',
      knots: [
        { at: 0, value: 0.01 },
        { at: 1, value: 0.02 },
      ],
    };
    const tapered: Piece = {
      ...piece,
      make: { ...piece.make, parameters: { ...piece.make.parameters, radius: lane } },
    };
    const radius = dialsOf(tapered).find(({ label }) => label === 'Cable · Radius')!;
    for (const { piece: proof, values } of proofsOf(tapered, firstSweep(radius), null)) {
      const made = proof.make.parameters['radius'] as Lane;
      expect(greatest(made)).toBeCloseTo(values[0], 12);
      expect(made.knots[0].value / made.knots[1].value).toBeCloseTo(0.5, 12);
    }
  });
});
