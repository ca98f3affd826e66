import type { Measure, Table } from '../../unit/carriers.js';
import { KINDS, type Lattice, TIE } from './lattice.js';
import type { MemberProfile } from './profiles.js';

/** Members whose lengths differ by less are cut as one, metres. */
const ALIKE = 0.001;

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
  KINDS.forEach((_name, k) => {
    const { alike, sum, count } = alikeOf(kind, lengths, members, k, cuts[k]);
    if (count === 0) return;
    const stock = stocks[k];
    const perMetre = areaOf(stock) * density;
    mass += perMetre * sum;
    paint += stock.profile.outline * stock.radius * sum;
    for (const [key, pieces] of alike)
      rows.push([LABELS[k], nameOf(stock), key * ALIKE, pieces, key * ALIKE * pieces, key * ALIKE * pieces * perMetre]);
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

/** Lengths are counted one by one up to here, in steps of `ALIKE`: above they are few. */
const MOST_COUNTED = 1_000_000;

/** How many members of a kind are cut to each length, in steps of `ALIKE`, the longest first; how long all are, and how many. */
function alikeOf(kind: Uint8Array, lengths: Float64Array, members: number, of: number, less: number) {
  let longest = 0;
  for (let m = 0; m < members; m++) if (kind[m] === of && lengths[m] > longest) longest = lengths[m];
  const last = Math.round(Math.max(0, longest - less) / ALIKE);
  const pieces = last < MOST_COUNTED ? new Uint32Array(last + 1) : new Map<number, number>();
  let sum = 0;
  let count = 0;
  for (let m = 0; m < members; m++) {
    if (kind[m] !== of) continue;
    const cut = lengths[m] > less ? lengths[m] - less : 0;
    const key = Math.round(cut / ALIKE);
    if (pieces instanceof Map) pieces.set(key, (pieces.get(key) ?? 0) + 1);
    else pieces[key]++;
    sum += cut;
    count++;
  }
  const alike: [key: number, pieces: number][] = [];
  if (pieces instanceof Map) alike.push(...[...pieces].sort(([a], [b]) => b - a));
  else for (let key = last; key >= 0; key--) if (pieces[key] > 0) alike.push([key, pieces[key]]);
  return { alike, sum, count };
}

/** The longest member of each kind, and where it begins: a joint. */
export function longestOf({ kind, from, members }: Lattice, lengths: Float64Array, of: number) {
  let best = -1;
  for (let m = 0; m < members; m++) if (kind[m] === of && (best < 0 || lengths[m] > lengths[best])) best = m;
  return best < 0 ? undefined : { length: lengths[best], joint: from[best] };
}
