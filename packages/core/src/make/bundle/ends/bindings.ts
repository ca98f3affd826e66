import { curveLengths } from '../../../curve/arc-length.js';
import { curveCount } from '../../../curve/curve-set.js';
import { rotationMinimizingFrames } from '../../../curve/frames.js';
import type { Mesh } from '../../../mesh/mesh.js';
import { roundSection } from '../../../section/section.js';
import { sweep } from '../../../sweep/sweep.js';
import type { Part } from '../../../unit/carriers.js';
import type { Course } from '../strands.js';
import { stretchOf } from '../stretch.js';
import { loosened } from './fray.js';
import type { EndChoice } from './parameters.js';

/** Points of the twine for each time it goes round, and at most how often it does. */
const ROUND = 20;
const MAX_ROUNDS = 400;
/** Twine is wound so far from the end, of what it is wound over. */
const BEFORE_END = 0.15;
/** A melted end is this much thicker than its rope, and its cap sits so far before the end, in radii. */
const MELTED = 1.08;
const CAP_BEFORE = 0.32;
const SEAL_RINGS = 12;

/** What closes the whipped and sealed ends of bundles: twine, and what has melted together. */
export function bindingsOf(
  course: Course,
  ends: Readonly<Record<'start' | 'end', EndChoice>>,
  { twine, sides }: { twine: number; sides: number },
): Part[] {
  const parts: Part[] = [];
  const lengths = curveLengths(course.rails);
  for (const which of ['start', 'end'] as const) {
    const end = ends[which];
    const meshes: Mesh[] = [];
    for (let c = 0; c < curveCount(course.rails); c++) {
      if (course.rails.closed[c]) continue;
      const at = which === 'end' ? course.rails.start[c + 1] - 1 : course.rails.start[c];
      const over = loosened(lengths[c], course.radius[at], end);
      if (!(over > 0)) continue;
      // measured from the end inwards
      const place = (away: number) => (which === 'end' ? lengths[c] - away : away);
      if (end.kind === 'whipped') meshes.push(whipping(course, c, place(over), place(BEFORE_END * over), twine, sides));
      if (end.kind === 'sealed')
        meshes.push(seal(course, c, place(over), place(Math.min(0.9 * over, CAP_BEFORE * course.radius[at])), sides));
    }
    if (meshes.length === 0) continue;
    const [id, name] = end.kind === 'whipped' ? ['whipping', 'Whipping'] : ['seal', 'Sealed end'];
    parts.push(
      ...meshes.map((mesh, n) => ({
        kind: 'mesh' as const,
        id: `${id}-${which}-${n}`,
        name,
        slot: id,
        mesh: { ...mesh, groups: [{ start: 0, count: mesh.index.length, slot: id }] },
      })),
    );
  }
  return parts;
}

/** Twine round and round a bundle, side by side, its ends led under it. */
function whipping(course: Course, c: number, from: number, to: number, share: number, sides: number): Mesh {
  const length = Math.abs(to - from);
  const middle = stretchOf(course, c, from, to, 9, 1).radius[4];
  const twine = Math.max(share * middle, length / 2 / MAX_ROUNDS);
  const rounds = Math.max(1, length / (2 * twine));
  const points = Math.max(12, Math.round(ROUND * rounds));
  const { rails, radius } = stretchOf(course, c, from, to, points, 2);
  const { tangent, normal } = rotationMinimizingFrames(rails);
  for (let k = 0; k < points; k++) {
    const turns = (rounds * k) / (points - 1);
    const tucked = Math.min(1, turns * 4, (rounds - turns) * 4);
    const far = radius[k] * (0.8 + 0.2 * tucked) + twine;
    const [cos, sin] = [Math.cos(2 * Math.PI * turns), Math.sin(2 * Math.PI * turns)];
    const [i, j, l] = [3 * k, 3 * k + 1, 3 * k + 2];
    const binormal = [
      tangent[j] * normal[l] - tangent[l] * normal[j],
      tangent[l] * normal[i] - tangent[i] * normal[l],
      tangent[i] * normal[j] - tangent[j] * normal[i],
    ];
    for (let n = 0; n < 3; n++) rails.position[i + n] += far * (cos * normal[i + n] + sin * binormal[n]);
  }
  rails.pointData = {};
  rails.curveData = {};
  return sweep(rails, roundSection(Math.max(5, Math.min(sides, 10))), {
    radius: twine,
    start: 'round',
    end: 'round',
    hardAngle: Math.PI,
  });
}

/** A cap of what has melted, with a soft rim where it runs out between the strands. */
function seal(course: Course, c: number, from: number, to: number, sides: number): Mesh {
  const { rails, radius } = stretchOf(course, c, from, to, SEAL_RINGS, 3);
  const thick = radius.map((value, k) => {
    const t = Math.min(1, k / 5);
    return value * (0.9 + (MELTED - 0.9) * t * (2 - t));
  });
  const section = roundSection(Math.max(16, 2 * sides));
  return sweep(rails, section, { radius: thick, start: 'flat', end: 'round', hardAngle: Math.PI });
}
