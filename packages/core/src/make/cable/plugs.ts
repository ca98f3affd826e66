import { curveLengths } from '../../curve/arc-length.js';
import { type CurveSet, curveCount } from '../../curve/curve-set.js';
import { Walk } from '../../curve/walk.js';
import { boundsOf } from '../../mesh/measure.js';
import type { Mesh } from '../../mesh/mesh.js';
import { childId } from '../../numeric/random.js';
import { addScaled, cross, dot, length, normalize, scale, upAcross, type Vec3, vec3 } from '../../numeric/vector.js';
import { createHit } from '../../surface/surface.js';
import type { PlacedPart } from '../../unit/carriers.js';
import type { BuildContext } from '../../unit/unit.js';
import { laidAlong, propElement, reportElement } from '../elements/prop-element.js';
import { type Cable, WALL_REACH } from './course.js';
import { placementsOf } from './holders.js';
import { lampMesh, PLUGS, type PlugKind, plugShape } from './plug-shapes.js';

/** A prop as a plug is this many radii of its cable wide. */
const OWN_WIDTH = 2;

/** What is at one kind of end: its stuffs, how long it is, and where a lamp sits, in radii of its cable. */
interface Fitted {
  body: Mesh;
  metal?: Mesh;
  length: number;
  lamp: readonly [number, number];
}

function fittedFor(
  kind: PlugKind,
  { plugProp }: Cable,
  sides: number,
  { surroundings }: Pick<BuildContext, 'surroundings'>,
): Fitted | undefined {
  if (kind === 'none') return undefined;
  if (kind !== 'own') return { ...plugShape(kind, sides), length: PLUGS[kind].length, lamp: PLUGS[kind].lamp };
  const mesh = propElement(plugProp, surroundings);
  if (!mesh) return { ...plugShape('gland', sides), length: PLUGS.gland.length, lamp: PLUGS.gland.lamp };
  const laid = laidAlong(mesh);
  const { min, max } = boundsOf(laid.position);
  // its foot where the cable comes in
  const position = laid.position.map((value, i) => OWN_WIDTH * (i % 3 === 2 ? value - min[2] : value));
  return {
    body: { ...laid, position },
    length: OWN_WIDTH * (max[2] - min[2]),
    lamp: [(OWN_WIDTH * (max[2] - min[2])) / 2, OWN_WIDTH * max[0]],
  };
}

/** How long what is at both ends is, with its distance from the ends of the line, metres: this far a cable runs straight. */
export function plugLengths(p: Cable, size: number, context: Pick<BuildContext, 'surroundings'>): [number, number] {
  return [p.startPlug, p.endPlug].map((kind) => {
    const fitted = fittedFor(kind as PlugKind, p, 8, context);
    return fitted ? Math.max(0, fitted.length * p.plugSize * size - p.plugOffset * size) : 0;
  }) as [number, number];
}

/** Which way the top of a plug looks: off the wall beside it where there is one, else up. */
function topOf(at: Vec3, way: Vec3, within: number, { surroundings }: Pick<BuildContext, 'surroundings'>): Vec3 {
  const hit = createHit();
  if (surroundings.closest(at[0], at[1], at[2], hit, within) === undefined) return upAcross(vec3(), way);
  const off = addScaled(vec3(), hit.normal, way, -dot(hit.normal, way));
  return length(off) < 0.5 ? upAcross(vec3(), way) : normalize(off, off);
}

/** Plugs with their metal and lamps, on the ends of cables: one part a kind and stuff. */
export function plugsOn(lines: CurveSet, p: Cable, size: number, sides: number, context: BuildContext): PlacedPart[] {
  const parts: PlacedPart[] = [];
  const lengths = curveLengths(lines);
  if (p.startPlug === 'own' || p.endPlug === 'own')
    reportElement(p.plugProp, propElement(p.plugProp, context.surroundings), context.report);
  [p.startPlug, p.endPlug].forEach((kind, side) => {
    const fitted = fittedFor(kind as PlugKind, p, sides, context);
    if (!fitted) return;
    const big = size * p.plugSize;
    const standing = Array.from({ length: curveCount(lines) }, (_, c) => c).flatMap((c) => {
      if (lines.closed[c]) return [];
      const walk = new Walk(lines, c);
      const along = side === 0 ? 0 : lengths[c];
      const z = scale(vec3(), walk.directionAt(side === 0 ? 0 : walk.length, vec3()), side === 0 ? -1 : 1);
      const end = walk.pointAt(side === 0 ? 0 : walk.length, vec3());
      const at = addScaled(vec3(), end, z, p.plugOffset * size - fitted.length * big);
      const x = topOf(at, z, WALL_REACH * size, context);
      const y = cross(vec3(), z, x);
      const axes = (by: number) => ({ x: scale(vec3(), x, by), y: scale(vec3(), y, by), z: scale(vec3(), z, by) });
      return [
        {
          id: childId(lines.id[c], 50 + side),
          curve: c,
          along,
          at,
          ...axes(big),
          lamp: addScaled(vec3(), addScaled(vec3(), at, z, fitted.lamp[0] * big), x, fitted.lamp[1] * big) as Vec3,
        },
      ];
    });
    if (standing.length === 0) return;
    const where = side === 0 ? 'start' : 'end';
    const part = (
      id: string,
      name: string,
      slot: string,
      mesh: Mesh,
      all: readonly (typeof standing)[number][],
    ): void => {
      parts.push({ kind: 'placed', id: `${id}-${where}`, name, slot, mesh, places: placementsOf(all) });
    };
    part('plugs', 'Plugs', 'plugs', fitted.body, standing);
    if (fitted.metal) part('contacts', 'Contacts', 'metal', fitted.metal, standing);
    if (p.lamp)
      part(
        'lamps',
        'Lamps',
        'lamps',
        lampMesh(12),
        standing.map((one) => ({ ...one, at: one.lamp })),
      );
  });
  return parts;
}
