import { curveLengths } from '../curve/arc-length.js';
import { curveCount, POINT } from '../curve/curve-set.js';
import { nearestAlong } from '../curve/nearest-along.js';
import type { Piece } from '../document/document.js';
import { valueAt } from '../numeric/lane.js';
import { pointOf, type Vec3 } from '../numeric/vector.js';
import { furthestReach, nearAt } from '../part/reach.js';
import { createHit } from '../surface/surface.js';
import type { Surroundings } from '../surface/surroundings.js';
import type { Made, SweptBody } from '../unit/carriers.js';
import { CONTACT, type Finding, type Fix } from '../unit/finding.js';
import { knownUnit } from '../unit/registry.js';
import { cutDepth } from './cut-depth.js';
import { pinches, sharpTurns, shortLegs } from './folds.js';
import { thicknessOf } from './line.js';
import { seamJumps } from './seam-jumps.js';
import { selfCuts } from './self-cuts.js';
import { endReach } from './skeleton.js';
import type { World } from './world.js';

/** A turn above this from ring to ring shows as facets. */
const COARSE_TURN = 0.4;
/** Most places at which one piece is held against the props. */
const MAX_PROBES = 60_000;

/**
 * Looks a made piece over: every body of it, then what its unit looks for itself. Each fault is reported once, at its worst
 * place. A fix of the unit's own numbers comes from the unit: these checks know none of them.
 */
export function checkPiece(piece: Piece, made: Made, surroundings: Surroundings, world: World): Finding[] {
  const unit = knownUnit('make', piece.make.unit);
  const { parameters } = piece.make;
  const found = [
    ...made.bodies.flatMap((body) =>
      alongGuide(made, body, [
        ...shortCurves(body),
        ...pinches(piece, body, surroundings, world),
        ...shortLegs(piece, body, world),
        ...sharpTurns(piece, body, world),
        ...coarseBends(body),
        ...selfCuts(body),
        ...(surroundings.isEmpty ? [] : cuts(piece, body, surroundings)),
      ]),
    ),
    ...seamJumps(piece, made),
    ...(unit?.check?.(made, parameters, surroundings) ?? []),
  ];
  const { guide } = made;
  const length = curveCount(guide) === 1 ? curveLengths(guide)[0] : 0;
  return found.map((finding) => withFixes(finding, unit?.fixes?.(finding, parameters, length) ?? []));
}

/** Lengths that differ by more than this share are those of other lines. */
const OTHER = 0.05;

/** What was found along a body whose line is another than the guide, such as the wire of a coil, is reported along the guide. */
function alongGuide({ guide }: Made, { curves }: SweptBody, found: Finding[]): Finding[] {
  if (found.length === 0 || curves === guide) return found;
  const [lengths, own] = [curveLengths(guide), curveLengths(curves)];
  const sum = (all: Float32Array) => all.reduce((a, b) => a + b, 0);
  if (Math.abs(sum(own) - sum(lengths)) <= OTHER * sum(lengths)) return found;
  return found.map((finding) =>
    finding.place ? { ...finding, along: nearestAlong(guide, lengths, finding.place) } : finding,
  );
}

function withFixes(finding: Finding, known: readonly Fix[]): Finding {
  const [fix, ...others] = [...(finding.fix ? [finding.fix] : []), ...known];
  return fix ? { ...finding, fix, ...(others.length > 0 ? { others } : {}) } : finding;
}

function shortCurves(body: SweptBody): Finding[] {
  const findings: Finding[] = [];
  const { curves: rails } = body;
  const lengths = curveLengths(rails);
  for (let c = 0; c < curveCount(rails); c++) {
    const width = 2 * nearAt(body, rails.start[c]);
    if (lengths[c] >= width) continue;
    findings.push({
      code: 'curve-short',
      severity: 'warning',
      message:
        'Line length {value} (limit {limit}): shorter than the section is wide. Draw a longer line, or reduce the radius.',
      place: pointOf(rails.position, rails.start[c]),
      size: { value: lengths[c], limit: width, kind: 'length' },
    });
  }
  return findings;
}

function coarseBends({ curves: rails }: SweptBody): Finding[] {
  let worst = -1;
  let most = COARSE_TURN;
  const corner = rails.pointData[POINT.corner];
  const at = rails.position;
  for (let c = 0; c < curveCount(rails); c++) {
    for (let p = rails.start[c] + 1; p < rails.start[c + 1] - 1; p++) {
      if (corner?.[p]) continue;
      const [ux, uy, uz] = [0, 1, 2].map((k) => at[3 * p + k] - at[3 * p - 3 + k]);
      const [vx, vy, vz] = [0, 1, 2].map((k) => at[3 * p + 3 + k] - at[3 * p + k]);
      const size = Math.hypot(ux, uy, uz) * Math.hypot(vx, vy, vz);
      const turn = size > 0 ? Math.acos(Math.max(-1, Math.min(1, (ux * vx + uy * vy + uz * vz) / size))) : 0;
      if (turn > most) {
        most = turn;
        worst = p;
      }
    }
  }
  if (worst < 0) return [];
  return [
    {
      code: 'coarse',
      severity: 'warning',
      message: 'Bend of {value} per segment (limit {limit}): facets will show. Reduce the angle per segment.',
      place: pointOf(rails.position, worst),
      along: rails.pointData[POINT.along][worst],
      size: { value: most, limit: COARSE_TURN, kind: 'angle' },
    },
  ];
}

