import { curveLengths } from '../curve/arc-length.js';
import { bendRadii } from '../curve/bend.js';
import { type CurveSet, curveCount, POINT } from '../curve/curve-set.js';
import type { Piece } from '../document/document.js';
import { curveIdsOf } from '../document/edit.js';
import { hashText } from '../numeric/random.js';
import { add, addScaled, distanceAt, dot, normalize, pointOf, subtract, type Vec3, vec3 } from '../numeric/vector.js';
import { sharpCorners, shortMitres } from '../part/mitres.js';
import { furthestReach, insideOfBend, nearAt } from '../part/reach.js';
import { createHit } from '../surface/surface.js';
import type { Surroundings } from '../surface/surroundings.js';
import { MOST_BEND } from '../sweep/mitre.js';
import type { Made, SweptBody } from '../unit/carriers.js';
import type { Finding, Fix } from '../unit/finding.js';
import { knownUnit } from '../unit/registry.js';
import { cutDepth } from './cut-depth.js';
import { seamJumps } from './seam-jumps.js';
import { selfCuts } from './self-cuts.js';
import { CONTACT, endReach } from './skeleton.js';
import type { World } from './world.js';

/** A turn above this from ring to ring shows as facets. */
const COARSE_TURN = 0.4;
/** What turns by more than this over twice the section's reach is an edge or an inner corner. */
const SHARP_TURN = 0.7;
/** What it lies on is asked for so many times to either side of a bend. */
const TURN_STEPS = 24;
/** A bend goes with what it lies on where it points to it, or off it, by so much (cosine). */
const OFF_SURFACE = 0.5;
/** Most places at which one piece is held against the props. */
const MOST_PROBES = 60_000;

/**
 * Looks a made piece over: every body of it, then what its unit looks for itself. Each fault is told once, at its worst
 * place. A fix of the unit's own numbers comes from the unit: these checks know none of them.
 */
export function checkPiece(piece: Piece, made: Made, surroundings: Surroundings, world: World): Finding[] {
  const unit = knownUnit('make', piece.make.unit);
  const { parameters } = piece.make;
  const found = [
    ...made.bodies.flatMap((body) => [
      ...shortCurves(body),
      ...pinches(piece, body, surroundings, world),
      ...shortLegs(piece, body, world),
      ...sharpTurns(piece, body, world),
      ...coarseBends(body),
      ...selfCuts(body),
      ...(surroundings.isEmpty ? [] : cuts(piece, body, surroundings)),
    ]),
    ...seamJumps(piece, made),
    ...(unit?.check?.(made, parameters, surroundings) ?? []),
  ];
  const { guide } = made;
  const length = curveCount(guide) === 1 ? curveLengths(guide)[0] : 0;
  return found.map((finding) => withFixes(finding, unit?.fixes?.(finding, parameters, length) ?? []));
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
      message: 'The curve is shorter than the section is wide. Draw it longer or make the section thinner.',
      place: pointOf(rails.position, rails.start[c]),
      size: { value: lengths[c], limit: width, kind: 'length' },
    });
  }
  return findings;
}

/** Bends tighter than the section allows: one finding for each stretch, at its tightest place. */
function pinches(piece: Piece, body: SweptBody, surroundings: Surroundings, world: World): Finding[] {
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
        ? 'The bend is tighter than the section: its inner side is drawn in there.'
        : forced
          ? 'What it lies on turns tighter than the section: its inner side folds into itself.'
          : folds
            ? 'The bend is tighter than the section: its inner side folds into itself.'
            : 'The bend is tighter than this piece allows.',
    place: pointOf(rails.position, p),
    along: rails.pointData[POINT.along][p],
    size: { value: radius, limit, kind: 'length' },
    fix: cornerFix(piece, rails, world, c, p, reach[p]) ?? smoothFix(piece),
  };
}

/** Corners whose mitre reaches further into a leg than the leg is long. */
function shortLegs(piece: Piece, body: SweptBody, world: World): Finding[] {
  const { curves: rails } = body;
  return shortMitres(body).map(({ curve, point, needed, leg }) => ({
    code: 'mitre-short',
    severity: 'error',
    message: 'The line is too short between its corners for this section: its inner side folds into itself.',
    place: pointOf(rails.position, point),
    along: rails.pointData[POINT.along][point],
    size: { value: leg, limit: needed, kind: 'length' },
    fix: cornerFix(piece, rails, world, curve, point, needed),
  }));
}

/** Corners that turn back on their line: no mitre is so sharp. */
function sharpTurns(piece: Piece, body: SweptBody, world: World): Finding[] {
  const { curves: rails, section } = body;
  return sharpCorners(body).map(({ curve, point, bend }) => ({
    code: 'corner-sharp',
    severity: 'warning',
    message: 'The line turns back on itself at this corner: its mitre is cut short, and its inner side folds.',
    place: pointOf(rails.position, point),
    along: rails.pointData[POINT.along][point],
    size: { value: bend, limit: MOST_BEND, kind: 'angle' },
    fix: cornerFix(piece, rails, world, curve, point, section.radius[point]),
  }));
}

