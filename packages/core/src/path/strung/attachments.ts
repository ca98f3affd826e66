import { catmullRom } from '../../curve/catmull-rom.js';
import { type CurveSet, curveCount } from '../../curve/curve-set.js';
import { shellsOf } from '../../mesh/shells.js';
import { childId, hashText } from '../../numeric/random.js';
import { addScaled, dot, pointOf, scale, subtract, upAcross, type Vec3, vec3 } from '../../numeric/vector.js';
import { type Anchor, anchorOf, anchorPosition } from '../../surface/anchor.js';
import { propSpace } from '../../surface/prop-space.js';
import { createHit, type Surface } from '../../surface/surface.js';
import type { AnchorPick } from '../../unit/parameters.js';
import type { BuildContext } from '../../unit/unit.js';

/** A place that lines are fastened to. */
export interface Attachment {
  /** Stable: whatever else is picked, and wherever it is. */
  key: number;
  at: Vec3;
  /** Off what it is on, unit; 0 where it is on nothing. */
  off: Vec3;
  /** How far it was moved since it was picked. */
  moved: Vec3;
  /** The prop it is on, where it is on one. */
  prop?: string;
}

/** Where bodies are fastened to: at their tops, at both ends of what reaches out furthest (a cross-arm), or nearest each other. */
export type Where = 'top' | 'arms' | 'near';

const HERE: Vec3 = [0, 0, 0];

export const keyOfPick = ({ on, id }: Pick<AnchorPick, 'on' | 'id'>, k = 0): number =>
  childId(hashText(`${on} ${id}`), k);

/**
 * The places that one pick gives, in a stable order; none where it is gone.
 * @param up against gravity, unit
 */
export function attachmentsOf(
  pick: AnchorPick,
  where: Where,
  ends: string,
  up: Vec3,
  context: Pick<BuildContext, 'surroundings' | 'piece' | 'curves'>,
): Attachment[] {
  const made = (places: readonly Vec3[], off = HERE, moved = HERE, prop?: string) =>
    places.map((at, k): Attachment => ({ key: keyOfPick(pick, k), at, off, moved, ...(prop ? { prop } : {}) }));
  switch (pick.on) {
    case 'place': {
      if (!pick.anchor) return made([[...pick.position]]);
      const at = new Float64Array(3);
      if (!anchorPosition(pick.anchor, context.surroundings, at, 0)) return [];
      return made(
        [[at[0], at[1], at[2]]],
        offOf(pick.anchor, context),
        subtract(vec3(), at, pick.position),
        pick.anchor.prop,
      );
    }
    case 'prop': {
      const surface = context.surroundings.surface(pick.id);
      if (!surface || surface.mesh.index.length === 0) return [];
      const moved = pick.was ? subtract(vec3(), surface.placement.position, pick.was) : HERE;
      return made(bodyPlaces(surface, where, up), up, moved, pick.id);
    }
    case 'piece': {
      const line = context.piece(pick.id)?.line;
      return line ? made(lineEnds(line, ends)) : [];
    }
    case 'curve': {
      const points = context.curves.get(pick.id);
      return points ? made(lineEnds(catmullRom(points), ends)) : [];
    }
  }
}

/** Off the face on which something is held; a ridge or an edge has the way of one of its faces. */
function offOf({ prop, triangle, barycentric }: Anchor, { surroundings }: Pick<BuildContext, 'surroundings'>): Vec3 {
  const hit = createHit();
  surroundings.surface(prop)?.place(triangle, barycentric, hit);
  return [hit.normal[0], hit.normal[1], hit.normal[2]];
}

/** First and last places of all lines that are open. */
function lineEnds(lines: CurveSet, ends: string): Vec3[] {
  const out: Vec3[] = [];
  for (let c = 0; c < curveCount(lines); c++) {
    if (lines.start[c + 1] === lines.start[c]) continue;
    if (ends !== 'end' || lines.closed[c]) out.push(pointOf(lines.position, lines.start[c]));
    if (ends !== 'start' && !lines.closed[c]) out.push(pointOf(lines.position, lines.start[c + 1] - 1));
  }
  return out;
}

/**
 * The top of what hangs together with a triangle of a prop, held on the prop. Undefined where the prop hangs together as a
 * whole: its own top is meant.
 */
export function topOfShell(
  prop: string,
  surface: Surface,
  triangle: number,
  up: Vec3,
): { position: Vec3; anchor: Anchor } | undefined {
  const { of, count } = shellsOf(surface.mesh);
  if (count === 1) return undefined;
  const shell = of[surface.mesh.index[3 * triangle]];
  const position = topOf(cloudOf(surface, up), surface, up, (i) => of[i] === shell);
  const hit = createHit();
  surface.closest(position[0], position[1], position[2], hit);
  return { position, anchor: anchorOf(prop, hit) };
}

const known = new WeakMap<Surface, Map<string, Vec3[]>>();