/** Places where the section goes into a prop: one finding for each stretch, at its deepest. */
function cuts(piece: Piece, body: SweptBody, surroundings: Surroundings): Finding[] {
  const findings: Finding[] = [];
  const { curves: rails } = body;
  const { position } = rails;
  const along = rails.pointData[POINT.along];
  const lengths = curveLengths(rails);
  const total = lengths.reduce((sum, length) => sum + length, 0);
  const hit = createHit();
  const furthest = furthestReach(body.section);
  const thickness = thicknessOf(piece);
  for (let c = 0; c < curveCount(rails); c++) {
    const closed = rails.closed[c] === 1;
    const last = rails.start[c + 1] - 1;
    let deepest = 0;
    let place: Finding['place'];
    let at = 0;
    let limit = 0;
    let met: string | undefined;
    const tell = () => {
      if (place) findings.push(cutAt(piece, met, place, at, deepest, limit));
      place = undefined;
      deepest = 0;
    };
    /** The prop that the stretch, far from every face, is inside of, or none; unknown where faces are near. */
    let inside: string | null | undefined;
    for (let p = rails.start[c]; p < last + (closed ? 1 : 0); p++) {
      const next = p < last ? p + 1 : rails.start[c];
      const width = nearAt(body, p);
      const end = p < last ? along[next] : lengths[c];
      // just where what is free ends is looked at too: there it may be deepest; the pens reckon with the same
      const free = (share: number) => (closed ? 0 : endReach(Math.max(width, valueAt(thickness, share)), furthest[p]));
      const [from, to] = [Math.max(along[p], free(0)), Math.min(end, lengths[c] - free(1))];
      if (to < from) continue;
      const probes = Math.max(1, Math.ceil((to - from) / Math.max(width, total / MAX_PROBES)));
      // the next point looks at where this step ends, unless that is free
      for (let k = 0; k < probes + (to < end ? 1 : 0); k++) {
        const s = from + ((to - from) * k) / probes;
        const t = end > along[p] ? (s - along[p]) / (end - along[p]) : 0;
        const x = position[3 * p] * (1 - t) + position[3 * next] * t;
        const y = position[3 * p + 1] * (1 - t) + position[3 * next + 1] * t;
        const z = position[3 * p + 2] * (1 - t) + position[3 * next + 2] * t;
        const distance = surroundings.signedDistance(x, y, z, hit, furthest[p]);
        let depth = cutDepth(body.section, { p, next, t }, [x, y, z], distance, hit, surroundings, CONTACT * width);
        if (depth > Number.NEGATIVE_INFINITY) inside = undefined;
        else {
          if (inside === undefined) inside = surroundings.enclosing(x, y, z) ?? null;
          if (inside !== null && surroundings.closest(x, y, z, hit, Infinity, inside)) depth = width + hit.distance;
        }
        if (depth <= CONTACT * width) tell();
        else if (depth > deepest) {
          deepest = depth;
          place = pointOf(hit.point, 0) as Vec3;
          at = s;
          limit = CONTACT * width;
          met = surroundings.closest(place[0], place[1], place[2], hit);
        }
      }
    }
    tell();
  }
  return findings;
}

function cutAt(
  piece: Piece,
  prop: string | undefined,
  place: Finding['place'],
  along: number,
  depth: number,
  limit: number,
): Finding {
  const last = piece.shape.length - 1;
  const lies = last >= 0 && piece.shape[last].unit === 'cling' && piece.shape[last].enabled;
  const gap = lies ? Number(piece.shape[last].parameters['gap']) || 0 : 0;
  return {
    code: 'cuts-prop',
    severity: 'error',
    message: 'Intersects {prop} by {value} (limit {limit}). Move the line, or add Cling.',
    prop,
    place,
    along,
    size: { value: depth, limit, kind: 'length' },
    fix: lies
      ? { label: 'Move it off the prop', kind: 'set-shape', index: last, parameter: 'gap', value: gap + depth }
      : { label: 'Lay it on the surface', kind: 'add-shape', unit: 'cling', parameters: { reach: depth * 4 } },
  };
}
