import type { Measure, Table } from '../../unit/carriers.js';
import { KINDS, type Lattice, TIE } from './lattice.js';
import type { MemberProfile } from './profiles.js';

/** Members are cut to whole millimetres: so many lengths there are to a metre. */
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
 * Maxwell's count tells how many bars more than the fewest that may hold it stiff there are: m − (3j − 6) in space,
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
    { id: 'paint', label: 'To paint', quantity: 'area', value: paint },
    { id: 'spare', label: 'Bars to spare', quantity: 'count', value: spare },
  );
  return {
    measures,
    tables: [
      {
        id: 'cut-list',
        label: 'To cut',
        columns: [
          { label: 'Members', quantity: 'text' },
          { label: 'Profile', quantity: 'text' },
          { label: 'Length', quantity: 'length' },
          { label: 'Pieces', quantity: 'count' },
          { label: 'Together', quantity: 'length' },
          { label: 'Mass', quantity: 'mass' },
        ],
        rows,
      },
    ],
  };
}

/** Lengths are counted one by one up to here, in millimetres: above they are few. */
const MOST_COUNTED = 1_000_000;

/** Of each kind: how many members are cut to each length, millimetre by millimetre, the longest first; how long all are, and how many. */
function alikeOf(lattice: Lattice, lengths: Float64Array, less: readonly number[]) {
  const { kind, members } = lattice;
  const last = extremesOf(lattice, lengths).map((ends, k) => Math.round(Math.max(0, (ends?.longest.length ?? 0) - less[k]) * PER_METRE));
  // those of all kinds one behind the other; the few that are too long for it by themselves
  const first = last.map(() => 0);
  let room = 0;
  for (const [k, steps] of last.entries()) {
    first[k] = room;
    room += Math.min(MOST_COUNTED, steps + 1);
  }
  const pieces = new Uint32Array(room);
  const rare = last.map(() => new Map<number, number>());
  const sum = new Float64Array(last.length);
  const off = Float64Array.from(less);
  const begin = Uint32Array.from(first);
  for (let m = 0; m < members; m++) {
    const k = kind[m];
    const cut = Math.max(0, lengths[m] - off[k]);
    const key = Math.floor(cut * PER_METRE + 0.5);
    if (key < MOST_COUNTED) pieces[begin[k] + key]++;
    else rare[k].set(key, (rare[k].get(key) ?? 0) + 1);
    sum[k] += cut;
  }
  return last.map((steps, k) => {
    const alike: [key: number, pieces: number][] = [...rare[k]].sort(([a], [b]) => b - a);
    for (let key = Math.min(MOST_COUNTED - 1, steps); key >= 0; key--)
      if (pieces[first[k] + key] > 0) alike.push([key, pieces[first[k] + key]]);
    return { alike, sum: sum[k], count: alike.reduce((all, [, some]) => all + some, 0) };
  });
} // biome-ignore format: its longest line in one

/** The longest and the shortest member of each kind there is: how long, metres, and the joint where it begins. */
export function extremesOf({ kind, from, members }: Lattice, lengths: Float64Array) {
  const longest = KINDS.map(() => -1);
  const least = KINDS.map(() => -1);
  for (let m = 0; m < members; m++) {
    const k = kind[m];
    if (longest[k] < 0 || lengths[m] > lengths[longest[k]]) longest[k] = m;
    if (least[k] < 0 || lengths[m] < lengths[least[k]]) least[k] = m;
  }
  const endOf = (m: number) => ({ length: lengths[m], joint: from[m] });
  return KINDS.map((_name, k) => (longest[k] < 0 ? undefined : { longest: endOf(longest[k]), least: endOf(least[k]) }));
}
