import { type Approach, nearestOnSegments, SegmentGrid } from '../curve/segment-grid.js';
import { distanceAt, mix, pointOf, vec3 } from '../numeric/vector.js';
import type { SweptBody } from '../unit/carriers.js';
import { CONTACT, type Finding } from '../unit/finding.js';
import { END_REACH, type Skeleton, type Steps, skeletonOf, stepsOf } from './skeleton.js';

/** Places along one line nearer than this times the half circle of a section are one bend, which is looked at elsewhere. */
const ONE_BEND = 1.5;

/** Ends are in one place when they are no further apart than this many times what both reach. */
const ONE_PLACE = 1.5;

const BETWEEN_STRANDS = {
  code: 'strands-cut',
  message: 'Two strands intersect by {value} (limit {limit}). Reduce the strand scale or the noise.',
};
const THROUGH_ITSELF = {
  code: 'cuts-itself',
  message: 'Intersects itself by {value} (limit {limit}). Move the line, or add Keep apart.',
  fix: { label: 'Add Keep apart', kind: 'add-shape', unit: 'keep-apart', parameters: {} },
} as const;

/** Places where a body runs through itself, or two of its lines through each other: one for each stretch, at its deepest. */
export function selfCuts(body: SweptBody): Finding[] {
  if (body.growsTogether) return [];
  const skeleton = skeletonOf([body]);
  const steps = stepsOf(skeleton);
  const { from, to, curve, at, near } = steps;
  const { position } = skeleton;
  const middle = new Float64Array(3 * from.length);
  let longest = 0;
  let widest = 0;
  for (let s = 0; s < from.length; s++) {
    for (let n = 0; n < 3; n++) middle[3 * s + n] = (position[3 * from[s] + n] + position[3 * to[s] + n]) / 2;
    longest = Math.max(longest, distanceAt(position, from[s], to[s]));
    widest = Math.max(widest, near[s]);
  }
  const grid = new SegmentGrid(middle, 2 * widest + longest);
  const approach: Approach = { s: 0, t: 0, distance: 0 };
  const findings: Finding[] = [];
  let deepest: Finding | undefined;
  let depth = 0;
  let seen = -2;
  for (let a = 0; a < from.length; a++) {
    grid.near(a, middle[3 * a], middle[3 * a + 1], middle[3 * a + 2], (b) => {
      if (b < a || isOneBend(skeleton, steps, a, b) || areJoined(skeleton, steps, a, b)) return;
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
        ...(body.ofStrands && curve[a] !== curve[b] ? BETWEEN_STRANDS : THROUGH_ITSELF),
        severity: 'warning',
        place: mix(vec3(), pointOf(position, from[a]), pointOf(position, to[a]), approach.s),
        along: at[a],
        size: { value: missing, limit: CONTACT * wanted, kind: 'length' },
      };
    });
  }
  if (deepest) findings.push(deepest);
  return findings;
}

/** Whether two steps of two lines are next to ends of theirs that are in one place: there they are fastened together. */
function areJoined(
  { position, start, closed }: Skeleton,
  { curve, at, near, length }: Steps,
  a: number,
  b: number,
): boolean {
  const [c, d] = [curve[a], curve[b]];
  if (c === d || closed[c] || closed[d]) return false;
  const both = near[a] + near[b];
  const endsNear = (line: number, s: number) => {
    const ends: number[] = [];
    if (at[s] <= END_REACH * both) ends.push(start[line]);
    if (length[line] - at[s] <= END_REACH * both) ends.push(start[line + 1] - 1);
    return ends;
  };
  return endsNear(c, a).some((p) => endsNear(d, b).some((q) => distanceAt(position, p, q) < ONE_PLACE * both));
}

/** Whether two steps are so near along one line that their skins meet in any bend; those that share a point always are. */
function isOneBend({ closed }: Skeleton, { from, to, curve, at, near, length }: Steps, a: number, b: number): boolean {
  if (curve[a] !== curve[b]) return false;
  if (a === b || to[a] === from[b] || to[b] === from[a]) return true;
  const apart = Math.abs(at[a] - at[b]);
  const shorter = closed[curve[a]] ? Math.min(apart, length[curve[a]] - apart) : apart;
  return shorter < ONE_BEND * (Math.PI / 2) * (near[a] + near[b]);
}
