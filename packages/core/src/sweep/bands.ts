import type { Section } from '../section/section.js';
import type { PortionWriter } from './kernel/kernel.js';
import type { Rings } from './rings.js';

/** What the bands of an index were written for: a body whose numbers change but not its divisions keeps them. */
const written = new WeakMap<Uint32Array, { face: Uint32Array; start: Uint32Array }>();

/** True when the index has the bands of these rings already; remembers that it will have. */
export function holdsBands(
  index: Uint32Array,
  { start, corners }: Pick<Rings, 'start' | 'corners'>,
  { face }: Section,
): boolean {
  const old = written.get(index);
  // the second ring of a hard edge may stand anywhere: such bodies are always written
  if (corners.size > 0) written.delete(index);
  else written.set(index, { face, start });
  return corners.size === 0 && old !== undefined && sameNumbers(old.face, face) && sameNumbers(old.start, start);
}

const sameNumbers = (a: Uint32Array, b: Uint32Array) => a.length === b.length && a.every((value, i) => value === b[i]);

/** Two triangles a face between neighbouring rings of one curve. */
export function writeBands(
  { start, side, corners }: Pick<Rings, 'start' | 'corners' | 'side'>,
  portion: PortionWriter,
  columns: number,
  index: Uint32Array,
): void {
  let i = 0;
  for (let c = 0; c + 1 < start.length; c++) {
    const last = start[c + 1] - 1;
    for (let ring = start[c]; ring < last; ) {
      let end = last;
      // the second ring of a hard edge stands where the first does: no band between them
      if (corners.size > 0) for (end = ring; end < last && side[end] >= 0; ) end++;
      i = portion.addBands(ring * columns, end - ring, index, i);
      ring = end < last ? end + 1 : last;
    }
  }
  portion.endBands(index, i);
}
