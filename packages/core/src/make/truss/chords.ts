import { withChordLengths } from '../../curve/chord-lengths.js';
import { allocateCurves, type CurveSet, POINT } from '../../curve/curve-set.js';
import { childId } from '../../numeric/random.js';
import type { FramedLines } from '../elements/framed-lines.js';
import type { Stations } from '../elements/stations.js';
import { walkOf } from '../elements/stations.js';
import type { Run } from './bracing.js';
import { type CutEnd, cutLines, type EndCutter } from './end-cuts.js';
import { jointsOf, type Lattice } from './lattice.js';
import { chordsOf, type TrussChoice } from './parameters.js';

/** The lines of the chords, those of each truss together, and the way out of it at each of their points. */
export interface ChordLines {
  curves: CurveSet;
  outward: Float64Array;
  /** Ends that are not square. */
  cuts: CutEnd[];
}

/**
 * Chords straight from joint to joint.
 * @param beyond how much further than their last joints open ones go, metres
 */
export function straightChords(
  { joint, outward, chords }: Lattice,
  runs: readonly Run[],
  ids: ArrayLike<number>,
  beyond: number,
  cutter: EndCutter | undefined,
): ChordLines {
  return linesOf(runs, chords, joint, outward, (line, k) => childId(ids[line], k), beyond, cutter);
}

/** Chords bent as the line is: through each of its points. */
export function bentChords(framed: FramedLines, p: TrussChoice, cutter: EndCutter | undefined): ChordLines {
  const { lines, lengths, tangent, up } = framed;
  const total = lines.position.length / 3;
  const runs: Run[] = [];
  const share = new Float32Array(total);
  for (let c = 0; c < lines.closed.length; c++) {
    const { at } = walkOf(framed, c);
    const first = lines.start[c];
    const count = lines.start[c + 1] - first;
    for (let k = 0; k < count; k++) share[first + k] = lengths[c] > 0 ? at[k] / lengths[c] : 0;
    runs.push({ first, count, closed: lines.closed[c] === 1, line: c });
  }
  const everywhere: Pick<Stations, 'at' | 'tangent' | 'up' | 'share'> = { at: lines.position, tangent, up, share };
  const { joint, outward } = jointsOf(everywhere, p);
  return linesOf(runs, chordsOf(p), joint, outward, (line, k) => childId(lines.id[line], k), 0, cutter);
}

function linesOf(
  runs: readonly Run[],
  chords: number,
  joint: Float64Array,
  outward: Float64Array,
  idOf: (line: number, chord: number) => number,
  beyond: number,
  cutter: EndCutter | undefined,
): ChordLines {
  const total = runs.reduce((sum, { count }) => sum + count, 0) * chords;
  const curves = allocateCurves(runs.length * chords, total, [POINT.corner]);
  const { position } = curves;
  const out = new Float64Array(3 * total);
  let c = 0;
  let to = 0;
  for (const { first, count, closed, line } of runs)
    for (let k = 0; k < chords; k++, c++) {
      const begin = to;
      for (let i = 0; i < count; i++, to++) {
        const from = 3 * (chords * (first + i) + k);
        position[3 * to] = joint[from];
        position[3 * to + 1] = joint[from + 1];
        position[3 * to + 2] = joint[from + 2];
        out[3 * to] = outward[from];
        out[3 * to + 1] = outward[from + 1];
        out[3 * to + 2] = outward[from + 2];
      }
      if (!closed && count > 1) {
        goOn(position, 3 * begin, 3 * begin + 3, beyond);
        goOn(position, 3 * to - 3, 3 * to - 6, beyond);
      }
      markCorners(position, begin, to, closed, curves.pointData[POINT.corner]);
      curves.closed[c] = closed ? 1 : 0;
      curves.id[c] = idOf(line, k);
      curves.start[c + 1] = to;
    }
  const cuts = cutter ? cutLines(cutter, runs, chords, curves) : [];
  return { curves: withChordLengths(curves), outward: out, cuts };
}

/** Moves a place on, away from its neighbour. */
function goOn(at: Float64Array, end: number, before: number, far: number): void {
  const [x, y, z] = [at[end] - at[before], at[end + 1] - at[before + 1], at[end + 2] - at[before + 2]];
  const size = Math.hypot(x, y, z);
  if (!(size > 0)) return;
  at[end] += (x * far) / size;
  at[end + 1] += (y * far) / size;
  at[end + 2] += (z * far) / size;
}

/** A chord bends sharply where it turns by more than this, radians: as drawn lines do. */
const SHARP = Math.cos(Math.PI / 9);

function markCorners(at: Float64Array, begin: number, end: number, closed: boolean, corner: Float32Array): void {
  for (let p = closed ? begin : begin + 1; p < (closed ? end : end - 1); p++) {
    const a = 3 * (p > begin ? p - 1 : end - 1);
    const b = 3 * p;
    const c = 3 * (p + 1 < end ? p + 1 : begin);
    const ux = at[b] - at[a];
    const uy = at[b + 1] - at[a + 1];
    const uz = at[b + 2] - at[a + 2];
    const vx = at[c] - at[b];
    const vy = at[c + 1] - at[b + 1];
    const vz = at[c + 2] - at[b + 2];
    const size = Math.sqrt((ux * ux + uy * uy + uz * uz) * (vx * vx + vy * vy + vz * vz));
    if (size > 0 && ux * vx + uy * vy + uz * vz < SHARP * size) corner[p] = 1;
  }
}
