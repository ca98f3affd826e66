import { curveCount } from '../../curve/curve-set.js';
import { roundedBoxSection, roundSection } from '../../section/section.js';
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
  const which = new Uint32Array(columns);
  markHull(mesh, course, { section, start: 'flat', end: 'flat' }, which, 1, { ...tinting, variation: 0 });
  if (weave.flat) return { part: partOf(mesh), body: wholeBody(course, leastBend) };
  let vertex = 0;
  for (let c = 0; c < curveCount(rails); c++) {
    const points = rails.start[c + 1] - rails.start[c];
    for (let ring = 0; ring < points + rails.closed[c]; ring++) {
      const p = rails.start[c] + (ring % points);
      for (let k = 0; k < columns; k++, vertex++)
        relieve(mesh, vertex, course, lying, p, Math.atan2(section.y[k], section.x[k]));
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
  // strands lie slantwise in the cross-section: they are broader there than they are thick
  const slant = size.radius * Math.hypot(1, (2 * Math.PI * size.middle) / weave.crossings);
  let [far, nx, ny] = [size.middle - size.radius, cos, sin];
  for (let k = 0; k < weave.count; k++) {
    const { x, y } = weave.at(k, turns[p], size.middle, size.waves);
    const on = x * cos + y * sin;
    const beside = y * cos - x * sin;
    if (on < 0 || Math.abs(beside) > slant) continue;
    const lift = size.radius * Math.sqrt(1 - (beside / slant) ** 2);
    if (on + lift < far) continue;
    far = on + lift;
    const lean = -beside / slant;
    const up = Math.sqrt(1 - lean * lean);
    [nx, ny] = [up * cos + lean * sin * -1, up * sin + lean * cos];
  }
  const [c, s] = [Math.cos(roll(p)), Math.sin(roll(p))];
  const turned = (x: number, y: number) => [x * c - y * s, x * s + y * c] as const;
  const [px, py] = turned(far * cos, far * sin);
  const [mx, my] = turned(nx, ny);
  for (let n = 0; n < 3; n++) {
    const [a, b] = [3 * p + ((n + 1) % 3), 3 * p + ((n + 2) % 3)];
    const binormal = tangent[a] * normal[b] - tangent[b] * normal[a];
    position[3 * v + n] = rails.position[3 * p + n] + radius[p] * (px * normal[3 * p + n] + py * binormal);
    out[3 * v + n] = mx * normal[3 * p + n] + my * binormal;
  }
}
