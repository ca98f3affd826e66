import { curveLengths } from '../../curve/arc-length.js';
import { type CurveSet, curveCount, POINT } from '../../curve/curve-set.js';
import { resample } from '../../curve/resample.js';
import { Walk } from '../../curve/walk.js';
import { pairAt } from '../../numeric/pair.js';
import { childId, hashText, randomAt } from '../../numeric/random.js';
import { addScaled, cross, dot, length, normalize, scale, set, type Vec3, vec3 } from '../../numeric/vector.js';
import { createHit } from '../../surface/surface.js';
import type { Surroundings } from '../../surface/surroundings.js';
import type { ValuesOf } from '../../unit/parameters.js';
import type { CABLE } from './parameters.js';

export type Cable = ValuesOf<typeof CABLE>;

/** Where a cable is held: its line, metres along that, its own stable id, and which way is off the wall. */
export interface Held {
  curve: number;
  at: number;
  /** Where that is, and the way the line runs there. */
  place: Vec3;
  way: Vec3;
  id: number;
  off: Vec3;
  /** How far the wall is from the line; infinite where there is none. */
  far: number;
}

/** Places at most at which one piece is held. */
export const MAX_FASTENERS = 20_000;
/** A wall is looked for this many times as far off as the cable is thick. */
export const WALL_REACH = 6;
/** Further looks at a wall are taken this many radii before and after. */
const PROBES = 2.5;
/** Steps of a span that hangs, and of a loop in it. */
const SPAN_STEPS = 16;
const LOOP_STEPS = 32;
/** A loop takes up this many of its own radii of the way. */
const LOOP_WAY = 1.1;
/** Where a loop crosses itself its second pass lies this many thicknesses over the first; at the crossing it has come 60 % of it. */
const LOOP_LIFT = 1.8;

const LOOPS = hashText('loops');
const SIDE = hashText('side');
const DOWN: Vec3 = [0, -1, 0];

/**
 * Places at even steps along each line, `every` metres apart at most, none within the straight lead of a plug.
 * @param thick radius of what is held, metres
 * @param leads how far from both ends none stands, metres
 */
export function heldPlaces(
  lines: CurveSet,
  every: number,
  thick: number,
  leads: readonly [number, number],
  surroundings: Surroundings,
): Held[] {
  const lengths = curveLengths(lines);
  const total = lengths.reduce((sum, one) => sum + one, 0);
  const step = Math.max(every, total / MAX_FASTENERS);
  const out: Held[] = [];
  for (let curve = 0; curve < curveCount(lines); curve++) {
    const walk = new Walk(lines, curve);
    const [from, to] = lines.closed[curve] ? [0, 0] : leads;
    const length = lengths[curve] - from - to;
    if (!(length > 0)) continue;
    const count = Math.max(1, Math.round(length / step));
    for (let k = 0; k < count; k++) {
      const at = from + ((k + 0.5) * length) / count;
      const place = walk.pointAt(at, vec3());
      out.push({
        curve,
        at,
        place,
        way: walk.directionAt(at, vec3()),
        id: childId(lines.id[curve], k),
        ...wallAt(walk, at, thick, surroundings),
      });
    }
  }
  return out;
}

/** The wall beside a line, seen from there and from a little before and after: a gap between two boards is no wall's edge. */
function wallAt(walk: Walk, at: number, thick: number, surroundings: Surroundings): { off: Vec3; far: number } {
  const hit = createHit();
  const seen: { place: Vec3; point: Vec3 }[] = [];
  const off = vec3();
  for (const by of [0, -PROBES, PROBES]) {
    const place = walk.pointAt(at + by * thick, vec3());
    if (surroundings.closest(place[0], place[1], place[2], hit, WALL_REACH * thick) === undefined) continue;
    addScaled(off, off, hit.normal, 1);
    seen.push({ place, point: [hit.point[0], hit.point[1], hit.point[2]] });
  }
  if (seen.length === 0 || length(off) < 1e-6) return { off: [0, 1, 0], far: Infinity };
  normalize(off, off);
  // how far the nearest face is along that
  const far = Math.min(
    ...seen.map(({ place, point }) => dot(off, [place[0] - point[0], place[1] - point[1], place[2] - point[2]])),
  );
  return { off, far: Math.max(0, far) };
}

/** Longest step of what is held, metres; no limit for what is not. */
export const heldSpacing = ({ fixing, fixEvery }: Cable, size: number): number | undefined =>
  fixing === 'none' ? undefined : (fixEvery * size) / SPAN_STEPS;

