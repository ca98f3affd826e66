import { type CurveSet, curveCount } from '../../curve/curve-set.js';
import { tangentsOf } from '../../curve/tangents.js';
import { type GroundPlane, groundOff } from '../../mesh/ground.js';
import { addScaled, pointOf, type Vec3, vec3 } from '../../numeric/vector.js';
import type { Section } from '../../section/section.js';
import { capSize, type EndKind } from '../../sweep/caps.js';
import type { Made } from '../../unit/carriers.js';
import type { Wound } from './windings.js';

/** This far from its middle, in radii of the wire, an end is ground: a quarter of its thickness is left at the tip. Common practice, no source. */
const LEFT = 0.5;

/** Of what is near an end, this many radii of the wire further out than it is wound. */
const AROUND = 3;

/**
 * Grinds both ends of every open line's wires flat and square to the line. Of end turns that lie against each other that is
 * three quarters of a turn: the wire rises by its own thickness in a turn.
 */
export function groundEnds({ parts, bodies }: Made, input: CurveSet, p: Wound, section: Section): void {
  const { curves, section: wire } = bodies[0];
  const tangent = tangentsOf(input);
  const planes = Array.from({ length: curveCount(input) }, (_, c): GroundPlane[] => {
    if (input.closed[c]) return [];
    const first = curves.start[c * p.starts];
    const last = curves.start[c * p.starts + 1] - 1;
    return [
      planeAt(input, tangent, input.start[c], -1, wire.radius[first], p),
      planeAt(input, tangent, input.start[c + 1] - 1, 1, wire.radius[last], p),
    ];
  });
  const line = linesOf(curves, section, [p.start, p.end]);
  for (const part of parts)
    if (part.kind === 'mesh') part.mesh = groundOff(part.mesh, (v) => planes[Math.floor(line[v] / p.starts)]);
}

function planeAt(
  { position }: CurveSet,
  tangent: Float64Array,
  end: number,
  side: 1 | -1,
  thick: number,
  { wire }: Wound,
): GroundPlane {
  const out = pointOf(tangent, end).map((value) => side * value) as Vec3;
  const at = addScaled(vec3(), pointOf(position, end), out, -LEFT * thick);
  return { at, out, near: thick / wire + AROUND * thick };
}

/** Which wire each vertex belongs to: rings first, all wires', then their ends. */
function linesOf({ start, closed }: CurveSet, section: Section, ends: readonly string[]): Uint32Array {
  const caps = ends.reduce((sum, kind) => sum + capSize(section, kind as EndKind).vertices, 0);
  const all = Array.from(closed, (_, c) => c);
  return Uint32Array.from([
    ...all.flatMap((c) => new Array<number>((start[c + 1] - start[c] + closed[c]) * section.x.length).fill(c)),
    ...all.flatMap((c) => new Array<number>(closed[c] ? 0 : caps).fill(c)),
  ]);
}
