import { catmullRom } from '../../curve/catmull-rom.js';
import { type CurveSet, curveCount } from '../../curve/curve-set.js';
import { Walk } from '../../curve/walk.js';
import { childId, hashText, randomAt } from '../../numeric/random.js';
import { cross, length, normalize, scale, turn, type Vec3, vec3 } from '../../numeric/vector.js';
import { createHit, type Surface, type SurfaceHit } from '../../surface/surface.js';
import type { AnchorPick } from '../../unit/parameters.js';
import type { BuildContext } from '../../unit/unit.js';
import type { Attachment } from './attachments.js';
import { type Connection, connection } from './connections.js';

export interface GuideChoice {
  anchors: readonly AnchorPick[];
  /** Metres along a guide from one line to the next, and how far off it a wall may be. */
  every: number;
  longest: number;
  /** How far places and ways are out of order, 0…1. */
  disorder: number;
  seed: number;
}

/** In full disorder a line leaves its place by this much of the way to the next, and turns by this much, radians. */
const ASIDE = 0.9;
const TURNED = 0.9;
/** Places at which a guide looks for walls, at most. */
const MAX_CHECKS = 40_000;
const NAMES = ['place', 'rise', 'turn'].map((name) => hashText(`guide ${name}`));

/**
 * Lines across guides, from what is to their left to what is to their right: at even places along each, looking
 * sideways and level. A place that has no wall on both sides in reach has no line. The k-th place of a guide is its own,
 * whatever becomes of the others.
 * @param up against gravity, unit
 * @param most lines
 */
export function guidedConnections(
  p: GuideChoice,
  up: Vec3,
  most: number,
  context: Pick<BuildContext, 'surroundings' | 'piece' | 'curves'>,
): { connections: Connection[]; guides: number } {
  const walls = p.anchors.flatMap(({ on, id }) => (on === 'prop' ? (context.surroundings.surface(id) ?? []) : []));
  const ids = p.anchors.flatMap(({ on, id }) => (on === 'prop' && context.surroundings.surface(id) ? [id] : []));
  const guides = p.anchors.flatMap((pick) => {
    const line = guideOf(pick, context);
    return line ? [{ line, key: hashText(`guide ${pick.on} ${pick.id}`) }] : [];
  });
  const seen: Seen = { context, walls, ids, hit: createHit() };
  const connections: Connection[] = [];
  for (const { line, key } of guides)
    for (let c = 0; c < curveCount(line); c++) {
      const walk = new Walk(line, c);
      const count = Math.min(MAX_CHECKS, Math.floor(walk.length / p.every + 0.5));
      for (let k = 0; k < count && connections.length < most; k++) {
        const id = childId(childId(key, c), k);
        const draw = (n: number) => p.disorder * (2 * randomAt(p.seed, id, NAMES[n]) - 1);
        const at = (k + 0.5 + 0.5 * ASIDE * draw(0)) * p.every;
        const one = across(
          walk,
          Math.min(walk.length, at),
          [TURNED * draw(1), TURNED * draw(2)],
          up,
          id,
          p.longest,
          seen,
        );
        if (one) connections.push(one);
      }
    }
  return { connections, guides: guides.length };
}

interface Seen {
  context: Pick<BuildContext, 'surroundings'>;
  walls: readonly Surface[];
  ids: readonly string[];
  hit: SurfaceHit;
}

function guideOf(pick: AnchorPick, { piece, curves }: Pick<BuildContext, 'piece' | 'curves'>): CurveSet | undefined {
  if (pick.on === 'piece') return piece(pick.id)?.line;
  const points = pick.on === 'curve' ? curves.get(pick.id) : undefined;
  return points && catmullRom(points);
}

/** A line from wall to wall through a place of a guide; undefined where there is none on one side. */
function across(
  walk: Walk,
  at: number,
  [rise, aside]: [number, number],
  up: Vec3,
  id: number,
  longest: number,
  seen: Seen,
): Connection | undefined {
  const place = walk.pointAt(at, vec3());
  const way = walk.directionAt(at, vec3());
  const left = cross(vec3(), up, way);
  // a plumb guide has no sides of its own
  if (length(left) < 1e-6) left[Math.abs(up[2]) < 0.9 ? 2 : 0] = 1;
  normalize(left, left);
  turn(left, turn(left, left, way, rise), up, aside);
  const ends = [left, scale(vec3(), left, -1)].map((side, k) => wallAt(place, side, longest, childId(id, k + 1), seen));
  return ends[0] && ends[1] ? connection(ends[0], ends[1]) : undefined;
}

/** What a look from a guide to one side meets first: of the chosen props where some are chosen. */
function wallAt(
  from: Vec3,
  side: Vec3,
  longest: number,
  key: number,
  { context, walls, ids, hit }: Seen,
): Attachment | undefined {
  let prop: string | undefined;
  if (walls.length === 0) {
    prop = context.surroundings.cast(from, side, hit);
    if (prop === undefined || hit.distance > longest) return undefined;
  } else {
    let within = longest;
    walls.forEach((wall, k) => {
      if (!wall.cast(from, side, hit, within)) return;
      within = hit.distance;
      prop = ids[k];
    });
    if (prop === undefined) return undefined;
  }
  const facing = hit.normal[0] * side[0] + hit.normal[1] * side[1] + hit.normal[2] * side[2] < 0 ? 1 : -1;
  const { point, normal } = hit;
  return {
    key,
    at: [point[0], point[1], point[2]],
    off: scale(vec3(), normal, facing),
    moved: [0, 0, 0],
    prop,
  };
}