/**
 * The lines as they hang between places where they are held: each span longer than its way, some in a loop. What is held
 * stays where it is, further along a longer line.
 */
export function hungBetween(
  lines: CurveSet,
  held: readonly Held[],
  p: Cable,
  thick: number,
): { course: CurveSet; held: readonly Held[] } {
  // a long step beside short ones would bow over the straight: all that follows keeps these
  const spacing = heldSpacing(p, thick);
  const even = resample(lines, { maxTurn: 0.1, spacing });
  if (held.length === 0 || (p.slack.most === 0 && p.loops === 0)) return { course: even, held };
  const hung = rewritten(even, held, p, thick);
  return { course: resample(hung.lines, { maxTurn: 0.1, spacing }), held: hung.held };
}

/** One span: how it leaves the line, by a share of it. */
interface Span {
  from: Held;
  length: number;
  /** Which way it hangs, unit, and how far. */
  way: Vec3;
  deep: number;
  loop: boolean;
}

function rewritten(lines: CurveSet, held: readonly Held[], p: Cable, thick: number): { lines: CurveSet; held: Held[] } {
  const position: number[] = [];
  const start = [0];
  const along = lines.pointData[POINT.along];
  const source: number[] = [];
  const place = vec3();
  const on: Held[][] = Array.from({ length: curveCount(lines) }, () => []);
  for (const one of held) on[one.curve].push(one);
  const moved: Held[] = [];
  for (let c = 0; c < curveCount(lines); c++) {
    const walk = new Walk(lines, c, { along, length: curveLengths(lines)[c] });
    const spans = new Map(spansOf(walk, on[c], p, thick, lines.closed[c] === 1).map((span) => [span.from, span]));
    let q = lines.start[c];
    let far = 0;
    const push = (at: Vec3) => {
      const before = position.length - 3;
      if (position.length / 3 > start[c]) far += Math.hypot(...[0, 1, 2].map((n) => at[n] - position[before + n]));
      position.push(...at);
      source.push(Math.min(q, lines.start[c + 1] - 1));
    };
    const copyTo = (until: number) => {
      for (; q < lines.start[c + 1] && along[q] < until - 1e-9; q++)
        push([lines.position[3 * q], lines.position[3 * q + 1], lines.position[3 * q + 2]]);
    };
    for (const one of on[c]) {
      copyTo(one.at);
      const span = spans.get(one);
      if (!span) push(walk.pointAt(one.at, place));
      moved.push({ ...one, at: far });
      if (!span) continue;
      for (const [k, u] of stepsOf(span, p.loopSize * thick).entries()) {
        walk.pointAt(one.at + u * span.length, place);
        push(hangs(place, walk, span, u, p.loopSize * thick, thick));
        // how far it is to where it is held is known when that is written
        if (k === 0) moved[moved.length - 1].at = far;
      }
      while (q < lines.start[c + 1] && along[q] < one.at + span.length - 1e-9) q++;
    }
    copyTo(Infinity);
    start.push(position.length / 3);
  }
  const pointData = Object.fromEntries(
    Object.entries(lines.pointData)
      // corners keep their places only where the line is as it was
      .filter(([name]) => name !== POINT.corner)
      .map(([name, data]) => {
        const size = data.length / Math.max(1, along.length);
        return [name, Float32Array.from(source.flatMap((from) => [...data.subarray(size * from, size * from + size)]))];
      }),
  );
  return {
    lines: { ...lines, start: Uint32Array.from(start), position: Float64Array.from(position), pointData },
    held: moved,
  };
}

function spansOf(walk: Walk, held: readonly Held[], p: Cable, thick: number, closed: boolean): Span[] {
  const out: Span[] = [];
  const [from, to] = [vec3(), vec3()];
  for (let k = 0; k + 1 < held.length + (closed ? 1 : 0); k++) {
    const [a, b] = [held[k], held[(k + 1) % held.length]];
    // the span over the seam of a closed line stays as it was drawn
    if (b.at <= a.at) continue;
    const far = b.at - a.at;
    const loop = randomAt(p.seed, a.id, LOOPS) < p.loops && far > 2 * LOOP_WAY * p.loopSize * thick;
    const slack = pairAt(p.slack, p.seed, a.id, 'slack');
    walk.pointAt(a.at, from);
    walk.pointAt(b.at, to);
    const way = wayDown(from, to, a.off, randomAt(p.seed, a.id, SIDE) < 0.5 ? -1 : 1);
    // of a flat bow that begins and ends level, d·sin²(πu), the extra length is (πd/2l)² of its way (½∫y′²)
    out.push({ from: a, length: far, way, deep: (2 * far * Math.sqrt(slack)) / Math.PI, loop });
  }
  return out;
}

