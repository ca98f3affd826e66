import type { Mesh } from '../../mesh/mesh.js';
import { cellHash } from '../../numeric/cell-hash.js';
import { createHit } from '../../surface/surface.js';
import type { Surroundings } from '../../surface/surroundings.js';
import type { FramedLines } from '../elements/framed-lines.js';
import type { Run } from './bracing.js';
import type { TrussChoice } from './parameters.js';

type Xyz = readonly [number, number, number];

/** Where a chord is cut off: a place on the cut, and the unit way out of it. */
interface Plane {
  at: Xyz;
  normal: Xyz;
}

/** An end of a chord that was cut: its line's end, the unit way out along the chord, the unit way out of the cut. */
export interface CutEnd {
  curve: number;
  first: boolean;
  at: Xyz;
  way: Xyz;
  normal: Xyz;
}

/** What cuts chords at the ends of lines: by the line, the end, and the ray of the chord, as long as `far`. */
export type EndCutter = (line: number, first: boolean, from: Xyz, way: Xyz, far: number) => Plane | undefined;

/** A cut that runs along the chord, by the cosine to its normal, would never end. */
const MIN_COSINE = Math.cos((80 * Math.PI) / 180);
/** The last bay is not cut shorter than this share of it. */
const MIN_BAY_SHARE = 0.1;
/** A chord is drawn out to a prop by no more than this many times its last bay. */
const FURTHEST = 4;

/** The cuts that are asked for; undefined where ends are square. */
export function endCutter(
  p: TrussChoice,
  { lines, tangent }: FramedLines,
  surroundings: Surroundings,
): EndCutter | undefined {
  if (p.endCut === 'square') return undefined;
  if (p.endCut === 'prop') {
    const surface = surroundings.surface(p.cutBy);
    const hit = createHit();
    return (_line, _first, from, way, far) => {
      if (!surface?.cast(from, way, hit, FURTHEST * far)) return undefined;
      const sign = dot(hit.normal, way) < 0 ? -1 : 1;
      return {
        at: [hit.point[0], hit.point[1], hit.point[2]],
        normal: [sign * hit.normal[0], sign * hit.normal[1], sign * hit.normal[2]],
      };
    };
  }
  return (line, first) => {
    const i = 3 * (first ? lines.start[line] : lines.start[line + 1] - 1);
    const sign = first ? -1 : 1;
    const [x, y, z] = [sign * tangent[i], sign * tangent[i + 1], sign * tangent[i + 2]];
    const level = Math.hypot(x, z);
    const at: Xyz = [lines.position[i], lines.position[i + 1], lines.position[i + 2]];
    if (p.endCut === 'plumb') return level > 0 ? { at, normal: [x / level, 0, z / level] } : undefined;
    return { at, normal: [0, y < 0 ? -1 : 1, 0] };
  };
}

/** How far along a ray a cut is: at least a part of its way to the uncut end; undefined where it runs beside it. */
function reachOf({ at, normal }: Plane, from: Xyz, way: Xyz, far: number): number | undefined {
  const lean = dot(normal, way);
  if (Math.abs(lean) < MIN_COSINE) return undefined;
  const reach = dot(normal, [at[0] - from[0], at[1] - from[1], at[2] - from[2]]) / lean;
  return reach >= MIN_BAY_SHARE * far && reach <= FURTHEST * far ? reach : undefined;
}

/** Moves the joints at the ends of lines so that chords end in the cut; what cannot be cut stays square. Returns how many do. */
export function cutJoints(
  cut: EndCutter,
  runs: readonly Run[],
  chords: number,
  inset: number,
  joint: Float64Array,
): number {
  let square = 0;
  for (const { first, count, closed, line } of runs) {
    if (closed || count < 2) continue;
    for (const atStart of [true, false])
      for (let k = 0; k < chords; k++) {
        const [end, before] = atStart ? [first, first + 1] : [first + count - 1, first + count - 2];
        const [i, j] = [3 * (chords * end + k), 3 * (chords * before + k)];
        const { from, way, far } = rayOf(joint, j, i);
        const plane = far > 0 ? cut(line, atStart, from, way, far + inset) : undefined;
        const reach = plane && reachOf(plane, from, way, far + inset);
        if (reach === undefined) square++;
        else for (let n = 0; n < 3; n++) joint[i + n] = from[n] + Math.max(MIN_BAY_SHARE * far, reach - inset) * way[n];
      }
  }
  return square;
}

