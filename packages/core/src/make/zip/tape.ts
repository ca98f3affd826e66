import type { Mesh } from '../../mesh/mesh.js';
import { withComputedNormals } from '../../mesh/normals.js';
import { addScaled, distance, vec3 } from '../../numeric/vector.js';
import type { Cloth } from '../elements/cloth.js';
import type { FramedLines } from '../elements/framed-lines.js';
import { type Gape, outFrom, samplesOn } from './halves.js';

/** How far the tape goes on into the cloth: nothing shows under its edge. Shares of its thickness. */
const INTO = 0.35;

/** How far out its tape begins from the line of the teeth, in half widths. */
const INNER = 0.3;

/**
 * One half of the tape: a thin slab each place of which lies on the cloth. Its texture goes by true lengths: u across, v along.
 * @param side 1 right of the line, −1 left @param out from the middle of the closed zip to its edge, metres
 */
export function tapeMesh(
  { lines, lengths }: FramedLines,
  c: number,
  cloth: Cloth,
  gape: Gape,
  side: 1 | -1,
  {
    half,
    out,
    thick,
    columns,
    density,
  }: { half: number; out: number; thick: number; columns: number; density: number },
): Mesh {
  const closed = lines.closed[c] === 1;
  const rows = samplesOn(lengths[c], half / density);
  const across = columns + 1;
  const position: number[] = [];
  const uv: number[] = [];
  let along = 0;
  let before = vec3();
  for (let k = 0; k < rows; k++) {
    const s = (k * lengths[c]) / (closed ? rows : rows - 1);
    for (const layer of [1, 0])
      for (let j = 0; j < across; j++) {
        const far = half * INNER + (j / columns) * (out - half * INNER);
        const [at, aside] = outFrom(gape, s, far);
        const place = cloth.place(c, at, side * aside);
        if (j === 0 && layer === 1) {
          if (k > 0) along += distance(place.at, before);
          before = place.at;
        }
        position.push(...addScaled(vec3(), place.at, place.up, layer ? thick : -INTO * thick));
        uv.push(far, along);
      }
  }
  const index: number[] = [];
  const v = (k: number, layer: 0 | 1, j: number) => (k % rows) * 2 * across + (layer ? 0 : across) + j;
  const quad = (a: number, b: number, d: number, e: number) => {
    if (side === 1) index.push(a, b, d, a, d, e);
    else index.push(a, d, b, a, e, d);
  };
  const bands = closed ? rows : rows - 1;
  for (let k = 0; k < bands; k++) {
    for (let j = 0; j < columns; j++) {
      quad(v(k, 1, j), v(k, 1, j + 1), v(k + 1, 1, j + 1), v(k + 1, 1, j));
      quad(v(k, 0, j), v(k + 1, 0, j), v(k + 1, 0, j + 1), v(k, 0, j + 1));
    }
    quad(v(k, 1, 0), v(k + 1, 1, 0), v(k + 1, 0, 0), v(k, 0, 0));
    quad(v(k, 1, columns), v(k, 0, columns), v(k + 1, 0, columns), v(k + 1, 1, columns));
  }
  if (!closed)
    for (let j = 0; j < columns; j++) {
      quad(v(0, 1, j), v(0, 0, j), v(0, 0, j + 1), v(0, 1, j + 1));
      quad(v(rows - 1, 1, j), v(rows - 1, 1, j + 1), v(rows - 1, 0, j + 1), v(rows - 1, 0, j));
    }
  const mesh = {
    position: Float32Array.from(position),
    normal: new Float32Array(position.length),
    uv: Float32Array.from(uv),
    index: Uint32Array.from(index),
    quads: 0,
    groups: [{ start: 0, count: index.length, slot: 'main' }],
  };
  return withComputedNormals(mesh, 0.9);
}
