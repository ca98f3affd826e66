import { valueAt } from '../../numeric/lane.js';
import { childId } from '../../numeric/random.js';
import type { Stations } from '../elements/stations.js';
import { neighbours } from './between.js';
import { cornersOf, facesOf, lookOf } from './corners.js';
import { chordReach, chordsOf, type TrussChoice, type Web } from './parameters.js';

export const KINDS = ['chord', 'web', 'frame', 'tie'] as const;
/** Ties run from truss to truss. */
export const [CHORD, WEB, FRAME, TIE] = [0, 1, 2, 3] as const;

/** Joints and the members between them. */
export interface Lattice {
  chords: number;
  /** xyz of each joint: station by station, chord by chord; then those in the middle of frames. */
  joint: Float64Array;
  /** Unit way out of the truss at each joint. */
  outward: Float64Array;
  /** Station of each joint. */
  stationOf: Uint32Array;
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

/** Numbers of members of a station that are told apart: chords, then two diagonals and two halves of a frame a face. */
const SLOTS = { web: 32, frame: 96, brace: 160, tie: 200 } as const;

/**
 * Builds the lattice over stations, those of each line together.
 * @param cut moves joints into the cuts at the ends of lines
 */
export function latticeOver(
  stations: Stations,
  runs: readonly Run[],
  p: TrussChoice,
  cut: (joint: Float64Array) => void,
): Lattice {
  const n = chordsOf(p);
  const corners = cornersOf(n, p.on === 'edge', p.lineAt as 'top');
  const faces = facesOf(n).map((pair) => {
    const look = lookOf(corners, pair, valueAt(p.width, 0.5));
    const own = look === 'up' ? p.topWebs : look === 'down' ? p.bottomWebs : 'sides';
    return { pair, web: (own === 'sides' ? p.webs : own) as Web };
  });
  const total = stations.id.length;
  const middles = faces.filter(({ web }) => web === 'k').length * total;
  const joint = new Float64Array(3 * (n * total + middles));
  const outward = new Float64Array(joint.length);
  const stationOf = new Uint32Array(n * total + middles);
  placeJoints(stations, corners, p, joint, outward);
  cut(joint);
  for (let s = 0; s < total; s++) stationOf.fill(s, n * s, n * s + n);
  const pairings = p.ties === 'none' ? [] : neighbours(runs, stations.at);
  const room = total * (n + 4 * faces.length + (p.ties === 'none' ? 0 : 3)) + 2 * runs.length * n;
  const out: Lattice = {
    chords: n,
    joint,
    outward,
    stationOf,
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
  const { kind: kinds, from: begins, to: ends, station: places, id: ids, met } = out;
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
    for (let k = 0; k < 3; k++) {
      joint[3 * extra + k] = (joint[3 * a + k] + joint[3 * b + k]) / 2;
      outward[3 * extra + k] = (outward[3 * a + k] + outward[3 * b + k]) / 2;
    }
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
          // its diagonals come from the middle of a frame: that stands in any case
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
  for (const { stations: pairs } of pairings) {
    const [k, l] = nearest(joint, n, corners, pairs);
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

/** Of the upper chords of two trusses side by side, the two that are nearest to each other halfway. */
function nearest(
  joint: Float64Array,
  n: number,
  { up }: { up: readonly number[] },
  pairs: readonly (readonly [number, number])[],
): [number, number] {
  const top = Math.max(...up);
  const upper = up.flatMap((value, k) => (value > top - 1e-6 ? [k] : []));
  const [a, b] = pairs[pairs.length >> 1];
  let best: [number, number] = [upper[0], upper[0]];
  let least = Infinity;
  for (const k of upper)
    for (const l of upper) {
      const [i, j] = [3 * (n * a + k), 3 * (n * b + l)];
      const far = Math.hypot(joint[i] - joint[j], joint[i + 1] - joint[j + 1], joint[i + 2] - joint[j + 2]);
      if (far >= least) continue;
      least = far;
      best = [k, l];
    }
  return best;
}

type Places = Pick<Stations, 'at' | 'tangent' | 'up'> & { share: ArrayLike<number> };

/** Where the chords pass places with frames, and the way out of the truss there: place by place, chord by chord. */
export function jointsOf(places: Places, p: TrussChoice): { joint: Float64Array; outward: Float64Array } {
  const room = places.share.length * 3 * chordsOf(p);
  const [joint, outward] = [new Float64Array(room), new Float64Array(room)];
  placeJoints(places, cornersOf(chordsOf(p), p.on === 'edge', p.lineAt as 'top'), p, joint, outward);
  return { joint, outward };
}

function placeJoints(
  { at, tangent: t, up: u, share }: Places,
  { side, up }: { side: readonly number[]; up: readonly number[] },
  p: TrussChoice,
  joint: Float64Array,
  outward: Float64Array,
): void {
  const n = side.length;
  // no part of a chord is on the other side of the line
  const clear = (p.lineAt === 'top' ? -1 : p.lineAt === 'bottom' ? 1 : 0) * chordReach(p);
  const mean = up.reduce((sum, one) => sum + one, 0) / n;
  for (let s = 0; s < share.length; s++) {
    const i = 3 * s;
    const depth = valueAt(p.depth, share[s]);
    const width = depth * valueAt(p.width, share[s]);
    const turn = valueAt(p.turn, share[s]);
    const cos = Math.cos(turn);
    const sin = Math.sin(turn);
    // to the side: t × up, so that side, up and back are right-handed
    const sx = t[i + 1] * u[i + 2] - t[i + 2] * u[i + 1];
    const sy = t[i + 2] * u[i] - t[i] * u[i + 2];
    const sz = t[i] * u[i + 1] - t[i + 1] * u[i];
    for (let k = 0; k < n; k++) {
      const j = 3 * (n * s + k);
      const x = side[k] * width;
      const y = up[k] * depth + clear;
      // as a roll turns: from up to the side
      const a = cos * x + sin * y;
      const b = cos * y - sin * x;
      joint[j] = at[i] + a * sx + b * u[i];
      joint[j + 1] = at[i + 1] + a * sy + b * u[i + 1];
      joint[j + 2] = at[i + 2] + a * sz + b * u[i + 2];
      const high = (up[k] - mean) * depth;
      const far = Math.sqrt(x * x + high * high) || 1;
      const c = (cos * x + sin * high) / far;
      const d = (cos * high - sin * x) / far;
      outward[j] = c * sx + d * u[i];
      outward[j + 1] = c * sy + d * u[i + 1];
      outward[j + 2] = c * sz + d * u[i + 2];
    }
  }
}
