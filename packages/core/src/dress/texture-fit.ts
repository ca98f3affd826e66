import type { Mesh } from '../mesh/mesh.js';
import { withUv } from '../part/part.js';
import type { Part } from '../unit/carriers.js';
import { wallsOf } from './walls.js';

/** How a texture lies along the length: each repeat of its set length, evened to whole ones, or one over all. */
export type Fit = 'true' | 'whole' | 'once';

/**
 * A part with texture coordinates in repeats, from those by true length.
 * @param around repeats round the section
 * @param repeat length of one along the line, metres
 */
export function fitted(part: Part, fit: Fit, around: number, repeat: number): Part {
  if (part.kind === 'strands' || (fit === 'true' && around === 1 && repeat === 1)) return part;
  const along = fit === 'true' ? undefined : evened(part.mesh, fit, repeat);
  return withUv(part, (uv) => {
    const out = uv.slice();
    for (let v = 0; v < out.length / 2; v++) {
      out[2 * v] *= around;
      out[2 * v + 1] = along ? along[v] : out[2 * v + 1] / repeat;
    }
    return out;
  });
}

/** How many repeats on each vertex is, where the walls of each shell have whole ones, or one. */
function evened(mesh: Mesh, fit: Fit, repeat: number): Float32Array {
  const { wall, shells, low, high } = wallsOf(mesh);
  const perMetre = low.map((from, shell) => {
    const length = high[shell] - from;
    return length > 0 ? (fit === 'once' ? 1 : Math.max(1, Math.round(length / repeat))) / length : 1 / repeat;
  });
  return Float32Array.from(wall, (is, v) => {
    const own = mesh.uv[2 * v + 1];
    return is ? (own - low[shells[v]]) * perMetre[shells[v]] : own / repeat;
  });
}
