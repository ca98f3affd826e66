import { curveLengths } from '../curve/arc-length.js';
import { bendRadii } from '../curve/bend.js';
import { type CurveSet, curveCount, POINT } from '../curve/curve-set.js';
import type { KelpDocument, Piece } from '../document/document.js';
import { curveIdsOf } from '../document/edit.js';
import { hashText } from '../numeric/random.js';
import { createHit } from '../surface/surface.js';
import type { Surroundings } from '../surface/surroundings.js';
import type { Finding, Fix } from '../unit/finding.js';
import type { Made } from '../unit/unit.js';

/** Cuts shallower than this share of the section are contact, not a cut: a polygon lies on its flats. */
const CONTACT = 0.08;
/** Next to an open end so many sections deep, going into a prop is a connection, not a mistake. */
const END_REACH = 3;
/** A turn above this from ring to ring shows as facets. */
const COARSE_TURN = 0.4;
/** Most places at which one piece is held against the props. */
const MOST_PROBES = 60_000;

/** Looks a made piece over. Each fault is told once, at its worst place. */
export function checkPiece(piece: Piece, made: Made, surroundings: Surroundings, document: KelpDocument): Finding[] {
  return [
    ...shortCurves(made),
    ...pinches(piece, made, document),
    ...coarseBends(made),
    ...(surroundings.isEmpty ? [] : cuts(piece, made, surroundings)),
  ];
}

function shortCurves({ rails, near }: Made): Finding[] {
  const findings: Finding[] = [];
  const lengths = curveLengths(rails);
  for (let c = 0; c < curveCount(rails); c++) {
    const width = 2 * near[rails.start[c]];
    if (lengths[c] >= width) continue;
    findings.push({
      code: 'curve-short',
      severity: 'warning',
      message: 'The curve is shorter than the section is wide. Draw it longer or make the section thinner.',
      place: placeOf(rails, rails.start[c]),
      size: { value: lengths[c], limit: width, kind: 'length' },
    });
  }
  return findings;
}

/** Bends tighter than the section allows: one finding for each stretch, at its tightest place. */
function pinches(piece: Piece, made: Made, document: KelpDocument): Finding[] {
  const { rails, inside: reach, leastBend } = made;
  const radii = bendRadii(rails, reach);
  const findings: Finding[] = [];
  for (let c = 0; c < curveCount(rails); c++) {
    let worst = -1;
    for (let p = rails.start[c]; p <= rails.start[c + 1]; p++) {
      const tight = p < rails.start[c + 1] && radii[p] < leastBend * reach[p];
      if (tight) worst = worst < 0 || radii[p] / reach[p] < radii[worst] / reach[worst] ? p : worst;
      else if (worst >= 0) {
        findings.push(pinchAt(piece, made, document, c, worst, radii[worst]));
        worst = -1;
      }
    }
  }
  return findings;
}

function pinchAt(
  piece: Piece,
  { rails, inside: reach, leastBend }: Made,
  document: KelpDocument,
  c: number,
  p: number,
  radius: number,
): Finding {
  const folds = radius < reach[p];
  const limit = folds ? reach[p] : leastBend * reach[p];
  return {
    code: 'pinch',
    severity: folds ? 'error' : 'warning',
    message: folds
      ? 'The bend is tighter than the section: its inner side folds into itself.'
      : 'The bend is tighter than this piece allows.',
    place: placeOf(rails, p),
    along: rails.pointData[POINT.along][p],
    size: { value: radius, limit, kind: 'length' },
    fix: cornerFix(piece, rails, document, c, p, reach[p]) ?? smoothFix(piece),
  };
}

/** A drawn corner within reach of the pinch is its cause. */
function cornerFix(
  piece: Piece,
  rails: CurveSet,
  document: KelpDocument,
  c: number,
  p: number,
  reach: number,
): Fix | undefined {
  const along = rails.pointData[POINT.along];
  const source = rails.pointData[POINT.source];
  const corner = rails.pointData[POINT.corner];
  const ids = curveIdsOf(piece);
  const curve = ids.find((id) => hashText(id) === rails.id[c]);
  if (!curve || !source || !corner || !document.curves.some((candidate) => candidate.id === curve)) return undefined;
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

function coarseBends({ rails }: Made): Finding[] {
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
      place: placeOf(rails, worst),
      along: rails.pointData[POINT.along][worst],
      size: { value: most, limit: COARSE_TURN, kind: 'angle' },
      fix: { label: 'Set a finer bend step', kind: 'set', stage: 'make', parameter: 'bendStep', value: Math.PI / 30 },
    },
  ];
}

/** Places where the section goes into a prop: one finding for each stretch, at its deepest. */
function cuts(piece: Piece, { rails, near }: Made, surroundings: Surroundings): Finding[] {
  const findings: Finding[] = [];
  const along = rails.pointData[POINT.along];
  const lengths = curveLengths(rails);
  const total = lengths.reduce((sum, length) => sum + length, 0);
  const hit = createHit();
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
    for (let p = rails.start[c]; p < last; p++) {
      const width = near[p];
      const gap = along[p + 1] - along[p];
      const probes = Math.max(1, Math.ceil(gap / Math.max(width, total / MOST_PROBES)));
      for (let k = 0; k < probes; k++) {
        const t = k / probes;
        const s = along[p] + gap * t;
        if (!closed && (s < END_REACH * width || s > lengths[c] - END_REACH * width)) continue;
        const [x, y, z] = [0, 1, 2].map(
          (axis) => rails.position[3 * p + axis] * (1 - t) + rails.position[3 * p + 3 + axis] * t,
        );
        const depth = width - surroundings.signedDistance(x, y, z, hit, width);
        if (depth <= CONTACT * width) tell();
        else if (depth > deepest) {
          deepest = depth;
          place = [hit.point[0], hit.point[1], hit.point[2]];
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

const placeOf = ({ position }: CurveSet, p: number): [number, number, number] => [
  position[3 * p],
  position[3 * p + 1],
  position[3 * p + 2],
];
