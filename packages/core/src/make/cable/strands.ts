import { curveLengths } from '../../curve/arc-length.js';
import { type CurveSet, curveCount, POINT, pointCount } from '../../curve/curve-set.js';
import { rotationMinimizingFrames } from '../../curve/frames.js';
import { resample } from '../../curve/resample.js';
import { type AlongValue, valueAt } from '../../numeric/lane.js';
import { childId, hashText, randomAt } from '../../numeric/random.js';
import { filledBy } from '../laid/packing.js';
import { type Cable, heldSpacing } from './course.js';

/** Several cables in one cross-section: where each stands, in radii of one, and how far all of them reach. */
export interface Row {
  x: Float64Array;
  y: Float64Array;
  /** Half the height and breadth of all together. */
  high: number;
  wide: number;
}

/** Neighbours stand this much more apart than they are thick: they touch, and do not cut where a line bends. */
const ROOM = 1.01;

export function rowOf(lay: string, count: number): Row {
  if (lay === 'one' || count === 1) return { x: Float64Array.of(0), y: Float64Array.of(0), high: 1, wide: 1 };
  if (lay === 'flat') {
    const y = Float64Array.from({ length: count }, (_, k) => ROOM * (2 * k - (count - 1)));
    return { x: new Float64Array(count), y, high: 1, wide: ROOM * (count - 1) + 1 };
  }
  const { x, y, radius } = filledBy(count);
  return {
    x: x.map((value) => (ROOM * value) / radius),
    y: y.map((value) => (ROOM * value) / radius),
    high: 1 / radius,
    wide: 1 / radius,
  };
}

/** Steps of a cable from tie to tie, and over its fan. */
const STEPS = 10;
/** A tie holds cables together this many radii to either side. */
const UNDER_TIE = 0.9;

const UNEVEN = hashText('uneven');
const STRAYS = hashText('strays');

/** Cables along lines, each of its own id, by the line they run round: those of line c are c·count … */
export interface Strands {
  lines: CurveSet;
  /** The lines they run round, with as many points as each of them. */
  rails: CurveSet;
}

const fansAt = ({ fans }: Cable): [boolean, boolean] => [
  fans === 'start' || fans === 'both',
  fans === 'end' || fans === 'both',
];

/** Longest step of cables that leave each other on their way, metres; no limit where they do not. */
export function strandSpacing(p: Cable, row: Row, size: number): number | undefined {
  if (row.x.length === 1) return heldSpacing(p, size);
  const steps = [
    fansAt(p).includes(true) ? p.fanOver * size * row.high : Infinity,
    p.ties > 0 && p.loose > 0 ? p.ties * size * row.high : Infinity,
  ];
  const least = Math.min(...steps.map((one) => one / STEPS), heldSpacing(p, size) ?? Infinity);
  return Number.isFinite(least) ? least : undefined;
}

/**
 * The cables of a bundle: beside each other as `row` says, a little apart halfway between ties, and further and further
 * apart towards an end where they fan out.
 * @param radius of one, metres
 * @param tieEvery metres between ties; 0 for none
 */
