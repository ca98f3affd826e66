import { childId } from '../../numeric/random.js';
import type { Stations } from '../elements/stations.js';
import type { Pairing } from './between.js';
import type { TrussChoice, Web } from './parameters.js';

export const KINDS = ['chord', 'web', 'frame', 'tie'] as const;
/** Ties run from truss to truss. */
export const [CHORD, WEB, FRAME, TIE] = [0, 1, 2, 3] as const;

/** Which joints members run between, wherever these are. */
export interface Bracing {
  chords: number;
  stations: Pick<Stations, 'id' | 'along' | 'curve'>;
  /** Station of each joint: those of the chords, station by station, then those in the middle of frames. */
  stationOf: Uint32Array;
  /** The two joints that each joint in the middle of a frame is between. */
  middles: Uint32Array;
  /** Members: their kind, two joints, the station where they begin, which of that station's they are. */
  kind: Uint8Array;
  from: Uint32Array;
  to: Uint32Array;
  station: Uint32Array;
  id: Uint32Array;
  members: number;
  /** The faces, each between two chords; and at which of their two corners members meet, station by station. */
  faces: readonly (readonly [number, number])[];
  met: Uint8Array;
}

/** One line's stations: entries `first … first + count − 1`, in a ring where it is closed. */
export interface Run {
  first: number;
  count: number;
  closed: boolean;
  line: number;
}

/** A face between two chords, and how it is braced. */
export interface Face {
  pair: readonly [number, number];
  web: Web;
}

/** Stations that ties run between, and the chord of either truss that they are at. */
export type TiedPairs = Pick<Pairing, 'stations'> & { chords: readonly [number, number] };

/** Numbers of members of a station that are distinguished: chords, then two diagonals and two halves of a frame a face. */
const SLOTS = { web: 32, frame: 96, brace: 160, tie: 200 } as const;

/** Braces lines of this many chords over their stations, those of each line together. */
export function bracingOver(
  stations: Bracing['stations'],
  runs: readonly Run[],
  n: number,
  faces: readonly Face[],
  tied: readonly TiedPairs[],
  p: Pick<TrussChoice, 'ends' | 'every' | 'ties' | 'tieEvery'>,
): Bracing {
  const total = stations.id.length;
  const between = faces.filter(({ web }) => web === 'k').length * total;
  const stationOf = new Uint32Array(n * total + between);
  for (let s = 0; s < total; s++) stationOf.fill(s, n * s, n * s + n);
  const room = total * (n + 4 * faces.length + (tied.length === 0 ? 0 : 3)) + 2 * runs.length * n;
  const out: Bracing = {
    chords: n,
    stations,
    stationOf,
    middles: new Uint32Array(2 * between),
    kind: new Uint8Array(room),
    from: new Uint32Array(room),
    to: new Uint32Array(room),
    station: new Uint32Array(room),
    id: new Uint32Array(room),
    members: 0,
    faces: faces.map(({ pair }) => pair),
    met: new Uint8Array(2 * faces.length * total),
  };
  /** Something of a face meets one of its chords at a station. */
  const meet = (f: number, corner: number, station: number) => {
    met[2 * (faces.length * station + f) + corner] = 1;
  };
  let extra = n * total;
  const { kind: kinds, from: begins, to: ends, station: places, id: ids, met, middles } = out;
  const stationIds = stations.id;
  let members = 0;
  const add = (kind: number, from: number, to: number, station: number, slot: number) => {
    kinds[members] = kind;
    begins[members] = from;
    ends[members] = to;
    places[members] = station;
    ids[members++] = childId(stationIds[station], slot);
  };
  /** A joint in the middle of a face's frame. */
  const middle = (a: number, b: number, station: number): number => {
    middles[2 * (extra - n * total)] = a;
    middles[2 * (extra - n * total) + 1] = b;
    stationOf[extra] = station;
    return extra++;
  };
  for (const { first, count, closed } of runs)
    for (let i = 0; i < count; i++) {
      const s = first + i;
      const next = i + 1 < count ? s + 1 : closed && count > 2 ? first : -1;
      const isEnd = !closed && (i === 0 || i === count - 1);
      const framed = (isEnd && p.ends !== 'open') || (!isEnd && p.every > 0 && i % p.every === 0);
      // an end of more than three corners would fold without
      if (isEnd && p.ends === 'braced')
        for (let k = 2; k < n - 1; k++) add(FRAME, n * s, n * s + k, s, SLOTS.brace + k);
      if (next >= 0) for (let k = 0; k < n; k++) add(CHORD, n * s + k, n * next + k, s, k);
      for (let f = 0; f < faces.length; f++) {
        const { pair, web } = faces[f];
        const a = n * s + pair[0];
        const b = n * s + pair[1];
        if (web === 'k') {
          // its diagonals come from the middle of a frame: that is in any case
          const m = middle(a, b, s);
          add(FRAME, a, m, s, SLOTS.frame + 2 * f);
          add(FRAME, m, b, s, SLOTS.frame + 2 * f + 1);
          meet(f, 0, s);
          meet(f, 1, s);
          if (next < 0) continue;
          add(WEB, m, n * next + pair[0], s, SLOTS.web + 2 * f);
          add(WEB, m, n * next + pair[1], s, SLOTS.web + 2 * f + 1);
          continue;
        }
        if (framed) {
          add(FRAME, a, b, s, SLOTS.frame + 2 * f);
          meet(f, 0, s);
          meet(f, 1, s);
        }
        if (next < 0 || web === 'none') continue;
        const c = n * next + pair[0];
        const d = n * next + pair[1];
        // by turns: beside each other two faces meet in the same joints
        const back = web === 'crossed' || (web === 'zigzag' && (i + f) % 2 === 1);
        if (!back || web === 'crossed') {
          add(WEB, a, d, s, SLOTS.web + 2 * f);
          meet(f, 0, s);
          meet(f, 1, first + ((i + 1) % count));
        }
        if (back) {
          add(WEB, b, c, s, SLOTS.web + 2 * f + 1);
          meet(f, 1, s);
          meet(f, 0, first + ((i + 1) % count));
        }
      }
    }
  for (const {
    stations: pairs,
    chords: [k, l],
  } of tied) {
    pairs.forEach(([a, b], i) => {
      if (p.tieEvery > 1 && i % p.tieEvery > 0 && i < pairs.length - 1) return;
      add(TIE, n * a + k, n * b + l, a, SLOTS.tie);
      if (p.ties !== 'braced' || i + 1 >= pairs.length) return;
      const [c, d] = pairs[Math.min(pairs.length - 1, i + Math.max(1, p.tieEvery))];
      add(TIE, n * a + k, n * d + l, a, SLOTS.tie + 1);
      add(TIE, n * c + k, n * b + l, a, SLOTS.tie + 2);
    });
  }
  out.members = members;
  return out;
}
