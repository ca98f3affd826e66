import { transformMesh } from '../mesh/transform.js';
import { withUv } from '../part/part.js';
import type { Part, Placements } from '../unit/carriers.js';
import { type RideTrack, riddenTo, slidRepeats, type Track, turnedBy } from './track.js';

/**
 * A part where its track has carried it, `phase` of the way through the loop.
 * @param repeat metres of one repeat of its texture
 */
export function movedPart(part: Part, track: Track, phase: number, repeat?: number): Part {
  if (track.kind === 'ride') return part.kind === 'placed' ? { ...part, places: riddenPlaces(track, phase) } : part;
  if (track.kind === 'slide') {
    const by = slidRepeats(track, repeat) * phase;
    return withUv(part, (uv) => uv.map((value, i) => (i % 2 === 1 ? value - by : value)));
  }
  return part.kind === 'mesh'
    ? { ...part, mesh: transformMesh(part.mesh, turnedBy(track, phase, new Float64Array(16))) }
    : part;
}

/** Those places of a riding part that are there at a time. @param curve which of the piece's lines it rides along */
export function riddenPlaces(track: RideTrack, phase: number, curve = 0): Placements {
  const { id, first, of, rail, steps, colour } = track;
  const all = riddenTo(track, phase, new Float32Array(track.local.length));
  const there = [...id.keys()].filter((n) => all[16 * n + 15] !== 0);
  const length = rail.along[rail.along.length - 1];
  const share = (n: number) => (first[n] + steps * phase) / of;
  return {
    id: Uint32Array.from(there, (n) => id[n]),
    matrix: Float32Array.from({ length: 16 * there.length }, (_, i) => all[16 * there[i >> 4] + (i & 15)]),
    along: Float32Array.from(there, (n) => (share(n) - Math.floor(share(n))) * length),
    curve: new Uint32Array(there.length).fill(curve),
    ...(colour
      ? {
          colour: Float32Array.from(
            { length: 3 * there.length },
            (_, i) => colour[3 * there[Math.floor(i / 3)] + (i % 3)],
          ),
        }
      : {}),
  };
}
