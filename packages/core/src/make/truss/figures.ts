import type { Measure, Table } from '../../unit/carriers.js';
import { KINDS, TIE } from './bracing.js';
import { hold, kernel } from './kernel.js';
import type { Lattice } from './lattice.js';
import type { MemberProfile } from './profiles.js';

/** Members are cut to whole millimetres: this many lengths there are to a metre. */
const PER_METRE = 1000;

/** What the members of one kind are cut from: thickness and wall in metres. */
export interface Stock {
  profile: MemberProfile;
  radius: number;
  wall: number;
}

export const LABELS = ['Chords', 'Diagonals', 'Frames', 'Ties'] as const;
const millimetres = (metres: number): string => String(Math.round(1e4 * metres) / 10);

/** As it is written on a drawing (ISO 5261): its sign, how thick it is and how thick its wall, millimetres. */
export const nameOf = ({ profile: { sign, hollow }, radius, wall }: Stock): string =>
  `${sign} ${millimetres(2 * radius)}${hollow ? ` × ${millimetres(wall * radius)}` : ''}`;

/** Cross-sectional area of a member, m²; and kilogrammes of one metre. */
export const areaOf = ({ profile, radius, wall }: Stock): number => profile.area(wall) * radius * radius;

/**
 * Members by kind with lengths, mass and surface; and what is to be cut: alike lengths together, the longest first.
 * Maxwell's count gives how many bars more than the fewest that may hold it stiff there are: m − (3j − 6) in space,
 * m − (2j − 3) in a plane, for each truss (Maxwell: On the calculation of the equilibrium and stiffness of frames, 1864).
 * @param cuts how much shorter than from joint to joint a member of each kind is cut, metres
 */
export function figuresOf(
  lattice: Lattice,
  lengths: Float64Array,
  stocks: readonly Stock[],
  cuts: readonly number[],
  density: number,
  lines: number,
): { measures: Measure[]; tables: Table[] } {
  const { kind, members, stationOf, chords } = lattice;
  const rows: (string | number)[][] = [];
  const measures: Measure[] = [
    { id: 'joints', label: 'Joints', quantity: 'count', value: stationOf.length },
    { id: 'members', label: 'Members', quantity: 'count', value: members },
  ];
  let mass = 0;
  let paint = 0;
  alikeOf(lattice, lengths, cuts).forEach(({ alike, sum, count }, k) => {
    if (count === 0) return;
    const stock = stocks[k];
    const perMetre = areaOf(stock) * density;
    mass += perMetre * sum;
    paint += stock.profile.outline * stock.radius * sum;
    for (const [key, pieces] of alike)
      rows.push([
        LABELS[k],
        nameOf(stock),
        key / PER_METRE,
        pieces,
        (key * pieces) / PER_METRE,
        ((key * pieces) / PER_METRE) * perMetre,
      ]);
    measures.push(
      { id: `${KINDS[k]}-count`, label: LABELS[k], quantity: 'count', value: count },
      { id: `${KINDS[k]}-length`, label: `${LABELS[k]}, length`, quantity: 'length', value: sum },
    );
  });
  // each truss by itself: what ties it to the next is no part of it
  let own = 0;
  for (let m = 0; m < members; m++) if (kind[m] !== TIE) own++;
  const spare = own - (chords === 2 ? 2 * stationOf.length - 3 * lines : 3 * stationOf.length - 6 * lines);
  measures.push(
    { id: 'mass', label: 'Mass', quantity: 'mass', value: mass },
    { id: 'paint', label: 'Paint area', quantity: 'area', value: paint },
    { id: 'spare', label: 'Redundant members', quantity: 'count', value: spare },
  );
  return {
    measures,
    tables: [
      {
        id: 'cut-list',
        label: 'Cut list',
        columns: [
          { label: 'Members', quantity: 'text' },
          { label: 'Profile', quantity: 'text' },
          { label: 'Length', quantity: 'length' },
          { label: 'Pieces', quantity: 'count' },
          { label: 'Total length', quantity: 'length' },
          { label: 'Mass', quantity: 'mass' },
        ],
        rows,
      },
    ],
  };
}

/** Lengths are counted one by one up to here, in millimetres: above they are few. */
const MAX_EXACT = 1_000_000;

/** Of each kind: how many members are cut to each length, millimetre by millimetre, the longest first; how long all are, and how many. */
function alikeOf(lattice: Lattice, lengths: Float64Array, less: readonly number[]) {
  const { kind, members } = lattice;
  const last = extremesOf(lattice, lengths).map((ends, k) =>
    Math.round(Math.max(0, (ends?.longest.length ?? 0) - less[k]) * PER_METRE),
  );
  const rooms = last.map((steps) => Math.min(MAX_EXACT, steps + 1));
  const each = kernel.TALLY.value;
  const room = rooms.reduce((sum, some) => sum + 4 * some, lengths.byteLength + each * last.length);
  const reserve = hold(lattice, room);
  const long = reserve(lengths.byteLength);
  const table = reserve(each * last.length);
  const counts = rooms.map((some) => reserve(4 * some));
  const { buffer } = kernel.memory;
  new Float64Array(buffer, long, lengths.length).set(lengths);
  rooms.forEach((some, k) => {
    new Uint32Array(buffer, counts[k], some).fill(0);
    new Float64Array(buffer, table + each * k, 2).set([less[k], 0]);
    new Uint32Array(buffer, table + each * k + 16, 3).set([counts[k], some, 0]);
  });
  kernel.tally(members, long, table, PER_METRE);
  return last.map((steps, k) => {
    const alike: [key: number, pieces: number][] = [];
    // the few that are too long to be counted so
    if (new Uint32Array(buffer, table + each * k + 24, 1)[0] > 0) {
      const rare = new Map<number, number>();
      for (let m = 0; m < members; m++) {
        const key = Math.floor(Math.max(0, lengths[m] - less[k]) * PER_METRE + 0.5);
        if (kind[m] === k && key >= rooms[k]) rare.set(key, (rare.get(key) ?? 0) + 1);
      }
      alike.push(...[...rare].sort(([a], [b]) => b - a));
    }
    const pieces = new Uint32Array(buffer, counts[k], rooms[k]);
    for (let key = Math.min(rooms[k] - 1, steps); key >= 0; key--) if (pieces[key] > 0) alike.push([key, pieces[key]]);
    return {
      alike,
      sum: new Float64Array(buffer, table + each * k + 8, 1)[0],
      count: alike.reduce((all, [, some]) => all + some, 0),
    };
  });
}

/** The longest and the shortest member of each kind there is: how long, metres, and the joint where it begins. */
export function extremesOf(lattice: Lattice, lengths: Float64Array) {
  const many = KINDS.length;
  const reserve = hold(lattice, lengths.byteLength + 8 * many + 16);
  const [long, longest, least] = [lengths.byteLength, 4 * many, 4 * many].map(reserve);
  new Float64Array(kernel.memory.buffer, long, lengths.length).set(lengths);
  kernel.extremes(lattice.members, long, many, longest, least);
  const numbers = (at: number) => [...new Uint32Array(kernel.memory.buffer, at, many)];
  const endOf = (m: number) => ({ length: lengths[m], joint: lattice.from[m] });
  const shortest = numbers(least);
  return numbers(longest).map((m, k) =>
    m >= lattice.members ? undefined : { longest: endOf(m), least: endOf(shortest[k]) },
  );
}
