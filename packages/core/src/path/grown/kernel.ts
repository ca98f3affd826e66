import { fresh, type Memory } from '../../numeric/compiled.js';
import { KERNEL } from './binary.js';

/** What kernel/grown.as.ts exports; all that are no counts or measures are addresses in its memory. */
interface Exports extends Memory {
  /** Guides that are known at one place, by how much ways along edges are longer than straight ones, bytes of what is known at a place. */
  EACH: { value: number };
  DETOUR: { value: number };
  NEAR: { value: number };
  setSkin(
    corners: number,
    positions: number,
    normals: number,
    starts: number,
    neighbours: number,
    near: number,
    waiting: number,
    queues: number,
    width: number,
    rest: number,
  ): void;
  setGuides(
    count: number,
    at: number,
    normals: number,
    lengths: number,
    slacks: number,
    shapes: number,
    points: number,
    room: number,
  ): void;
  forget(places: number): void;
  reaches(place: number, guide: number, far: number): void;
  walk(budget: number, most: number): number;
  grow(
    count: number,
    faces: number,
    shares: number,
    blocked: number,
    reach: number,
    leftOut: number,
    length: number,
    upright: number,
    where: number,
    out: number,
    normals: number,
    along: number,
    lengths: number,
    which: number,
  ): number;
}

/** A kernel with a memory of its own, which is given back with it: a large skin takes much of it. */
export const growthKernel = fresh<Exports>(KERNEL);
