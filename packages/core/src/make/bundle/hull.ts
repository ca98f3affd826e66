import { type Column, inColumns, roundSection, type Section } from '../../section/section.js';
import { sweep } from '../../sweep/sweep.js';
import type { Part, SweptBody } from '../../unit/carriers.js';
import { markHull, type Tinting } from './attributes.js';
import type { Course } from './strands.js';

/** Directions in which the outermost strand is looked for. */
const LOOKS = 720;
/** Columns of a hull at least, and of each strand that is seen in it. */
export const COLUMNS = 40;
const LEAST_EACH = 3;

/** Where strands stand in a bundle of radius 1, untwisted, and how thick each is. */
export interface Places {
  x: ArrayLike<number>;
  y: ArrayLike<number>;
  size: ArrayLike<number>;
}

/** The outline of a bundle, of the arcs of its outermost strands, and on which strand each column lies. */
export interface Outline {
  section: Section;
  which: Uint32Array;
}

/** What is seen of the strands of a bundle from outside: arc beside arc, each with the normals of its own strand. */
export function outlineOf(places: Places): Outline {
  const arcs = arcsOf(places);
  if (arcs.length === 1) {
    const section = roundSection(COLUMNS);
    return { section, which: new Uint32Array(section.x.length).fill(arcs[0].strand) };
  }
  const columns: Column[] = [];
  const which: number[] = [];
  const face: number[] = [];
  const rim: number[] = [];
  const each = Math.max(LEAST_EACH, Math.round(COLUMNS / arcs.length));
  arcs.forEach((arc, n) => {
    const [before, after] = [arcs.at(n - 1) ?? arc, arcs[(n + 1) % arcs.length]];
    const shared = (a: Arc, b: Arc) => Math.abs(wrapped(b.from - a.to)) < 1e-9;
    for (let k = 0; k <= each; k++) {
      const angle = arc.from + ((arc.to - arc.from) * k) / each;
      let [x, y] = onCircle(places, arc.strand, angle);
      const neighbour = k === 0 ? before : k === each ? after : undefined;
      // where two meet they share a place to the bit, whichever comes first
      if (neighbour && (k === 0 ? shared(before, arc) : shared(arc, after))) {
        const [first, second] = k === 0 ? [before, arc] : [arc, after];
        const [a, b] = [onCircle(places, first.strand, second.from), onCircle(places, second.strand, second.from)];
        [x, y] = [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2];
      }
      const [cx, cy] = [x - places.x[arc.strand], y - places.y[arc.strand]];
      const far = Math.hypot(cx, cy) || 1;
      if (k > 0 || !shared(before, arc)) rim.push(columns.length);
      if (k < each || !shared(arc, after)) face.push(columns.length);
      columns.push({ x, y, nx: cx / far, ny: cy / far, u: 0 });
      which.push(arc.strand);
    }
  });
  if (face[face.length - 1] === columns.length - 1) {
    columns.push({ ...columns[0] });
    which.push(which[0]);
  }
  const perimeter = lettered(columns);
  let area = 0;
  for (const f of face) area += (columns[f].x * columns[f + 1].y - columns[f + 1].x * columns[f].y) / 2;
  return {
    section: { ...inColumns(columns, face, rim), area, perimeter, round: false, domed: true },
    which: Uint32Array.from(which),
  };
}

/** Writes how far round each column stands; how long it is all the way. */
function lettered(columns: Column[]): number {
  const at = [0];
  for (let k = 1; k < columns.length; k++)
    at.push(at[k - 1] + Math.hypot(columns[k].x - columns[k - 1].x, columns[k].y - columns[k - 1].y));
  const all = at[at.length - 1];
  columns.forEach((column, k) => {
    column.u = at[k] / all;
  });
  return all;
}

interface Arc {
  strand: number;
  from: number;
  to: number;
}

/** The arcs that are seen, counter-clockwise. */
function arcsOf(places: Places): Arc[] {
  const seen = Int32Array.from({ length: LOOKS }, (_, k) => outermost(places, (2 * Math.PI * k) / LOOKS));
  const first = seen.findIndex((strand, k) => strand >= 0 && strand !== seen[(k + LOOKS - 1) % LOOKS]);
  if (first < 0) return [{ strand: Math.max(0, seen[0]), from: 0, to: 2 * Math.PI }];
  const arcs: Arc[] = [];
  const step = (2 * Math.PI) / LOOKS;
  for (let k = first; k < first + LOOKS; ) {
    const strand = seen[k % LOOKS];
    let end = k + 1;
    while (end < first + LOOKS && seen[end % LOOKS] === strand) end++;
    // between two that meet the border lies halfway; beside a gap it ends where it was last seen
    const open = seen[end % LOOKS] < 0 || seen[(k + LOOKS - 1) % LOOKS] < 0;
    if (strand >= 0) arcs.push({ strand, from: (k - (open ? 0 : 0.5)) * step, to: (end - (open ? 1 : 0.5)) * step });
    k = end;
  }
  return arcs.filter(({ from, to }) => to > from);
}

function outermost({ x, y, size }: Places, angle: number): number {
  const [cos, sin] = [Math.cos(angle), Math.sin(angle)];
  let far = 0;
  let best = -1;
  for (let k = 0; k < x.length; k++) {
    const on = x[k] * cos + y[k] * sin;
    const beside = y[k] * cos - x[k] * sin;
    const room = size[k] * size[k] - beside * beside;
    if (room < 0) continue;
    const out = on + Math.sqrt(room);
    if (out > far) [far, best] = [out, k];
  }
  return best;
}

function onCircle({ x, y, size }: Places, k: number, angle: number): [number, number] {
  const [cos, sin] = [Math.cos(angle), Math.sin(angle)];
  const out = x[k] * cos + y[k] * sin + Math.sqrt(Math.max(0, size[k] ** 2 - (y[k] * cos - x[k] * sin) ** 2));
  return [out * cos, out * sin];
}

const wrapped = (angle: number): number => angle - 2 * Math.PI * Math.round(angle / (2 * Math.PI));

/** A bundle as its hull: one skin that turns as its strands do. */
export function hullOf(
  course: Course,
  { section, which }: Outline,
  roll: Float32Array,
  { depth, leastBend, tinting }: { depth: number; leastBend: number; tinting: Tinting },
): { part: Part; body: SweptBody } {
  const { rails, frames, radius } = course;
  const mesh = sweep(rails, section, { frames, radius, roll, start: 'flat', end: 'flat', hardAngle: Math.PI });
  markHull(mesh, course, { section, start: 'flat', end: 'flat' }, which, depth, tinting);
  return { part: { kind: 'mesh', id: 'hull', name: 'Hull', slot: 'main', mesh }, body: wholeBody(course, leastBend) };
}

/** A bundle as one round thing, which the checks hold against others. */
export const wholeBody = ({ rails, radius }: Course, leastBend: number): SweptBody => ({
  id: 'bundle',
  curves: rails,
  section: { radius, least: 1 },
  leastBend,
});
