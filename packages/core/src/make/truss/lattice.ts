import { valueAt } from '../../numeric/lane.js';
import type { Stations } from '../elements/stations.js';
import { neighbours } from './between.js';
import { type Bracing, bracingOver, type Face, type Run, type TiedPairs } from './bracing.js';
import { cornersOf, facesOf, lookOf } from './corners.js';
import { chordReach, chordsOf, type TrussChoice, type Web } from './parameters.js';

/** Joints and the members between them. */
export interface Lattice extends Bracing {
  /** xyz of each joint: station by station, chord by chord; then those in the middle of frames. */
  joint: Float64Array;
  /** Unit way out of the truss at each joint. */
  outward: Float64Array;
}

/** How stations were braced last: joints that move change nothing of it. */
const braced = new WeakMap<object, { key: string; bracing: Bracing }>();

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
  const faces = facesOf(n).map((pair): Face => {
    const look = lookOf(corners, pair, valueAt(p.width, 0.5));
    const own = look === 'up' ? p.topWebs : look === 'down' ? p.bottomWebs : 'sides';
    return { pair, web: (own === 'sides' ? p.webs : own) as Web };
  });
  const total = stations.id.length;
  const room = 3 * total * (n + faces.filter(({ web }) => web === 'k').length);
  const [joint, outward] = [new Float64Array(room), new Float64Array(room)];
  placeJoints(stations, corners, p, joint, outward);
  cut(joint);
  const pairings = p.ties === 'none' ? [] : neighbours(runs, stations.at);
  const tied = pairings.map(
    (pairing): TiedPairs => ({ stations: pairing.stations, chords: nearest(joint, n, corners, pairing.stations) }),
  );
  const key = JSON.stringify([n, faces, p.ends, p.every, p.ties, p.tieEvery, tied]);
  let known = braced.get(stations);
  if (known?.key !== key) {
    known = { key, bracing: bracingOver(stations, runs, n, faces, tied, p) };
    braced.set(stations, known);
  }
  const { bracing } = known;
  placeMiddles(bracing.middles, n * total, joint, outward);
  return { ...bracing, joint, outward };
}

/** Joints in the middle of frames, and the ways out there. */
function placeMiddles(middles: Uint32Array, first: number, joint: Float64Array, outward: Float64Array): void {
  for (let m = 0; m < middles.length / 2; m++)
    for (const list of [joint, outward])
      for (let k = 0; k < 3; k++)
        list[3 * (first + m) + k] = (list[3 * middles[2 * m] + k] + list[3 * middles[2 * m + 1] + k]) / 2;
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