/** Down along the wall and square to the way; on a level wall, or straight down, to one side. */
function wayDown(from: Vec3, to: Vec3, off: Vec3, side: number): Vec3 {
  const chord = normalize(vec3(), [to[0] - from[0], to[1] - from[1], to[2] - from[2]]);
  const way = addScaled(vec3(), DOWN, chord, -dot(DOWN, chord));
  addScaled(way, way, off, -dot(way, off));
  if (length(way) < 0.35) scale(way, cross(way, off, chord), side);
  if (length(way) < 1e-6) set(way, 0, -1, 0);
  return normalize(way, way);
}

/** Shares of a span at which its places are written: closest in a loop. */
function stepsOf({ loop, length: long }: Span, size: number): number[] {
  const even = Array.from({ length: SPAN_STEPS }, (_, k) => k / SPAN_STEPS);
  if (!loop) return even;
  const half = (LOOP_WAY * size) / long / 2;
  const inside = Array.from({ length: LOOP_STEPS + 1 }, (_, k) => 0.5 - half + (2 * half * k) / LOOP_STEPS);
  return [...even.filter((u) => u < 0.5 - half - 0.01), ...inside, ...even.filter((u) => u > 0.5 + half + 0.01)];
}

/** A place of a span, a share of the way on. */
function hangs(
  place: Vec3,
  walk: Walk,
  { from, length: long, way, deep, loop }: Span,
  u: number,
  size: number,
  thick: number,
): Vec3 {
  // a clip holds it the way it runs: it leaves level
  const out = addScaled(vec3(), place, way, deep * Math.sin(Math.PI * u) ** 2);
  if (!loop) return out;
  // a loop takes up the middle of the span; the way through it is a trochoid, its second pass over the first
  const wide = (LOOP_WAY * size) / long;
  const t = Math.min(1, Math.max(0, (u - 0.5) / wide + 0.5));
  const turn = 2 * Math.PI * t * t * (3 - 2 * t);
  const chord = walk.directionAt(from.at + u * long, vec3());
  addScaled(out, out, chord, size * Math.sin(turn));
  addScaled(out, out, way, size * (1 - Math.cos(turn)));
  const over = u < 0.5 ? 1 : Math.max(0, 1 - Math.max(0, u - (0.5 + wide / 2)) / Math.max(1e-6, 0.5 - wide / 2));
  return addScaled(out, out, from.off, LOOP_LIFT * 2 * thick * (turn / (2 * Math.PI)) * over * over * (3 - 2 * over));
}

/** Before a plug a line runs straight, the way it ends; it comes over to that in as much again. */
export function ledStraight(lines: CurveSet, startLead: number, endLead: number): CurveSet {
  if (startLead <= 0 && endLead <= 0) return lines;
  const shorter = Math.min(...[startLead, endLead].filter((one) => one > 0));
  const even = resample(lines, { maxTurn: 0.1, spacing: shorter / 8 });
  const along = even.pointData[POINT.along];
  const lengths = curveLengths(even);
  const { position } = even;
  for (let c = 0; c < curveCount(even); c++) {
    if (even.closed[c]) continue;
    const [first, last] = [even.start[c], even.start[c + 1] - 1];
    const walk = new Walk(even, c, { along, length: lengths[c] });
    for (const [end, lead, inner] of [
      [first, startLead, 1],
      [last, endLead, -1],
    ] as const) {
      if (!(lead > 0)) continue;
      const reach = Math.min(lead, 0.25 * lengths[c]);
      const base: Vec3 = [position[3 * end], position[3 * end + 1], position[3 * end + 2]];
      const way = scale(vec3(), walk.directionAt(end === first ? 0 : lengths[c], vec3()), inner);
      for (let q = end; q >= first && q <= last; q += inner) {
        const far = end === first ? along[q] : lengths[c] - along[q];
        if (far >= 2 * reach) break;
        const t = far <= reach ? 0 : far / reach - 1;
        const own = t * t * (3 - 2 * t);
        for (let n = 0; n < 3; n++)
          position[3 * q + n] = own * position[3 * q + n] + (1 - own) * (base[n] + far * way[n]);
      }
    }
  }
  return resample(even, { maxTurn: 0.1, spacing: shorter / 8 });
}
