import { bendRadii } from '../curve/bend.js';
import { type CurveSet, curveCount, POINT } from '../curve/curve-set.js';
import type { Piece } from '../document/document.js';
import { add, addScaled, distanceAt, dot, normalize, pointOf, subtract, type Vec3, vec3 } from '../numeric/vector.js';
import { sharpCorners, shortMitres } from '../part/mitres.js';
import { insideOfBend } from '../part/reach.js';
import { createHit } from '../surface/surface.js';
import type { Surroundings } from '../surface/surroundings.js';
import { MAX_BEND } from '../sweep/mitre.js';
import type { SweptBody } from '../unit/carriers.js';
import type { Finding } from '../unit/finding.js';
import { cornerFix, smoothFix } from './bend-fixes.js';
import type { World } from './world.js';

/** What turns by more than this over twice the section's reach is an edge or an inner corner. */
const SHARP_TURN = 0.7;
/** What it lies on is asked for this many times to either side of a bend. */
const TURN_STEPS = 24;
/** A bend goes with what it lies on where it points to it, or off it, by this much (cosine). */
const OFF_SURFACE = 0.5;

/** Bends tighter than the section allows: one finding for each stretch, at its tightest place. */
export function pinches(piece: Piece, body: SweptBody, surroundings: Surroundings, world: World): Finding[] {
  const { curves: rails, leastBend } = body;
  const reach = insideOfBend(body);
  const radii = bendRadii(rails, reach);
  const findings: Finding[] = [];
  for (let c = 0; c < curveCount(rails); c++) {
    let worst = -1;
    for (let p = rails.start[c]; p <= rails.start[c + 1]; p++) {
      const tight = p < rails.start[c + 1] && radii[p] < leastBend * reach[p];
      if (tight) worst = worst < 0 || radii[p] / reach[p] < radii[worst] / reach[worst] ? p : worst;
      else if (worst >= 0) {
        const forced =
          radii[worst] < reach[worst] && turnsUnder(rails, c, worst, reach[worst], surroundings) > SHARP_TURN;
        findings.push(pinchAt(piece, body, reach, world, c, worst, radii[worst], forced));
        worst = -1;
      }
    }
  }
  return findings;
}

/**
 * By how much what a line lies on turns within so far before and behind a point, radians: over an edge or in a crease, which
 * bend the line towards the surface or off it. 0 where it lies on nothing, or bends beside what it lies on.
 */
function turnsUnder(rails: CurveSet, c: number, p: number, reach: number, surroundings: Surroundings): number {
  if (surroundings.isEmpty) return 0;
  const { position, start, closed } = rails;
  const count = start[c + 1] - start[c];
  const normals: Vec3[] = [];
  const ask = (q: number) => {
    const hit = createHit();
    const [x, y, z] = pointOf(position, q);
    if (surroundings.closest(x, y, z, hit, 2 * reach) !== undefined) normals.push(pointOf(hit.normal, 0));
  };
  ask(p);
  const inwards = vec3();
  for (const step of [-1, 1]) {
    let q = p;
    let asked = 0;
    for (let k = 0; k < count && distanceAt(position, p, q) < reach; k++) {
      const next = q - start[c] + step;
      if (!closed[c] && (next < 0 || next >= count)) break;
      q = start[c] + ((next + count) % count);
      if (distanceAt(position, p, q) < asked + reach / TURN_STEPS) continue;
      asked = distanceAt(position, p, q);
      ask(q);
    }
    const way = subtract(vec3(), pointOf(position, q), pointOf(position, p));
    addScaled(inwards, inwards, normalize(way, way), 1);
  }
  normalize(inwards, inwards);
  // in a crease it changes to and fro: any two of them count
  let most = 0;
  for (const [i, a] of normals.entries())
    for (const b of normals.slice(i + 1)) {
      const between = normalize(vec3(), add(vec3(), a, b));
      if (Math.abs(dot(between, inwards)) > OFF_SURFACE) most = Math.max(most, 1 - dot(a, b));
    }
  return Math.acos(Math.max(-1, 1 - most));
}

function pinchAt(
  piece: Piece,
  { curves: rails, leastBend, limited }: SweptBody,
  reach: Float32Array,
  world: World,
  c: number,
  p: number,
  radius: number,
  forced: boolean,
): Finding {
  const folds = radius < reach[p];
  const limit = folds ? reach[p] : leastBend * reach[p];
  return {
    code: 'pinch',
    severity: folds && !forced && !limited ? 'error' : 'warning',
    message:
      folds && limited
        ? 'Bend radius {value} (limit {limit}): tighter than the section, so its inner side is creased.'
        : forced
          ? 'Bend radius {value} (limit {limit}): the surface below turns tighter than the section. Increase the smoothing length, or reduce the radius.'
          : folds
            ? 'Bend radius {value} (limit {limit}): the inner side folds. Smooth the line, or reduce the radius.'
            : 'Bend radius {value} (limit {limit}). Smooth the line, or lower the min bend radius.',
    ...whereAt(rails, p),
    size: { value: radius, limit, kind: 'length' },
    fix: cornerFix(piece, rails, world, c, p, reach[p]) ?? smoothFix(piece),
  };
}

/** Corners whose mitre reaches further into a leg than the leg is long. */
export function shortLegs(piece: Piece, body: SweptBody, world: World): Finding[] {
  const { curves: rails } = body;
  return shortMitres(body).map(({ curve, point, needed, leg }) => ({
    code: 'mitre-short',
    severity: 'error',
    message:
      'Distance between corners {value} (limit {limit}): the inner side folds. Move the corners apart, or reduce the radius.',
    ...whereAt(rails, point),
    size: { value: leg, limit: needed, kind: 'length' },
    fix: cornerFix(piece, rails, world, curve, point, needed),
  }));
}

/** Corners that turn back on their line: no mitre is so sharp. */
export function sharpTurns(piece: Piece, body: SweptBody, world: World): Finding[] {
  const { curves: rails, section } = body;
  return sharpCorners(body).map(({ curve, point, bend }) => ({
    code: 'corner-sharp',
    severity: 'warning',
    message: 'Corner of {value} (limit {limit}): the mitre is cut short and the inner side folds. Move the corner.',
    ...whereAt(rails, point),
    size: { value: bend, limit: MAX_BEND, kind: 'angle' },
    fix: cornerFix(piece, rails, world, curve, point, section.radius[point]),
  }));
}

/** Where a point of a line is: in the world and along it, metres. */
const whereAt = ({ position, pointData }: CurveSet, p: number) => ({
  place: pointOf(position, p),
  along: pointData[POINT.along][p],
});
