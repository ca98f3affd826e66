import type { Track } from '@kelp/core';
import { Matrix4, Vector3 } from 'three';

const turn = new Matrix4();
const back = new Matrix4();

/** Where the tracks of a part have carried it after so many seconds. Nothing is computed anew: it is one matrix. */
export function carriedBy(tracks: readonly Track[], seconds: number, out: Matrix4): Matrix4 {
  out.identity();
  for (const track of tracks) {
    if (track.kind === 'turn') {
      turn.makeRotationAxis(new Vector3(...track.axis), track.rate * seconds);
      back.makeTranslation(-track.at[0], -track.at[1], -track.at[2]);
      out
        .premultiply(back)
        .premultiply(turn)
        .premultiply(back.makeTranslation(...track.at));
      continue;
    }
    const within = track.every > 0 ? seconds % track.every : seconds;
    out.premultiply(back.makeTranslation(...(track.rate.map((value) => value * within) as [number, number, number])));
  }
  return out;
}