function bodyPlaces(surface: Surface, where: Where, up: Vec3): Vec3[] {
  const key = `${where} ${up}`;
  const kept = known.get(surface) ?? new Map<string, Vec3[]>();
  known.set(surface, kept);
  let places = kept.get(key);
  if (!places) {
    const cloud = cloudOf(surface, up);
    places = where === 'arms' ? armEnds(cloud, surface, up) : [topOf(cloud, surface, up, () => true)];
    kept.set(key, places);
  }
  return places.map((place) => [...place] as Vec3);
}

/** The vertices of a body where it is: how high, and where seen from above. */
interface Cloud {
  height: Float64Array;
  u: Float64Array;
  v: Float64Array;
  low: number;
  high: number;
  axes: readonly [Vec3, Vec3];
}

function cloudOf(surface: Surface, up: Vec3): Cloud {
  const { position } = surface.mesh;
  const count = position.length / 3;
  const space = propSpace(surface);
  const side = upAcross(vec3(), up);
  const other: Vec3 = [
    up[1] * side[2] - up[2] * side[1],
    up[2] * side[0] - up[0] * side[2],
    up[0] * side[1] - up[1] * side[0],
  ];
  const [height, u, v] = [0, 1, 2].map(() => new Float64Array(count));
  const at = vec3();
  let [low, high] = [Infinity, -Infinity];
  for (let i = 0; i < count; i++) {
    space.toWorld(position[3 * i], position[3 * i + 1], position[3 * i + 2], at, 0);
    height[i] = dot(at, up);
    u[i] = dot(at, side);
    v[i] = dot(at, other);
    low = Math.min(low, height[i]);
    high = Math.max(high, height[i]);
  }
  return { height, u, v, low, high, axes: [side, other] };
}

/** What is within such a share of the height below the highest belongs to the top. */
const TOP = 0.03;

/** The middle of what is highest of some vertices, on the body from above. */
function topOf(
  { height, u, v, low, high, axes }: Cloud,
  surface: Surface,
  up: Vec3,
  counts: (i: number) => boolean,
): Vec3 {
  let most = -Infinity;
  for (let i = 0; i < height.length; i++) if (counts(i)) most = Math.max(most, height[i]);
  const least = most - TOP * (high - low);
  const box = [Infinity, Infinity, -Infinity, -Infinity];
  for (let i = 0; i < height.length; i++) {
    if (height[i] < least || !counts(i)) continue;
    box[0] = Math.min(box[0], u[i]);
    box[1] = Math.min(box[1], v[i]);
    box[2] = Math.max(box[2], u[i]);
    box[3] = Math.max(box[3], v[i]);
  }
  const above = most + 0.1 * (high - low) + 1e-6;
  const from = scale(vec3(), up, above);
  addScaled(from, from, axes[0], (box[0] + box[2]) / 2);
  addScaled(from, from, axes[1], (box[1] + box[3]) / 2);
  const hit = createHit();
  // over a hole, as in a ring, the rim is what there is to be fastened to
  const met =
    surface.cast(from, scale(vec3(), up, -1), hit) &&
    dot(hit.point, up) > least - TOP * (high - low) &&
    counts(surface.mesh.index[3 * hit.triangle]);
  if (!met) surface.closest(from[0], from[1], from[2], hit);
  return [hit.point[0], hit.point[1], hit.point[2]];
}

/** Ways seen from above in which the reach is measured. */
const WAYS = 36;
/** What reaches to within such a share of the furthest is an end. */
const END = 0.04;

/** Both ends of what reaches out furthest in the upper half. */
function armEnds(cloud: Cloud, surface: Surface, up: Vec3): Vec3[] {
  const { height, u, v, low, high } = cloud;
  const half = (low + high) / 2;
  let best = { cos: 1, sin: 0, least: 0, most: -Infinity };
  for (let k = 0; k < WAYS; k++) {
    const [cos, sin] = [Math.cos((Math.PI * k) / WAYS), Math.sin((Math.PI * k) / WAYS)];
    let [least, most] = [Infinity, -Infinity];
    for (let i = 0; i < height.length; i++) {
      if (height[i] < half) continue;
      const far = cos * u[i] + sin * v[i];
      least = Math.min(least, far);
      most = Math.max(most, far);
    }
    if (most - least > (best.most - best.least) * 1.001) best = { cos, sin, least, most };
  }
  const { cos, sin, least, most } = best;
  const room = END * (most - least);
  const far = (i: number) => cos * u[i] + sin * v[i];
  return [
    topOf(cloud, surface, up, (i) => height[i] >= half && far(i) <= least + room),
    topOf(cloud, surface, up, (i) => height[i] >= half && far(i) >= most - room),
  ];
}

/** The place of a body that is nearest to another one, and off it. */
export function nearestPlace(surface: Surface, to: Vec3): { at: Vec3; off: Vec3 } {
  const hit = createHit();
  surface.closest(to[0], to[1], to[2], hit);
  const { point, normal } = hit;
  return { at: [point[0], point[1], point[2]], off: [normal[0], normal[1], normal[2]] };
}
