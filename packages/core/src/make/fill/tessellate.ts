import Delaunator from 'delaunator';
import type { Flat } from './outline.js';

/** Places inside keep this many spacings off the outline: nearer they would make slivers. */
const OFF = 0.7;
/** How often outlines are divided where their sides are missing in the triangulation. */
const MAX_ROUNDS = 12;

/** Triangles over outlines with holes: the outlines' places first, in order, then those inside. */
export interface Tessellation {
  place: Flat[];
  triangles: Uint32Array;
  /** Rows of places that the outlines became: a side that is no edge of the triangulation was divided. */
  rows: number[][];
  /** Of each place on an outline: the outline and how far along it, as the number of its place and share to the next. */
  origin: { loop: number; spot: number }[];
}

/**
 * A Delaunay triangulation that conforms to outlines: a hexagonal grid of places inside, and sides of outlines that are no
 * edges of it are halved until they are (Ruppert 1995, without its angle bound).
 * @param loops the rim counter-clockwise, holes clockwise
 */
export function tessellate(loops: readonly (readonly Flat[])[], spacing: number): Tessellation {
  const inner = gridInside(loops, spacing);
  let rows = loops.map((loop, l) => loop.map((place, k) => ({ place: [...place] as Flat, loop: l, spot: k })));
  for (let round = 0; ; round++) {
    const outline = rows.flat();
    const place = [...outline.map((one) => one.place), ...inner];
    const { triangles, halfedges } = Delaunator.from(place as Flat[]);
    const sides = new Set<number>();
    const count = place.length;
    for (let e = 0; e < triangles.length; e++) {
      const next = e % 3 === 2 ? e - 2 : e + 1;
      sides.add(triangles[e] * count + triangles[next]);
      if (halfedges[e] < 0) sides.add(triangles[next] * count + triangles[e]);
    }
    let first = 0;
    let missing = 0;
    const divided = rows.map((row, l) => {
      const out: typeof row = [];
      row.forEach((one, k) => {
        out.push(one);
        const [a, b] = [first + k, first + ((k + 1) % row.length)];
        if (sides.has(a * count + b) || sides.has(b * count + a)) return;
        missing++;
        const next = row[(k + 1) % row.length];
        const end = k + 1 === row.length ? loops[l].length : next.spot;
        out.push({
          place: [(one.place[0] + next.place[0]) / 2, (one.place[1] + next.place[1]) / 2],
          loop: l,
          spot: (one.spot + end) / 2,
        });
      });
      first += row.length;
      return out;
    });
    if (missing > 0 && round < MAX_ROUNDS) {
      rows = divided;
      continue;
    }
    const kept: number[] = [];
    const isIn = insideOf(triangles, halfedges, rows, count);
    for (let t = 0; t < triangles.length; t += 3) {
      if (!isIn[t / 3]) continue;
      // delaunator turns them all one way: clockwise where y points up
      kept.push(triangles[t], triangles[t + 2], triangles[t + 1]);
    }
    let at = 0;
    return {
      place,
      triangles: Uint32Array.from(kept),
      rows: rows.map((row) => row.map(() => at++)),
      origin: outline.map(({ loop, spot }) => ({ loop, spot })),
    };
  }
}

/**
 * Which triangles lie inside: from outside the hull on, each side of an outline that is crossed changes from out to in and
 * back. No place is measured, so that slivers on a straight side are on the side where the outline has them.
 */
