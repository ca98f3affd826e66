import bunny from 'bunny';
import fc from 'fast-check';
import type { Mesh } from '../src/index.js';
import { type ControlPoints, catmullRom, curveLengths, Surface, singleCurve } from '../src/index.js';

/** Points of a helix about +Y with its exact unit tangents; c = pitch / 2π. */
export function helix(radius: number, pitch: number, turns: number, steps: number) {
  const c = pitch / (2 * Math.PI);
  const speed = Math.hypot(radius, c);
  const position = new Float64Array(3 * (steps + 1));
  const tangent = new Float64Array(3 * (steps + 1));
  for (let i = 0; i <= steps; i++) {
    const t = (2 * Math.PI * turns * i) / steps;
    position.set([radius * Math.cos(t), c * t, -radius * Math.sin(t)], 3 * i);
    tangent.set([(-radius * Math.sin(t)) / speed, c / speed, (-radius * Math.cos(t)) / speed], 3 * i);
  }
  return { curve: singleCurve(position), tangent, c, speed, length: 2 * Math.PI * turns * speed };
}

/** Circle of radius 1·`radius` in the plane y = 0, closed. */
export const circle = (radius: number, steps: number) =>
  singleCurve(
    Float64Array.from({ length: 3 * steps }, (_, i) => {
      const t = (2 * Math.PI * Math.floor(i / 3)) / steps;
      return i % 3 === 0 ? radius * Math.cos(t) : i % 3 === 1 ? 0 : -radius * Math.sin(t);
    }),
    { closed: true, smooth: true },
  );

/** Share of a circle's area that an inscribed N-gon has: N/2·sin(2π/N)/π. */
export const polygonShare = (sides: number): number => ((sides / 2) * Math.sin((2 * Math.PI) / sides)) / Math.PI;

export const controls = (points: readonly (readonly [number, number, number])[]): ControlPoints => ({
  position: Float64Array.from(points.flat()),
  corner: new Uint8Array(points.length),
  radius: new Float32Array(points.length).fill(1),
  closed: false,
  id: 1,
});

export const drawn = (points: readonly (readonly [number, number, number])[], options: Partial<ControlPoints> = {}) =>
  catmullRom({ ...controls(points), ...options });

/** The open scanned mesh of the `bunny` package (Stanford scanning repository), about 0.17 m tall. */
export const bunnyMesh = (): Pick<Mesh, 'position' | 'index'> => ({
  position: Float32Array.from(bunny.positions.flat(), (value) => value * 0.01),
  index: Uint32Array.from(bunny.cells.flat()),
});

export const totalLength = (curves: Parameters<typeof curveLengths>[0]): number =>
  curveLengths(curves).reduce((sum, length) => sum + length, 0);

/** Evenly from one number to another: of all doubles between two that have 0 between them nearly all lie next to it. */
export const evenly = (min: number, max: number): fc.Arbitrary<number> =>
  fc.integer({ min: 0, max: 100_000 }).map((k) => min + ((max - min) * k) / 100_000);

/** Of what is fine this much of a line of a metre has all there is to see. */
export const lineFor = (unit: string): number => ({ zip: 0.12, stitch: 0.06, chain: 0.4 })[unit] ?? 1;

/** A sheet of this many squares along x and z; `at` says where each corner lies. */
export function sheet(
  columns: number,
  rows: number,
  at: (s: number, t: number) => readonly [number, number, number],
): Surface {
  const position: number[] = [];
  const index: number[] = [];
  for (let r = 0; r <= rows; r++)
    for (let c = 0; c <= columns; c++) {
      position.push(...at(c / columns, r / rows));
      if (r === rows || c === columns) continue;
      const k = r * (columns + 1) + c;
      index.push(k, k + columns + 1, k + columns + 2, k, k + columns + 2, k + 1);
    }
  return Surface.of({ position: Float32Array.from(position), index: Uint32Array.from(index) });
}
