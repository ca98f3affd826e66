import { compiled, type Memory } from '../../numeric/compiled.js';
import { KERNEL } from './binary.js';

/** What kernel/lines.as.ts exports; all that are no counts or sizes are addresses in its memory. */
interface Exports extends Memory {
  measure(
    lines: number,
    start: number,
    position: number,
    steps: number,
    tangents: number,
    along: number,
    length: number,
  ): number;
  frames(
    lines: number,
    start: number,
    position: number,
    steps: number,
    tangents: number,
    normals: number,
    tangent: number,
    normal: number,
  ): number;
  rings(
    lines: number,
    start: number,
    position: number,
    steps: number,
    tangents: number,
    normals: number,
    along: number,
    section: number,
    columns: number,
    radius: number,
    p: number,
    n: number,
    uv: number,
  ): number;
  sway(
    lines: number,
    start: number,
    id: number,
    position: number,
    steps: number,
    tangents: number,
    normals: number,
    along: number,
    far: number,
    step: number,
    up: number,
    seed: number,
    sideways: number,
    upward: number,
  ): void;
}

/** Bytes that its own room takes a point: four lines side by side, where there are not four of one kind too. */
export const STEP_BYTES = 64;
export const TANGENT_BYTES = 48;

/** Points of one portion at most: of more the memory would grow for good. */
export const MAX_POINTS = 4000;

let exports: Exports | undefined;

export function lineKernel(): Exports {
  exports ??= compiled<Exports>(KERNEL);
  return exports;
}
