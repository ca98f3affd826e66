import { curveLengths } from '../curve/arc-length.js';
import { CURVE, type CurveSet, curveCount, POINT } from '../curve/curve-set.js';
import { resample } from '../curve/resample.js';
import { type Approach, nearestOnSegments, SegmentGrid } from '../curve/segment-grid.js';
import { distanceAt, mix, pointOf, vec3 } from '../numeric/vector.js';
import { nearAt } from '../part/reach.js';
import type { SweptBody } from '../unit/carriers.js';
import type { Finding } from '../unit/finding.js';

/** Of the distance two skins need, so much may be missing: a polygon touches with its flats, a coil with its steps. */
const CONTACT = 0.08;
/** Steps of the lines that are looked at, in section radii; and of bodies with more steps none are. */
const STEP = 1.5;
const MOST_STEPS = 200_000;
/** Places along one line nearer than this times the half circle of a section are one bend, which is looked at elsewhere. */
const ONE_BEND = 1.5;

/** Places where a body runs through itself, or two of its lines through each other: one for each stretch, at its deepest. */
export function selfCuts(body: SweptBody): Finding[] {
  const { curves: rails } = body;
  let radius = 0;
  for (let p = 0; p < body.section.radius.length; p++) radius = Math.max(radius, nearAt(body, p));
  const total = curveLengths(rails).reduce((sum, length) => sum + length, 0);
  if (!(radius > 0) || total / (STEP * radius) + curveCount(rails) > MOST_STEPS) return [];
  const steps = stepsOf(body, radius);
  const { line, from, to, curve, at, near } = steps;
  const { position } = line;
  const middle = new Float64Array(3 * from.length);
  let longest = 0;
  for (let s = 0; s < from.length; s++) {
    for (let n = 0; n < 3; n++) middle[3 * s + n] = (position[3 * from[s] + n] + position[3 * to[s] + n]) / 2;
    longest = Math.max(longest, distanceAt(position, from[s], to[s]));
  }
  const grid = new SegmentGrid(middle, 2 * radius + longest);
  const approach: Approach = { s: 0, t: 0, distance: 0 };
  const findings: Finding[] = [];
  let deepest: Finding | undefined;
  let depth = 0;
  let seen = -2;
  for (let a = 0; a < from.length; a++) {
    grid.near(a, middle[3 * a], middle[3 * a + 1], middle[3 * a + 2], (b) => {
      if (b < a || isOneBend(steps, a, b)) return;
      nearestOnSegments(position, 3 * from[a], 3 * to[a], 3 * from[b], 3 * to[b], approach);
      const wanted = near[a] + near[b];
      const missing = wanted - approach.distance;
      if (missing <= CONTACT * wanted) return;
      // a stretch ends where the line was free for a step, or another line begins
      if (a > seen + 1 || curve[a] !== curve[seen]) {
        if (deepest) findings.push(deepest);
        deepest = undefined;
        depth = 0;
      }
      seen = a;
      if (missing <= depth) return;
      depth = missing;
      deepest = {
        code: 'cuts-itself',
        severity: 'warning',
        message: 'The piece runs through itself here.',
        place: mix(vec3(), pointOf(position, from[a]), pointOf(position, to[a]), approach.s),
        along: at[a],
        size: { value: missing, limit: CONTACT * wanted, kind: 'length' },
        fix: { label: 'Keep it apart', kind: 'add-shape', unit: 'keep-apart', parameters: {} },
      };
    });
  }
  if (deepest) findings.push(deepest);
  return findings;
}

interface Steps {
  line: CurveSet;
  from: Uint32Array;
  to: Uint32Array;
  curve: Uint32Array;
  /** Of each step: how far along its line its middle is, how long that line is round (0: open), the reach of its skin. */
  at: Float64Array;
  round: Float64Array;
  near: Float64Array;
}

function stepsOf(body: SweptBody, radius: number): Steps {
  const { curves: rails } = body;
  const reach = Float32Array.from(body.section.radius, (_, p) => nearAt(body, p));
  const line = resample(
    { ...rails, pointData: { corner: rails.pointData[POINT.corner] ?? new Uint8Array(reach.length), reach } },
    { spacing: STEP * radius },
  );
  const along = line.pointData[POINT.along];
  const lengths = line.curveData[CURVE.length];
  const rows: number[][] = [];
  for (let c = 0; c < curveCount(line); c++) {
    const [first, end] = [line.start[c], line.start[c + 1]];
    for (let p = first; p < end - 1 + line.closed[c]; p++) {
      const q = p === end - 1 ? first : p + 1;
      const stop = p === end - 1 ? lengths[c] : along[q];
      rows.push([
        p,
        q,
        c,
        (along[p] + stop) / 2,
        line.closed[c] ? lengths[c] : 0,
        (line.pointData['reach'][p] + line.pointData['reach'][q]) / 2,
      ]);
    }
  }
  const column = (k: number) => Float64Array.from(rows, (row) => row[k]);
  return {
    line,
    from: Uint32Array.from(column(0)),
    to: Uint32Array.from(column(1)),
    curve: Uint32Array.from(column(2)),
    at: column(3),
    round: column(4),
    near: column(5),
  };
}

/** Whether two steps are so near along one line that their skins meet in any bend. */
function isOneBend({ curve, at, round, near }: Steps, a: number, b: number): boolean {
  if (curve[a] !== curve[b]) return false;
  const apart = Math.abs(at[a] - at[b]);
  const shorter = round[a] > 0 ? Math.min(apart, round[a] - apart) : apart;
  return shorter < ONE_BEND * (Math.PI / 2) * (near[a] + near[b]);
}
