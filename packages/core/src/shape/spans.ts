import type { CurveSet } from '../curve/curve-set.js';
import { distanceAt } from '../numeric/vector.js';

/** Segments of a span at most. */
const MAX_SEGMENTS = 4;

/** All segments of all curves, and spans of a few that follow each other, which are looked at together first. */
export interface Spans {
  from: Uint32Array;
  to: Uint32Array;
  /** Length from the curve's start to each segment's middle, metres. */
  along: Float64Array;
  /** First segment of each span, and one more number: how many segments there are. */
  first: Uint32Array;
  /** Of each span: its curve. */
  curve: Uint32Array;
  /** Whole length of each curve; 0 where it is open. */
  round: Float64Array;
}

/** @param longest how far along its curve a span's segments may lie from each other, metres */
export function spansOf({ start, closed, position }: CurveSet, longest: number): Spans {
  const count = closed.length;
  let total = 0;
  for (let c = 0; c < count; c++) total += start[c + 1] - start[c] - 1 + closed[c];
  const from = new Uint32Array(total);
  const to = new Uint32Array(total);
  const along = new Float64Array(total);
  const round = new Float64Array(count);
  const first: number[] = [];
  const curve: number[] = [];
  let s = 0;
  for (let c = 0; c < count; c++) {
    let walked = 0;
    let begun = -1;
    for (let p = start[c]; p < start[c + 1] - 1 + closed[c]; p++, s++) {
      const q = p === start[c + 1] - 1 ? start[c] : p + 1;
      const length = distanceAt(position, p, q);
      from[s] = p;
      to[s] = q;
      along[s] = walked + length / 2;
      walked += length;
      if (begun < 0 || s - begun === MAX_SEGMENTS || along[s] - along[begun] > longest) {
        begun = s;
        first.push(s);
        curve.push(c);
      }
    }
    round[c] = closed[c] ? walked : 0;
  }
  first.push(total);
  return { from, to, along, first: Uint32Array.from(first), curve: Uint32Array.from(curve), round };
}

/** Numbers of one ball: its middle, xyz, its radius, and of a span how far it has gone at most since the beginning. */
export const BALL = 4;
export const SPAN = 5;

/** A ball round each segment and one round each span, as they are now. */
export class Balls {
  readonly segment: Float64Array;
  readonly span: Float64Array;

  constructor(private readonly spans: Spans) {
    this.segment = new Float64Array(BALL * spans.from.length);
    this.span = new Float64Array(SPAN * spans.curve.length);
  }

  update(position: Float64Array): void {
    const { segment, span } = this;
    const { from, to, first, curve } = this.spans;
    for (let g = 0; g < curve.length; g++) {
      const end = first[g + 1];
      const middle = 3 * from[(first[g] + end) >> 1];
      const mx = position[middle];
      const my = position[middle + 1];
      const mz = position[middle + 2];
      let far = 0;
      for (let s = first[g]; s < end; s++) {
        const i = 3 * from[s];
        const j = 3 * to[s];
        const x = position[j] - position[i];
        const y = position[j + 1] - position[i + 1];
        const z = position[j + 2] - position[i + 2];
        const o = BALL * s;
        segment[o] = position[i] + x / 2;
        segment[o + 1] = position[i + 1] + y / 2;
        segment[o + 2] = position[i + 2] + z / 2;
        segment[o + 3] = Math.sqrt(x * x + y * y + z * z) / 2;
        far = Math.max(
          far,
          (position[i] - mx) ** 2 + (position[i + 1] - my) ** 2 + (position[i + 2] - mz) ** 2,
          (position[j] - mx) ** 2 + (position[j + 1] - my) ** 2 + (position[j + 2] - mz) ** 2,
        );
      }
      span[SPAN * g] = mx;
      span[SPAN * g + 1] = my;
      span[SPAN * g + 2] = mz;
      span[SPAN * g + 3] = Math.sqrt(far);
    }
  }

  /** Adds to how far each span has gone the longest way one of its points went: `moved`, flat xyz. */
  addWay(moved: Float64Array): void {
    const { from, to, first, curve } = this.spans;
    const { span } = this;
    const far2 = (p: number) => moved[3 * p] ** 2 + moved[3 * p + 1] ** 2 + moved[3 * p + 2] ** 2;
    for (let g = 0; g < curve.length; g++) {
      let longest = far2(to[first[g + 1] - 1]);
      for (let s = first[g]; s < first[g + 1]; s++) longest = Math.max(longest, far2(from[s]));
      span[SPAN * g + 4] += Math.sqrt(longest);
    }
  }
}
