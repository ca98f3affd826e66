import { type CapWriter, type EndRing, putQuad, sideNormals } from './cap-writer.js';

/** A step of an end from where the last one stood: outwards from the rim, and on along the line, in least reaches. */
export interface CapStep {
  out: number;
  on: number;
}

/**
 * Bands between rings that are off each other, with sharp edges between: places move along the mitre of their two
 * sides, so that the outline keeps its distance; a band's normal is its side's own, leaning as the band does.
 * Returns the first vertex of the last ring; the middle of `ring` goes along.
 */
export function writeSteps(
  writer: CapWriter,
  ringAt: number,
  ring: EndRing,
  out: 1 | -1,
  steps: readonly CapStep[],
): number {
  if (steps.length === 0) return ringAt;
  const { mesh, section } = writer;
  const { position, normal, uv } = mesh;
  const columns = section.x.length;
  const { axis, center } = ring;
  const { move, least, most } = movesOf(writer, ringAt, ring, steps[0].out);
  const sides = sideNormals(writer, ringAt, axis);
  let from = ringAt;
  for (const asked of steps) {
    // a bevel is as deep as it is wide, also where the outline allows less
    const less = asked.out < 0 ? Math.min(1, most / -asked.out) : 1;
    const step = { out: less * asked.out, on: less * asked.on };
    const size = Math.hypot(step.out, step.on) || 1;
    const base = writer.vertex;
    for (let k = 0; k < 2 * columns; k++) {
      const column = 3 * (k % columns);
      const to = 3 * (base + k);
      const far = k < columns ? 0 : least;
      for (let n = 0; n < 3; n++) {
        const moved = step.out * move[column + n] + out * step.on * axis[n];
        position[to + n] = position[3 * from + column + n] + far * moved;
        normal[to + n] = (step.on * sides[column + n] - out * step.out * axis[n]) / size;
      }
      uv[(2 * to) / 3] = section.u[k % columns];
      uv[(2 * to) / 3 + 1] = ring.v + out * far * size;
    }
    for (const a of section.face) putQuad(writer, base + a, columns, out);
    for (let n = 0; n < 3; n++) center[n] += out * step.on * least * axis[n];
    ring.v += out * least * size;
    writer.vertex = base + 2 * columns;
    from = base + columns;
  }
  return from;
}

/**
 * Of each column, how it moves where the outline moves outwards by 1 (inwards where `way` is below 0): along the mitre of
 * its sides; away from the middle where a side would turn round as it shrinks. `least` is the way from the middle to the
 * nearest side, `most` how far the outline can move inwards, in those.
 */
function movesOf({ mesh, section }: CapWriter, ringAt: number, { center, axis }: EndRing, way: number) {
  const { position } = mesh;
  const { rim } = section;
  const count = rim.length;
  const place = (k: number) => {
    const at = 3 * (ringAt + rim[k % count]);
    return [position[at], position[at + 1], position[at + 2]];
  };
  /** Unit normal of the side from a place to the next, out of the outline, its length, and how far from the middle it runs. */
  const sides = Array.from(rim, (_, k) => {
    const [a, b] = [place(k), place(k + 1)];
    const d = [b[0] - a[0], b[1] - a[1], b[2] - a[2]];
    const n = [d[1] * axis[2] - d[2] * axis[1], d[2] * axis[0] - d[0] * axis[2], d[0] * axis[1] - d[1] * axis[0]];
    const length = Math.hypot(...n);
    const normal = n.map((value) => value / (length || 1));
    return { normal, length, far: normal.reduce((sum, value, i) => sum + value * (a[i] - center[i]), 0) };
  });
  /** Tangent of half the turn from the side before a place to the side after it: this much a side grows there. */
  const turn = (k: number) => {
    const [u, v] = [sides[(k + count - 1) % count].normal, sides[k % count].normal];
    const sine = dotOf(axis, [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]]);
    return sine / Math.max(MIN_LEAN, 1 + dotOf(u, v));
  };
  const least = sides.reduce((a, { far }) => Math.min(a, far), Infinity);
  const room = sides.reduce((a, { length }, k) => {
    const grows = Math.sign(way) * (turn(k) + turn(k + 1));
    return grows < 0 ? Math.min(a, -length / grows) : a;
  }, Infinity);
  const most = (MAX_SHRINK * room) / (least || 1);
  const mitred = way < 0 || way <= most;
  const move = new Float64Array(3 * section.x.length);
  let column = 0;
  const put = (k: number) => {
    const [u, v] = [sides[(k + count - 1) % count].normal, sides[k % count].normal];
    const lean = Math.max(MIN_LEAN, 1 + dotOf(u, v));
    const at = place(k);
    for (let n = 0; n < 3; n++)
      move[3 * column + n] = mitred ? (u[n] + v[n]) / lean : (at[n] - center[n]) / (least || 1);
    column++;
  };
  // the columns of one place stand together; what follows the last one is the first again
  for (let k = 0; k < count; k++) while (column <= rim[k]) put(k);
  while (column < section.x.length) put(0);
  return { move, least, most };
}

const dotOf = (a: ArrayLike<number>, b: ArrayLike<number>): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];

/** Of the room that an outline has to shrink, this much is used: no side vanishes. */
const MAX_SHRINK = 0.8;
/** Sharper corners are cut short as if they were no sharper than this. */
const MIN_LEAN = 0.25;
