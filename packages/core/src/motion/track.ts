import { type Rail, railFrame } from './rail.js';

/**
 * How a part moves with the clock, without anything being computed anew: all by how far the clock is in its loop, 0 … 1,
 * so that nothing drifts however long it runs.
 */
export type Track = { part: string } & (TurnTrack | RideTrack | SlideTrack);

/** It turns about an axis of the world. */
export interface TurnTrack {
  kind: 'turn';
  at: [number, number, number];
  /** Unit. */
  axis: [number, number, number];
  /** In a loop of the clock. */
  turns: number;
}

/** Its texture runs along it while it is: a band that is alike all along. */
export interface SlideTrack {
  kind: 'slide';
  /** This far along growing texture v in a loop of the clock, metres. */
  travel: number;
}

/**
 * How many repeats of a texture run by in a loop: whole ones, so that the loop closes.
 * @param repeat metres of one
 */
export const slidRepeats = ({ travel }: SlideTrack, repeat = 1): number => Math.round(travel / repeat);

/** Each of its places rides along a closed rail. */
export interface RideTrack {
  kind: 'ride';
  rail: Rail;
  /** The rail is cut into this many equal steps. */
  of: number;
  /** The step at which each place begins, and its stable number. */
  first: Float32Array;
  id: Uint32Array;
  /** This many steps on in a loop of the clock. */
  steps: number;
  /** How each stands in the frame of the rail, column-major 4×4 each: x across, y outwards, z along. */
  local: Float32Array;
  /** It reaches from joint to joint by this much, metres: its two ends stay on the rail. 0: its middle does. */
  span: number;
  /** A place is there only while the rail's way outwards looks up by more than this, a cosine; everywhere when absent. */
  above?: number;
  /** Linear rgb each. */
  colour?: Float32Array;
}

/** Column-major 4×4 of where a turn has carried its part, `phase` of the way through the loop. */
export function turnedBy({ at, axis: [x, y, z], turns }: TurnTrack, phase: number, out: Float64Array): Float64Array {
  // whole turns are left out before anything is multiplied: the loop closes to the bit
  const share = turns * phase;
  const angle = 2 * Math.PI * (share - Math.floor(share));
  const [cos, sin] = [Math.cos(angle), Math.sin(angle)];
  const rest = 1 - cos;
  out.set([
    rest * x * x + cos,
    rest * x * y + sin * z,
    rest * x * z - sin * y,
    0,
    rest * x * y - sin * z,
    rest * y * y + cos,
    rest * y * z + sin * x,
    0,
    rest * x * z + sin * y,
    rest * y * z - sin * x,
    rest * z * z + cos,
    0,
    0,
    0,
    0,
    1,
  ]);
  for (let n = 0; n < 3; n++) out[12 + n] = at[n] - out[n] * at[0] - out[4 + n] * at[1] - out[8 + n] * at[2];
  return out;
}

/**
 * Writes where each place of a riding part is, `phase` of the way through the loop: column-major 4×4 each; all zero of one
 * that is not there.
 */
export function riddenTo(
  { rail, of, first, steps, local, span, above = -2 }: RideTrack,
  phase: number,
  out: Float32Array,
): Float32Array {
  const frame = new Float64Array(16);
  const on = steps * phase;
  for (let n = 0; n < first.length; n++) {
    const step = first[n] + on;
    // in whole steps: one that has gone on by a step is to the bit where the next one was
    const share = (step - of * Math.floor(step / of)) / of;
    railFrame(rail, share, span, frame);
    const m = 16 * n;
    if (frame[5] <= above) {
      out.fill(0, m, m + 16);
      continue;
    }
    for (let c = 0; c < 4; c++)
      for (let r = 0; r < 4; r++) {
        const l = m + 4 * c;
        out[l + r] =
          frame[r] * local[l] +
          frame[4 + r] * local[l + 1] +
          frame[8 + r] * local[l + 2] +
          frame[12 + r] * local[l + 3];
      }
  }
  return out;
}
