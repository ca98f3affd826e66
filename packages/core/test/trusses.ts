import { Matrix4, Vector3 } from 'three';
import { type CurveSet, singleCurve } from '../src/index.js';
import type { Made, PlacedPart } from '../src/unit/carriers.js';
import { made } from './units.js';

export const straight = (length: number) => singleCurve([0, 0, 0, length, 0, 0]);
export const arc = (radius: number, angle: number) =>
  singleCurve(
    Array.from({ length: 721 }, (_, k) => {
      const at = (angle * k) / 720;
      return [radius * Math.sin(at), 0, radius * Math.cos(at)];
    }).flat(),
    { smooth: true },
  );
export const ring = (radius: number) =>
  singleCurve(
    Array.from({ length: 360 }, (_, k) => [
      radius * Math.cos((k * Math.PI) / 180),
      0,
      radius * Math.sin((k * Math.PI) / 180),
    ]).flat(),
    { smooth: true, closed: true },
  );
export const truss = (set: Record<string, unknown>, input: CurveSet = straight(4), reported?: string[]) =>
  made('truss', { by: 'count', bays: 8, depth: 0.5, ...set }, { input, reported });
export const figure = ({ measures }: Made, id: string) => measures.find((one) => one.id === id)?.value ?? 0;
export const part = ({ parts }: Made, id: string) => parts.find((one) => one.id === id) as PlacedPart;
export const SHAPES = [
  ['flat', 2],
  ['triangle', 3],
  ['square', 4],
  ['more', 6],
] as const;

/** Both ends of each placed member, and how thick it is to its side and up. */
export function members(placed: PlacedPart) {
  return Array.from(placed.places.id, (_, n) => {
    const m = new Matrix4().fromArray(placed.places.matrix, 16 * n);
    const [x, y, z] = [new Vector3(), new Vector3(), new Vector3()];
    m.extractBasis(x, y, z);
    const from = new Vector3().setFromMatrixPosition(m);
    return { from, to: from.clone().add(z), x, y, z, right: m.determinant() };
  });
}

/** This many straight lines side by side. */
export function many(count: number): Pick<CurveSet, 'start' | 'position' | 'closed' | 'id'> {
  return {
    start: Uint32Array.from({ length: count + 1 }, (_, k) => 2 * k),
    position: Float64Array.from(Array.from({ length: count }, (_, k) => [0, 0, k, 9, 0, k]).flat()),
    closed: new Uint8Array(count),
    id: Uint32Array.from({ length: count }, (_, k) => k + 1),
  };
}