/** Cuts the lines of chords off, those of each line together; returns the ends that were. */
export function cutLines(
  cut: EndCutter,
  runs: readonly Run[],
  chords: number,
  { start, position }: { start: Uint32Array; position: Float64Array },
): CutEnd[] {
  const out: CutEnd[] = [];
  runs.forEach(({ closed, count, line }, r) => {
    if (closed || count < 2) return;
    for (const first of [true, false])
      for (let k = 0; k < chords; k++) {
        const curve = chords * r + k;
        const step = first ? 1 : -1;
        const end = first ? start[curve] : start[curve + 1] - 1;
        const points = start[curve + 1] - start[curve];
        const plane = cutNear(cut, line, first, position, end, step);
        if (!plane) continue;
        // of a bent chord everything beyond the cut is drawn together between it and the last place before it
        let inside = 1;
        while (inside < points - 1 && beyond(plane, position, end + inside * step) > 0) inside++;
        const { from, way, far } = rayOf(position, 3 * (end + inside * step), 3 * (end + (inside - 1) * step));
        const reach = far > 0 ? reachOf(plane, from, way, far) : undefined;
        if (reach === undefined) continue;
        const at: Xyz = [from[0] + reach * way[0], from[1] + reach * way[1], from[2] + reach * way[2]];
        for (let i = 0; i < inside; i++)
          for (let n = 0; n < 3; n++) position[3 * (end + i * step) + n] = at[n] + (i / inside) * (from[n] - at[n]);
        out.push({ curve, first, at, way, normal: plane.normal });
      }
  });
  return out;
}

function cutNear(
  cut: EndCutter,
  line: number,
  first: boolean,
  position: Float64Array,
  end: number,
  step: number,
): Plane | undefined {
  const { from, way, far } = rayOf(position, 3 * (end + step), 3 * end);
  return far > 0 ? cut(line, first, from, way, far) : undefined;
}

const beyond = ({ at, normal }: Plane, position: Float64Array, p: number): number =>
  normal[0] * (position[3 * p] - at[0]) +
  normal[1] * (position[3 * p + 1] - at[1]) +
  normal[2] * (position[3 * p + 2] - at[2]);

/** From one place of flat xyz to another one. */
function rayOf(x: Float64Array, i: number, j: number): { from: Xyz; way: Xyz; far: number } {
  const [dx, dy, dz] = [x[j] - x[i], x[j + 1] - x[i + 1], x[j + 2] - x[i + 2]];
  const far = Math.sqrt(dx * dx + dy * dy + dz * dz);
  return { from: [x[i], x[i + 1], x[i + 2]], way: [dx / far, dy / far, dz / far], far };
}

const dot = (a: ArrayLike<number>, b: ArrayLike<number>): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];

/** What is nearer to the square end than this share of the chord's reach is of its end. */
const AT_END = 1e-3;

/**
 * Slides the square ends of chords along them into their cuts, and turns the normals of what closes them.
 * @param reach of a chord from its line, metres
 */
export function slideEnds({ position, normal }: Mesh, ends: readonly CutEnd[], reach: number): void {
  const cell = 4 * reach;
  const near = new Map<number, CutEnd[]>();
  for (const end of ends) {
    const [low, high] = [-1, 1].map((sign) => end.at.map((value) => Math.floor((value + sign * reach) / cell)));
    for (let x = low[0]; x <= high[0]; x++)
      for (let y = low[1]; y <= high[1]; y++)
        for (let z = low[2]; z <= high[2]; z++) {
          const key = cellHash(x, y, z);
          near.set(key, [...(near.get(key) ?? []), end]);
        }
  }
  for (let i = 0; i < position.length; i += 3) {
    const [x, y, z] = [position[i], position[i + 1], position[i + 2]];
    for (const { at, way, normal: out } of near.get(
      cellHash(Math.floor(x / cell), Math.floor(y / cell), Math.floor(z / cell)),
    ) ?? []) {
      const off: Xyz = [x - at[0], y - at[1], z - at[2]];
      const past = dot(off, way);
      if (Math.abs(past) > AT_END * reach || dot(off, off) > 1.01 * reach * reach) continue;
      const slide = -dot(out, off) / dot(out, way);
      for (let n = 0; n < 3; n++) position[i + n] += slide * way[n];
      if (dot([normal[i], normal[i + 1], normal[i + 2]], way) > 0.99)
        for (let n = 0; n < 3; n++) normal[i + n] = out[n];
      break;
    }
  }
}
