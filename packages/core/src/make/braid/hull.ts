import { type CurveSet, curveCount, POINT } from '../../curve/curve-set.js';
import { roundedBoxSection, roundSection } from '../../section/section.js';
import { capSize } from '../../sweep/caps.js';
import { sweep } from '../../sweep/sweep.js';
import type { Part, SweptBody } from '../../unit/carriers.js';
import { markHull, type Tinting } from '../bundle/attributes.js';
import { COLUMNS, wholeBody } from '../bundle/hull.js';
import type { Course } from '../bundle/strands.js';
import type { Lying } from './lay.js';

/** How flat a flat braid's corners are. */
const ROUNDING = 0.9;

/** A braid as its hull: a tube with the normals of the strands that lie on top at each place, or a flat band. */
export function braidHull(
  course: Course,
  lying: Lying,
  leastBend: number,
  tinting: Tinting,
): { part: Part; body: SweptBody } {
  const { rails, frames, radius } = course;
  const { weave, size, roll } = lying;
  const high = size.radius + size.waves.reduce((a, b) => Math.max(a, b), 0);
  const section = weave.flat ? roundedBoxSection(1 / high, ROUNDING, 4) : roundSection(COLUMNS);
  const mesh = sweep(rails, section, {
    frames,
    radius: weave.flat ? radius.map((value) => value * high) : radius,
    roll: Float32Array.from(radius, (_, p) => roll(p)),
    start: 'flat',
    end: 'flat',
    hardAngle: Math.PI,
  });
  const columns = section.x.length;
  const ends = capSize(section, 'flat').vertices;
  const which = new Uint32Array(columns);
  markHull(mesh, course, { section, start: 'flat', end: 'flat' }, which, 1, { ...tinting, variation: 0 });
  if (weave.flat) return { part: partOf(mesh), body: wholeBody(course, leastBend) };
  const before = mesh.position.slice();
  let vertex = 0;
  let cap = columns * rails.closed.reduce((sum, closed, c) => sum + rails.start[c + 1] - rails.start[c] + closed, 0);
  for (let c = 0; c < curveCount(rails); c++) {
    const first = vertex;
    const points = rails.start[c + 1] - rails.start[c];
    for (let ring = 0; ring < points + rails.closed[c]; ring++) {
      const p = rails.start[c] + (ring % points);
      for (let k = 0; k < columns; k++, vertex++)
        relieve(mesh, vertex, course, lying, p, Math.atan2(section.y[k], section.x[k]));
    }
    if (rails.closed[c]) continue;
    for (const ring of [first, vertex - columns]) {
      for (let v = cap; v < cap + ends; v++) followRim(mesh.position, before, v, ring, columns);
      cap += ends;
    }
  }
  return { part: partOf(mesh), body: wholeBody(course, leastBend) };
}

const partOf = (mesh: ReturnType<typeof sweep>): Part => ({
  kind: 'mesh',
  id: 'hull',
  name: 'Hull',
  slot: 'main',
  mesh,
});

/** A flat end stays on its ring: where its rim stood on a place of the ring, it goes where that went. */
function followRim(position: Float32Array, before: Float32Array, v: number, ring: number, columns: number): void {
  for (let k = ring; k < ring + columns; k++)
    if ([0, 1, 2].every((n) => before[3 * v + n] === before[3 * k + n])) {
      position.copyWithin(3 * v, 3 * k, 3 * k + 3);
      return;
    }
}

/** Turns over which a strand's direction is taken. */
const STEP = 1e-4;

/** Length of one turn at a point, in half-widths of the braid there. */
function pitchAt({ pointData }: CurveSet, turns: ArrayLike<number>, radius: Float32Array, p: number): number {
  const along = pointData[POINT.along];
  const [a, b] = p > 0 && along[p] > along[p - 1] ? [p - 1, p] : [p, p + 1];
  const turned = turns[b] - turns[a];
  return turned > 0 && radius[p] > 0 ? (along[b] - along[a]) / turned / radius[p] : 1;
}

/** Draws one vertex in to the strand on top in its direction, and gives it that strand's normal. */
function relieve(
  { position, normal: out }: { position: Float32Array; normal: Float32Array },
  v: number,
  { rails, frames: { tangent, normal }, radius }: Course,
  { weave, size, turns, roll }: Lying,
  p: number,
  angle: number,
): void {
  const [cos, sin] = [Math.cos(angle), Math.sin(angle)];
  const pitch = pitchAt(rails, turns, radius, p);
  let [far, nx, ny, nz] = [size.middle - size.radius, cos, sin, 0];
  for (let k = 0; k < weave.count; k++) {
    const { x, y } = weave.at(k, turns[p], size.middle, size.waves);
    if (x * cos + y * sin < 0) continue;
    // its direction there, in the frame of the line
    const next = weave.at(k, turns[p] + STEP, size.middle, size.waves);
    const way = [(next.x - x) / STEP, (next.y - y) / STEP, pitch];
    const [tx, ty, tz] = way.map((value) => value / Math.hypot(...way));
    // where the ray leaves the round strand: |ρd − c|² − ((ρd − c)·t)² = r²
    const along = cos * tx + sin * ty;
    const own = x * tx + y * ty;
    const square = 1 - along * along;
    const half = cos * x + sin * y - along * own;
    const room = half * half - square * (x * x + y * y - own * own - size.radius ** 2);
    if (room < 0) continue;
    const out = (half + Math.sqrt(room)) / square;
    if (out < far) continue;
    far = out;
    const [vx, vy] = [out * cos - x, out * sin - y];
    const on = vx * tx + vy * ty;
    [nx, ny, nz] = [vx - on * tx, vy - on * ty, -on * tz].map((value) => value / size.radius);
  }
  const [c, s] = [Math.cos(roll(p)), Math.sin(roll(p))];
  const turned = (x: number, y: number) => [x * c - y * s, x * s + y * c] as const;
  const [px, py] = turned(far * cos, far * sin);
  const [mx, my] = turned(nx, ny);
  for (let n = 0; n < 3; n++) {
    const [a, b] = [3 * p + ((n + 1) % 3), 3 * p + ((n + 2) % 3)];
    const binormal = tangent[a] * normal[b] - tangent[b] * normal[a];
    position[3 * v + n] = rails.position[3 * p + n] + radius[p] * (px * normal[3 * p + n] + py * binormal);
    out[3 * v + n] = mx * normal[3 * p + n] + my * binormal + nz * tangent[3 * p + n];
  }
}