export function strandsIn(
  course: CurveSet,
  row: Row,
  p: Cable,
  radius: AlongValue,
  tieEvery: number,
  size: number,
): Strands {
  const count = row.x.length;
  const over = p.fanOver * size * row.high;
  const fans = fansAt(p);
  const spacing = strandSpacing(p, row, size);
  const rails = resample(course, { maxTurn: 0.08, spacing });
  const frames = rotationMinimizingFrames(rails);
  const along = rails.pointData[POINT.along];
  const lengths = curveLengths(rails);
  const turns = rails.pointData[POINT.roll];
  const points = pointCount(rails);
  const lines: CurveSet = {
    start: new Uint32Array(curveCount(rails) * count + 1),
    position: new Float64Array(3 * points * count),
    closed: new Uint8Array(curveCount(rails) * count),
    id: new Uint32Array(curveCount(rails) * count),
    pointData: Object.fromEntries(
      Object.keys(rails.pointData)
        .filter((name) => name !== POINT.along)
        .map((name) => [name, new Float32Array((rails.pointData[name].length / points) * points * count)]),
    ),
    curveData: {},
  };
  let to = 0;
  for (let c = 0; c < curveCount(rails); c++)
    for (let k = 0; k < count; k++) {
      const line = c * count + k;
      const id = childId(rails.id[c], k);
      lines.id[line] = count === 1 ? rails.id[c] : id;
      lines.closed[line] = rails.closed[c];
      for (let q = rails.start[c]; q < rails.start[c + 1]; q++, to++) {
        const t = along[q] / (lengths[c] || 1);
        const each = valueAt(radius, t) * (rails.pointData[POINT.radius]?.[q] ?? 1);
        const roll = valueAt(p.roll, t) + (turns?.[q] ?? 0);
        const [cos, sin] = [Math.cos(roll), Math.sin(roll)];
        const between = tieEvery > 0 ? offTies(along[q], tieEvery, size) : 0;
        const stray =
          tieEvery > 0 ? 0.5 + randomAt(p.seed, childId(rails.id[c], Math.floor(along[q] / tieEvery)), STRAYS) : 1;
        const fan = fanned(along[q], lengths[c], over, fans);
        const apart = 1 + (count > 1 ? p.loose * between * stray * (1 - fan) : 0) + (p.fan * fan) / row.high;
        const [x, y] = [each * apart * row.x[k], each * apart * row.y[k]];
        const [up, aside] = [x * cos - y * sin, x * sin + y * cos];
        for (let n = 0; n < 3; n++) {
          const [a, b] = [3 * q + ((n + 1) % 3), 3 * q + ((n + 2) % 3)];
          const binormal = frames.tangent[a] * frames.normal[b] - frames.tangent[b] * frames.normal[a];
          lines.position[3 * to + n] = rails.position[3 * q + n] + up * frames.normal[3 * q + n] + aside * binormal;
        }
        for (const [name, data] of Object.entries(lines.pointData)) {
          const wide = data.length / (points * count);
          for (let n = 0; n < wide; n++) data[wide * to + n] = rails.pointData[name][wide * q + n];
        }
      }
      lines.start[line + 1] = to;
    }
  return { lines: unevenEnds(lines, p, size), rails };
}

/** 0 under a tie … 1 halfway between two. */
function offTies(at: number, every: number, size: number): number {
  const under = Math.min(0.3, (UNDER_TIE * size) / every);
  const share = Math.min(1, Math.max(0, ((at / every) % 1) - under) / (1 - 2 * under));
  return Math.sin(Math.PI * share) ** 2;
}

/** 0 where cables lie together … 1 at an end where they fan out. */
function fanned(at: number, length: number, over: number, [start, end]: readonly boolean[]): number {
  const share = (far: number) => {
    const t = Math.max(0, 1 - far / over);
    return t * t * (1.5 - 0.5 * t);
  };
  return Math.max(start ? share(at) : 0, end ? share(length - at) : 0);
}

/** Of cables that fan out some end sooner: their last steps are drawn in. */
function unevenEnds(lines: CurveSet, { uneven, fans, seed }: Cable, size: number): CurveSet {
  if (uneven === 0 || fans === 'none') return lines;
  for (let c = 0; c < curveCount(lines); c++) {
    if (lines.closed[c]) continue;
    for (const side of ['start', 'end'] as const) {
      if (fans !== side && fans !== 'both') continue;
      const by = uneven * size * randomAt(seed, childId(lines.id[c], side === 'start' ? 1 : 2), UNEVEN);
      shortened(lines, c, side, by);
    }
  }
  return lines;
}

/** Draws the points of the last stretch of a line together, so that it ends sooner by this many metres. */
function shortened({ position, start }: CurveSet, c: number, side: 'start' | 'end', by: number): void {
  const order = Array.from({ length: start[c + 1] - start[c] }, (_, k) =>
    side === 'end' ? start[c + 1] - 1 - k : start[c] + k,
  );
  const far = [0];
  for (let k = 1; k < order.length; k++) {
    const [i, j] = [3 * order[k - 1], 3 * order[k]];
    far.push(
      far[k - 1] +
        Math.hypot(position[j] - position[i], position[j + 1] - position[i + 1], position[j + 2] - position[i + 2]),
    );
  }
  // over three times as much the rest gives way
  const over = Math.min(3 * by, 0.5 * far[far.length - 1]);
  const given = Math.min(by, 0.6 * over);
  const old = order.map((q) => [position[3 * q], position[3 * q + 1], position[3 * q + 2]]);
  for (let k = 0; k < order.length && far[k] < over; k++) {
    const wanted = given + (far[k] * (over - given)) / over;
    let j = k;
    while (j + 1 < far.length && far[j + 1] < wanted) j++;
    const next = Math.min(j + 1, far.length - 1);
    const t = far[next] > far[j] ? (wanted - far[j]) / (far[next] - far[j]) : 0;
    for (let n = 0; n < 3; n++) position[3 * order[k] + n] = old[j][n] * (1 - t) + old[next][n] * t;
  }
}
