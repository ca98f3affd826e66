import { fresh, type Memory } from '../../numeric/compiled.js';
import { KERNEL } from './binary.js';

/** What kernel/roots.as.ts exports; all that are no counts or measures are addresses in its memory. */
interface Exports extends Memory {
  setArea(
    places: number,
    corners: number,
    wanted: number,
    until: number,
    begins: number,
    count: number,
    area: number,
  ): void;
  setDraws(seed: number, first: number, next: number, last: number): void;
  stood(probes: number): number;
  begin(
    evenness: number,
    stands: number,
    table: number,
    chain: number,
    spots: number,
    numbers: number,
    faces: number,
    shares: number,
  ): void;
  spread(numbers: number, most: number, last: number, asks: number): number;
  isOver(last: number): number;
}

type Keeps = (x: number, y: number, z: number, number: number) => number;

/** A kernel with a memory of its own, and what it asks where something does not stand everywhere. */
export const rootKernel: (imports: { kernel: { keeps: Keeps } }) => Exports = fresh<Exports>(KERNEL);