function insideOf(
  triangles: Uint32Array,
  halfedges: Int32Array,
  rows: readonly (readonly unknown[])[],
  count: number,
): Int8Array {
  const sides = new Set<number>();
  let first = 0;
  for (const row of rows) {
    row.forEach((_, k) => {
      const [a, b] = [first + k, first + ((k + 1) % row.length)];
      sides.add(Math.min(a, b) * count + Math.max(a, b));
    });
    first += row.length;
  }
  const isSide = (e: number): number => {
    const [a, b] = [triangles[e], triangles[e % 3 === 2 ? e - 2 : e + 1]];
    return sides.has(Math.min(a, b) * count + Math.max(a, b)) ? 1 : 0;
  };
  const out = new Int8Array(triangles.length / 3).fill(-1);
  const queue: number[] = [];
  const put = (t: number, inside: number) => {
    if (out[t] >= 0) return;
    out[t] = inside;
    queue.push(t);
  };
  for (let e = 0; e < halfedges.length; e++) if (halfedges[e] < 0) put(Math.floor(e / 3), isSide(e));
  for (let t = queue.pop(); t !== undefined; t = queue.pop())
    for (let e = 3 * t; e < 3 * t + 3; e++)
      if (halfedges[e] >= 0) put(Math.floor(halfedges[e] / 3), out[t] ^ isSide(e));
  return out.map((one) => Math.max(0, one));
}

/** A hexagonal grid inside outlines, clear of their sides. Cells of the outline's sides are found by a grid of their own. */
function gridInside(loops: readonly (readonly Flat[])[], spacing: number): Flat[] {
  const xs = loops[0].map(([x]) => x);
  const ys = loops[0].map(([, y]) => y);
  const [left, right] = [xs.reduce((a, b) => Math.min(a, b)), xs.reduce((a, b) => Math.max(a, b))];
  const [low, high] = [ys.reduce((a, b) => Math.min(a, b)), ys.reduce((a, b) => Math.max(a, b))];
  const near = sidesNear(loops, spacing);
  const out: Flat[] = [];
  const rise = (spacing * Math.sqrt(3)) / 2;
  const rowsUp = Math.floor((high - low) / rise);
  for (let r = 0; r <= rowsUp; r++) {
    const y = low + r * rise;
    const crossings = loops.flatMap((loop) => crossingsAt(loop, y)).sort((a, b) => a - b);
    for (let k = 0; k + 1 < crossings.length; k += 2) {
      const from = Math.ceil((crossings[k] - left) / spacing - (r % 2) / 2);
      for (let i = from; ; i++) {
        const x = left + (i + (r % 2) / 2) * spacing;
        if (x > crossings[k + 1] || x > right) break;
        if (!near([x, y])) out.push([x, y]);
      }
    }
  }
  return out;
}

/** Where a horizontal line enters and leaves an outline. */
function crossingsAt(loop: readonly Flat[], y: number): number[] {
  const out: number[] = [];
  loop.forEach(([ax, ay], k) => {
    const [bx, by] = loop[(k + 1) % loop.length];
    if (ay > y !== by > y) out.push(ax + ((y - ay) / (by - ay)) * (bx - ax));
  });
  return out;
}

/** Reports whether a place is within `OFF` spacings of a side. */
function sidesNear(loops: readonly (readonly Flat[])[], spacing: number): (place: Flat) => boolean {
  const cells = new Map<string, [Flat, Flat][]>();
  const cell = (value: number) => Math.floor(value / spacing);
  for (const loop of loops)
    loop.forEach((a, k) => {
      const b = loop[(k + 1) % loop.length];
      const [x0, x1] = [Math.min(a[0], b[0]), Math.max(a[0], b[0])].map(cell);
      const [y0, y1] = [Math.min(a[1], b[1]), Math.max(a[1], b[1])].map(cell);
      for (let x = x0 - 1; x <= x1 + 1; x++)
        for (let y = y0 - 1; y <= y1 + 1; y++) {
          const key = `${x} ${y}`;
          const list = cells.get(key);
          if (list) list.push([a as Flat, b as Flat]);
          else cells.set(key, [[a as Flat, b as Flat]]);
        }
    });
  return (place) =>
    cells.get(`${cell(place[0])} ${cell(place[1])}`)?.some(([a, b]) => distanceTo(place, a, b) < OFF * spacing) ??
    false;
}

function distanceTo([x, y]: Flat, [ax, ay]: Flat, [bx, by]: Flat): number {
  const [dx, dy] = [bx - ax, by - ay];
  const size = dx * dx + dy * dy;
  const t = size > 0 ? Math.max(0, Math.min(1, ((x - ax) * dx + (y - ay) * dy) / size)) : 0;
  return Math.hypot(x - ax - t * dx, y - ay - t * dy);
}