/** A drawn corner within reach of the pinch is its cause. */
function cornerFix(piece: Piece, rails: CurveSet, world: World, c: number, p: number, reach: number): Fix | undefined {
  const along = rails.pointData[POINT.along];
  const source = rails.pointData[POINT.source];
  const corner = rails.pointData[POINT.corner];
  const ids = curveIdsOf(piece);
  const curve = ids.find((id) => hashText(id) === rails.id[c]);
  if (!curve || !source || !corner || !world.curve(curve)) return undefined;
  for (let q = rails.start[c]; q < rails.start[c + 1]; q++)
    if (corner[q] && source[q] >= 0 && Math.abs(along[q] - along[p]) <= 2 * reach)
      return { label: 'Make the corner smooth', kind: 'smooth-point', curve, point: source[q] };
  return undefined;
}

/** Smoothing over more thicknesses than this makes no difference that an eye could see. */
const MOST_SMOOTHING = 400;
const MOST_EASING = 60;

/**
 * Evens the bend out over more length than before. A line that lies on something is smoothed before it is laid there;
 * what bends are left then come from the surface, and are eased.
 */
function smoothFix(piece: Piece): Fix | undefined {
  const smooth = piece.shape.findLastIndex((use) => use.unit === 'smooth' && use.enabled);
  const lying = piece.shape.findLastIndex(
    (use) => use.unit === 'cling' && use.enabled && use.parameters['mode'] === 'on',
  );
  const grown = (index: number, parameter: string, most: number, label: string): Fix | undefined => {
    const value = Math.max(1, Number(piece.shape[index].parameters[parameter])) * 1.6;
    return value > most ? undefined : { label, kind: 'set-shape', index, parameter, value: +value.toPrecision(3) };
  };
  if (smooth < 0)
    return {
      label: 'Smooth the line',
      kind: 'add-shape',
      index: lying < 0 ? undefined : lying,
      unit: 'smooth',
      parameters: { over: 3 },
    };
  const over = Number(piece.shape[smooth].parameters['over']);
  const ease = lying < 0 ? Infinity : Number(piece.shape[lying].parameters['ease']);
  if (ease < over)
    return (
      grown(lying, 'ease', MOST_EASING, 'Ease it over the surface') ??
      grown(smooth, 'over', MOST_SMOOTHING, 'Smooth it more')
    );
  return grown(smooth, 'over', MOST_SMOOTHING, 'Smooth it more');
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
      message: 'The rings stand too far apart for this bend: it will show facets.',
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
  for (let c = 0; c < curveCount(rails); c++) {
    const closed = rails.closed[c] === 1;
    const last = rails.start[c + 1] - 1;
    let deepest = 0;
    let place: Finding['place'];
    let at = 0;
    let limit = 0;
    const tell = () => {
      if (place) findings.push(cutAt(piece, place, at, deepest, limit));
      place = undefined;
      deepest = 0;
    };
    /** The prop that the stretch, far from every face, is inside of, or none; unknown where faces are near. */
    let inside: string | null | undefined;
    for (let p = rails.start[c]; p < last + (closed ? 1 : 0); p++) {
      const next = p < last ? p + 1 : rails.start[c];
      const width = nearAt(body, p);
      const gap = (p < last ? along[next] : lengths[c]) - along[p];
      const probes = Math.max(1, Math.ceil(gap / Math.max(width, total / MOST_PROBES)));
      for (let k = 0; k < probes; k++) {
        const t = k / probes;
        const s = along[p] + gap * t;
        if (!closed && Math.min(s, lengths[c] - s) < endReach(width, furthest[p])) continue;
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
        }
      }
    }
    tell();
  }
  return findings;
}

function cutAt(piece: Piece, place: Finding['place'], along: number, depth: number, limit: number): Finding {
  const last = piece.shape.length - 1;
  const lies = last >= 0 && piece.shape[last].unit === 'cling' && piece.shape[last].enabled;
  const gap = lies ? Number(piece.shape[last].parameters['gap']) || 0 : 0;
  return {
    code: 'cuts-prop',
    severity: 'error',
    message: 'The section cuts into a prop here.',
    place,
    along,
    size: { value: depth, limit, kind: 'length' },
    fix: lies
      ? { label: 'Lift it off', kind: 'set-shape', index: last, parameter: 'gap', value: gap + depth }
      : { label: 'Lay it on the surface', kind: 'add-shape', unit: 'cling', parameters: { reach: depth * 4 } },
  };
}
