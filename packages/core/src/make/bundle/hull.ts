import { type Column, inColumns, roundSection, type Section } from '../../section/section.js';
import { sweep } from '../../sweep/sweep.js';
import type { Part, SweptBody } from '../../unit/carriers.js';
import { markHull, type Tinting } from './attributes.js';
import type { Course } from './strands.js';

/** Directions in which the outermost strand is looked for. */
const LOOKS = 720;
/** Columns of a hull at least, and of each strand that is seen in it. */
export const COLUMNS = 40;
const MIN_EACH = 3;

/** Where strands are in a bundle of radius 1, untwisted, and how thick each is. */
export interface Places {
  x: ArrayLike<number>;
  y: ArrayLike<number>;
  size: ArrayLike<number>;
  /** How many times as broad as thick each is in a cross-section: strands lie slantwise in it. 1 when absent. */
  slant?: ArrayLike<number>;
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
  const each = Math.max(MIN_EACH, Math.round(COLUMNS / arcs.length));
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
      const [nx, ny] = normalOn(places, arc.strand, x, y);
      if (k > 0 || !shared(before, arc)) rim.push(columns.length);
      if (k < each || !shared(arc, after)) face.push(columns.length);
      columns.push({ x, y, nx, ny, u: 0 });
      which.push(arc.strand);
    }
  });
  if (face[face.length - 1] === columns.length - 1) {
    columns.push({ ...columns[0] });
    which.push(which[0]);
  }
  const perimeter = placedRound(columns);
  let area = 0;
  for (const f of face) area += (columns[f].x * columns[f + 1].y - columns[f + 1].x * columns[f].y) / 2;
  return {
    section: { ...inColumns(columns, face, rim), area, perimeter, round: false, domed: true },
    which: Uint32Array.from(which),
  };
}

/** The hull of this many strands that no single one shows in it: round. */
export function roundOutline(outer: number): Outline {
  const section = roundSection(COLUMNS);
  return { section, which: Uint32Array.from(section.x, (_, k) => Math.floor((k * outer) / section.x.length)) };
}

/** Writes how far round each column stands; how long it is all the way. */
function placedRound(columns: Column[]): number {
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
  const floor = floorOf(places);
  const reach = (k: number) => Math.hypot(places.x[k], places.y[k]) + places.size[k];
  const outer = Array.from(places.x as ArrayLike<number>, (_, k) => k).filter((k) => reach(k) > floor);
  const seen = Int32Array.from({ length: LOOKS }, (_, k) => outermost(places, outer, (2 * Math.PI * k) / LOOKS, floor));
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

/** Between strands of the outermost ring that are a little apart no hull looks in: it goes no deeper than where they would touch. */
function floorOf({ x, y, size }: Places): number {
  const far = Float64Array.from(x as ArrayLike<number>, (value, k) => Math.hypot(value, y[k]));
  const most = far.reduce((a, b) => Math.max(a, b), 0);
  const outer = far.reduce((sum, d, k) => sum + (d > most - size[k] / 2 ? 1 : 0), 0);
  return 0.97 * most * Math.cos(Math.PI / Math.max(2, outer));
}

function outermost(places: Places, outer: readonly number[], angle: number, floor: number): number {
  let far = floor;
  let best = -1;
  for (const k of outer) {
    const out = farOn(places, k, angle);
    if (out > far) [far, best] = [out, k];
  }
  return best;
}

/**
 * How far out the ray at an angle leaves a strand, which in a cross-section is an ellipse that lies across its way out:
 * (ρ cos − d)² + (ρ sin / s)² = r² solved for ρ; −1 where it does not meet it.
 */
function farOn({ x, y, size, slant }: Places, k: number, angle: number): number {
  const d = Math.hypot(x[k], y[k]);
  const turn = angle - Math.atan2(y[k], x[k]);
  const [cos, sin] = [Math.cos(turn), Math.sin(turn) / (slant?.[k] ?? 1)];
  const square = cos * cos + sin * sin;
  const room = (cos * d) ** 2 - square * (d * d - size[k] ** 2);
  if (room < 0) return -1;
  return (cos * d + Math.sqrt(room)) / square;
}

/** Where the ray leaves it; at its rim where the ray just misses. */
function onCircle(places: Places, k: number, angle: number): [number, number] {
  const far = farOn(places, k, angle);
  const out = far >= 0 ? far : Math.hypot(places.x[k], places.y[k]);
  return [out * Math.cos(angle), out * Math.sin(angle)];
}

/** The way out of a strand at a place on it. */
function normalOn({ x, y, slant }: Places, k: number, px: number, py: number): [number, number] {
  const d = Math.hypot(x[k], y[k]);
  const [ux, uy] = d > 0 ? [x[k] / d, y[k] / d] : [1, 0];
  const [dx, dy] = [px - x[k], py - y[k]];
  const out = dx * ux + dy * uy;
  const aside = (dy * ux - dx * uy) / (slant?.[k] ?? 1) ** 2;
  const size = Math.hypot(out, aside) || 1;
  return [(out * ux - aside * uy) / size, (out * uy + aside * ux) / size];
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
