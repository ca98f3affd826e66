import { type RideTrack, riddenTo, type TurnTrack } from '@kelp/core';
import { quaternion } from './places.js';

// Keys of movements, as glTF 2.0 samples them (section 3.11): between two keys straight, turns by the shorter way.

/** Keys of one node over the loop. */
export interface NodeKeys {
  /** Seconds. */
  times: Float32Array;
  translation?: Float32Array;
  /** Unit quaternions, xyzw. */
  rotation?: Float32Array;
  /** What is no part of a node, by a pointer into the file: two numbers a key. */
  pointer?: { to: string; values: Float32Array };
  /** How much of each further shape there is, key by key. */
  weights?: Float32Array;
  /** Numbers three by three; `steps` holds each until the next. */
  scale?: { values: Float32Array; steps: boolean };
}

/** A turn has this many keys a revolution: from one to the next less than half of it. */
const KEYS_A_TURN = 8;
/** On a bend a key comes after this many radians at most: a straight step then leaves the circle by 1/800 of its radius. */
const KEY_EVERY = 0.1;
/** Keys of a loop at most. */
const MAX_KEYS = 2000;

const evenTimes = (steps: number, seconds: number): Float32Array =>
  Float32Array.from({ length: steps + 1 }, (_, k) => (seconds * k) / steps);

/** Of what turns about an axis through the node's own origin. */
export function turnKeys({ axis, turns }: TurnTrack, seconds: number): NodeKeys {
  const steps = Math.min(MAX_KEYS, Math.max(1, Math.ceil(Math.abs(turns) * KEYS_A_TURN)));
  const rotation = new Float32Array(4 * (steps + 1));
  for (let k = 0; k <= steps; k++) {
    const half = (Math.PI * turns * k) / steps;
    const sin = Math.sin(half);
    rotation.set([axis[0] * sin, axis[1] * sin, axis[2] * sin, Math.cos(half)], 4 * k);
  }
  return { times: evenTimes(steps, seconds), rotation };
}

/** Of each place that rides along a rail. */
export function rideKeys(track: RideTrack, seconds: number): NodeKeys[] {
  const steps = keysOf(track);
  const count = track.first.length;
  const times = evenTimes(steps, seconds);
  const keys = Array.from({ length: count }, () => ({
    translation: new Float32Array(3 * (steps + 1)),
    rotation: new Float32Array(4 * (steps + 1)),
    scale: new Float32Array(3 * (steps + 1)),
  }));
  const matrix = new Float32Array(16 * count);
  for (let k = 0; k <= steps; k++) {
    riddenTo(track, k / steps, matrix);
    for (let n = 0; n < count; n++) decompose(matrix, 16 * n, keys[n], k);
  }
  const steady = track.span === 0 && track.above === undefined;
  return keys.map(({ translation, rotation, scale }) => ({
    times,
    translation,
    rotation,
    // what comes and goes does so at once
    scale: { values: steady ? scale.slice(0, 3) : scale, steps: track.above !== undefined },
  }));
}

/** This many steps that the sharpest bend of the rail is met closely. */
function keysOf({ rail, of, steps }: RideTrack): number {
  const { along, tangent } = rail;
  const travel = (Math.abs(steps) / of) * along[along.length - 1];
  let sharpest = 0;
  for (let p = 0; p + 1 < along.length; p++) {
    const i = 3 * p;
    const cos = tangent[i] * tangent[i + 3] + tangent[i + 1] * tangent[i + 4] + tangent[i + 2] * tangent[i + 5];
    const far = along[p + 1] - along[p];
    if (far > 0) sharpest = Math.max(sharpest, Math.acos(Math.min(1, Math.max(-1, cos))) / far);
  }
  return Math.min(MAX_KEYS, Math.max(1, Math.ceil((travel * sharpest) / KEY_EVERY)));
}

/** Place, turn and sizes of a matrix without shear, as key `k`. */
function decompose(
  m: Float32Array,
  at: number,
  out: { translation: Float32Array; rotation: Float32Array; scale: Float32Array },
  k: number,
): void {
  if (m[at + 15] === 0) {
    // it is not there: it waits where it was
    const before = Math.max(0, k - 1);
    out.translation.copyWithin(3 * k, 3 * before, 3 * before + 3);
    out.rotation.copyWithin(4 * k, 4 * before, 4 * before + 4);
    if (k === 0) out.rotation[3] = 1;
    return;
  }
  const size = [0, 4, 8].map((c) => Math.hypot(m[at + c], m[at + c + 1], m[at + c + 2]));
  const r = (row: number, column: number) => m[at + 4 * column + row] / size[column];
  const q = quaternion(r);
  // the shorter way from the key before
  const before = 4 * (k - 1);
  const turned = k > 0 && q.reduce((sum, value, n) => sum + value * out.rotation[before + n], 0) < 0;
  out.rotation.set(turned ? q.map((value) => -value) : q, 4 * k);
  out.translation.set([m[at + 12], m[at + 13], m[at + 14]], 3 * k);
  out.scale.set(size, 3 * k);
}
