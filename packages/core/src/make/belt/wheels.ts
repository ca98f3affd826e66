import { type Mesh, vertexCount } from '../../mesh/mesh.js';
import { transformMesh } from '../../mesh/transform.js';
import type { TurnTrack } from '../../motion/track.js';
import { addScaled, cross, dot, normalize, pointOf, subtract, turn, type Vec3, vec3 } from '../../numeric/vector.js';
import type { MeshPart } from '../../unit/carriers.js';
import type { WheelArc } from './arcs.js';
import type { BeltChoice } from './belt.js';
import { FLANK, rollerOf, TOOTH, toothDeep } from './links.js';
import type { BeltRail } from './rails.js';
import { reachOf } from './sizes.js';
import type { BeltSteps } from './steps.js';
import { type Teeth, type WheelForm, wheelMesh } from './wheel-mesh.js';

/** A groove is a little deeper than its belt. */
const DEEPER = 1.15;

/** Names the track of a wheel that is a prop, by its place in the list of wheels, from 1 on. */
export const PROP_WHEEL = 'prop-wheel-';

/** A wheel with more teeth than these is plain to the eye, and made so. */
const MAX_TEETH = 1000;

/** Teeth that a wheel has on its circle; 0 where it runs on plain. */
export function teethOf(arc: WheelArc, belt: BeltRail, { count, length }: BeltSteps, { kind }: BeltChoice): number {
  if ((kind !== 'toothed' && kind !== 'roller') || count === 0 || !liesInside(arc, belt)) return 0;
  const teeth = Math.round((2 * Math.PI * arc.radius * count) / length);
  return teeth <= MAX_TEETH ? teeth : 0;
}

/** Whether the belt's inner face lies on a wheel. */
export function liesInside({ first, centre, last }: WheelArc, { rail, arcs }: BeltRail): boolean {
  const i = 3 * (((first + last) >> 1) - arcs[0].first);
  const out = subtract(vec3(), rail.position.subarray(i, i + 3), centre);
  return dot(out, rail.outward.subarray(i, i + 3)) > 0;
}

/** The wheels of a loop, each where it is and how it turns; of one that is a prop only how that turns. */
export function wheelsOf(
  belt: BeltRail,
  steps: BeltSteps,
  p: BeltChoice,
  sides: number,
): { name: string; part?: MeshPart; track?: TurnTrack }[] {
  const known = new Map<string, Mesh>();
  return belt.arcs.flatMap((arc) => {
    const turns = arc.off > 0 ? 0 : steps.travel / (2 * Math.PI * arc.radius);
    const track = turns !== 0 ? { track: { kind: 'turn' as const, at: arc.centre, axis: arc.axis, turns } } : {};
    if (arc.there) return [{ name: `${PROP_WHEEL}${arc.number + 1}`, ...track }];
    if (p.wheel === 'none') return [];
    const form = formOf(arc, belt, steps, p, sides);
    // wheels alike are built once
    const key = JSON.stringify(form);
    const mesh = known.get(key) ?? wheelMesh(form);
    known.set(key, mesh);
    if (vertexCount(mesh) === 0) return [];
    const name = `wheel-${arc.number + 1}`;
    const part: MeshPart = {
      kind: 'mesh',
      id: name,
      name: `Wheel ${arc.number + 1}`,
      slot: 'wheels',
      mesh: transformMesh(mesh, standing(arc, belt, steps, p.kind)),
    };
    return [{ name, part, ...track }];
  });
}

function formOf(arc: WheelArc, belt: BeltRail, steps: BeltSteps, p: BeltChoice, sides: number): WheelForm {
  const inside = liesInside(arc, belt);
  const { below, over } = reachOf(p);
  const count = teethOf(arc, belt, steps, p);
  const roller = rollerOf(p.pitch);
  const deep = toothDeep(p);
  // the band of a toothed belt, and a V-belt's top, end with their wheels' faces
  const radius =
    arc.radius - (inside ? (p.kind === 'toothed' ? below - deep : p.kind === 'roller' ? roller : below) : over);
  const half = (p.face * p.width) / 2;
  const pitch = steps.count > 0 ? steps.length / steps.count : p.pitch;
  const teeth: Teeth | undefined =
    count >= 3
      ? {
          kind: p.kind as Teeth['kind'],
          count,
          pitchRadius: arc.radius,
          deep,
          foot: TOOTH.foot * pitch * 1.06,
          tip: TOOTH.tip * pitch * 1.06,
          roller,
        }
      : undefined;
  const groove = p.kind === 'vee' && inside;
  return {
    radius: groove ? arc.radius + below : radius,
    half: Math.max(half, groove ? 0.7 * p.width : 0),
    rim: p.rim,
    hub: p.hub,
    flange: p.flange > 0 ? { high: p.flange * p.thickness, half: Math.max(half, 0.52 * p.width) } : undefined,
    ...(groove
      ? {
          groove: {
            deep: 2 * below * DEEPER,
            above: p.width / 2,
            below: Math.max(0.08 * p.width, p.width / 2 - 2 * below * DEEPER * Math.tan(FLANK)),
          },
        }
      : {}),
    ...(teeth ? { teeth } : {}),
    spokes: p.wheel === 'spokes' ? p.spokes : 0,
    sides,
  };
}

/** Where a wheel is, its x towards the first tooth of the belt that lies on it: column-major 4×4. */
function standing(arc: WheelArc, { rail, arcs }: BeltRail, { count, length }: BeltSteps, kind: string): Float64Array {
  const i = 3 * (arc.first - arcs[0].first);
  const out = subtract(vec3(), pointOf(rail.position, i / 3), arc.centre);
  normalize(out, out);
  const pitch = count > 0 ? length / count : 0;
  // a chain's rollers are half a step off the middles of its links
  const from = kind === 'roller' ? 0.5 : 0;
  const next = pitch > 0 ? pitch * (Math.ceil(arc.along / pitch - from) + from) - arc.along : 0;
  const x = turn(vec3(), out, arc.axis, next / arc.radius);
  const y: Vec3 = cross(vec3(), arc.axis, x);
  return Float64Array.of(...x, 0, ...y, 0, ...arc.axis, 0, ...addScaled(vec3(), arc.centre, x, 0), 1);
}
