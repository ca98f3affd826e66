import { curveCount } from '../../curve/curve-set.js';
import type { PipeRun } from './run.js';

/** A place on a run where something stands. */
export interface Station {
  curve: number;
  /** Metres from the start of its line. */
  at: number;
  /** Which way what is here looks: on along the line, back, or both where it joins two. */
  way: 1 | -1 | 0;
}

/** Where legs and bends meet. */
export const atBends = ({ bends }: PipeRun): Station[] =>
  bends.flatMap(({ curve, from, to }) => [from, to].map((at): Station => ({ curve, at, way: 0 })));

/** The open ends. */
export const atEnds = ({ rails }: PipeRun, lengths: ArrayLike<number>): Station[] =>
  Array.from({ length: curveCount(rails) }, (_, curve) => curve)
    .filter((curve) => rails.closed[curve] === 0)
    .flatMap((curve): Station[] => [
      { curve, at: 0, way: -1 },
      { curve, at: lengths[curve], way: 1 },
    ]);

/** Joints between the lengths that a leg is made of, none of which is longer than `stock`. */
export const alongLegs = ({ legs }: PipeRun, stock: number): Station[] =>
  legs.flatMap(({ curve, from, to }) => {
    const pieces = piecesOf(to - from, stock);
    return Array.from({ length: pieces - 1 }, (_, k): Station => ({ curve, at: from + (k + 1) * stock, way: 0 }));
  });

/** How many lengths of pipe a leg takes: whole ones and a rest. */
export const piecesOf = (length: number, stock: number): number =>
  stock > 0 ? Math.max(1, Math.ceil(length / stock - 1e-6)) : 1;

/** Brackets: as many on each leg that they are no further apart than asked, evenly, clear of what joins it. */
export function brackets({ legs }: PipeRun, every: number, joints: readonly Station[], clear: number): Station[] {
  const byLine = new Map<number, number[]>();
  for (const { curve, at } of joints) {
    const list = byLine.get(curve);
    if (list) list.push(at);
    else byLine.set(curve, [at]);
  }
  for (const list of byLine.values()) list.sort((a, b) => a - b);
  return legs.flatMap(({ curve, from, to }) => {
    const length = to - from;
    if (length < 2 * clear) return [];
    const count = Math.max(1, Math.ceil(length / every - 1e-6));
    const own = byLine.get(curve) ?? [];
    return Array.from({ length: count }, (_, k): Station => {
      const at = from + ((k + 0.5) * length) / count;
      const near = nearestTo(own, at);
      const tooNear = near !== undefined && near >= from && near <= to && Math.abs(near - at) < clear;
      return { curve, at: tooNear ? near + (near > at ? -clear : clear) : at, way: 0 };
    });
  });
}

/** The nearest of rising numbers. */
function nearestTo(rising: readonly number[], value: number): number | undefined {
  let [low, high] = [0, rising.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (rising[middle] < value) low = middle + 1;
    else high = middle;
  }
  const [before, after] = [rising[low - 1], rising[low]];
  if (before === undefined || after === undefined) return after ?? before;
  return value - before < after - value ? before : after;
}
