import type { Measure, Table } from '../../unit/carriers.js';
import type { PipeRun } from './run.js';
import { piecesOf } from './stations.js';

/** Lengths that differ by less than this are cut as one, metres; angles too, radians. */
const ALIKE = { length: 0.001, angle: Math.PI / 360 };

/** What is to be cut and bent: straight lengths and bends by their angle, alike ones together, the longest first. */
export function cutList(
  { legs, bends }: PipeRun,
  stock: number,
  joints: number,
): { tables: Table[]; measures: Measure[] } {
  const straight = new Map<number, number>();
  const count = (list: Map<number, number>, value: number, alike: number) => {
    const key = Math.round(value / alike);
    list.set(key, (list.get(key) ?? 0) + 1);
  };
  for (const { from, to } of legs) {
    const pieces = piecesOf(to - from, stock);
    for (let k = 0; k < pieces; k++) count(straight, k < pieces - 1 ? stock : to - from - k * stock, ALIKE.length);
  }
  const bent = new Map<string, { angle: number; radius: number; count: number }>();
  for (const { angle, radius } of bends) {
    const key = `${Math.round(angle / ALIKE.angle)} ${Math.round(radius / ALIKE.length)}`;
    const row = bent.get(key);
    if (row) row.count++;
    else bent.set(key, { angle, radius, count: 1 });
  }
  const length = (one: { from: number; to: number }) => one.to - one.from;
  const total = [...legs, ...bends].reduce((sum, one) => sum + length(one), 0);
  return {
    tables: [
      {
        id: 'straight',
        label: 'Straight lengths',
        columns: [
          { label: 'Length', quantity: 'length' },
          { label: 'Pieces', quantity: 'count' },
        ],
        rows: [...straight].sort(([a], [b]) => b - a).map(([key, pieces]) => [key * ALIKE.length, pieces]),
      },
      {
        id: 'bends',
        label: 'Bends',
        columns: [
          { label: 'Angle', quantity: 'angle' },
          { label: 'Radius', quantity: 'length' },
          { label: 'Pieces', quantity: 'count' },
        ],
        rows: [...bent.values()].sort((a, b) => b.angle - a.angle).map((row) => [row.angle, row.radius, row.count]),
      },
    ],
    measures: [
      { id: 'pipe', label: 'Pipe length', quantity: 'length', value: total },
      { id: 'bends', label: 'Bends', quantity: 'count', value: bends.length },
      { id: 'joints', label: 'Joints', quantity: 'count', value: joints },
    ],
  };
}
