import type { CurveSet } from '../../curve/curve-set.js';

/** Joints on a line: each is straight away so far from the one before as what is between them is long. */
export interface Joints {
  /** Flat xyz; one more than there are chords, also where the last meets the first. */
  at: Float64Array;
  /** Metres from the start of the line. */
  along: Float64Array;
  /** Factor on all chords that made them meet the end. */
  scale: number;
}

/** Steps of the search for chords that meet the end, and how near they have to come, as a share of the length. */
const ROUNDS = 60;
const MEETS = 1e-9;

/**
 * Joints along one line, as many as fit: what is rigid and joined end to end lies along a line so.
 * @param along metres from the start of each of the line's points
 * @param chordOf length of the k-th, metres
 * @param most chords
 */
export function jointsAlong(line: ChordLine, chordOf: (k: number) => number, most: number): Joints {
  const walk = new ChordWalk(line);
  const at = [...walk.joint];
  const along = [0];
  for (let k = 0; k < most && walk.step(chordOf(k), line.length); k++) {
    at.push(...walk.joint);
    along.push(walk.along);
  }
  return { at: Float64Array.from(at), along: Float64Array.from(along), scale: 1 };
}

/**
 * Exactly `count` chords from the start to the end, or once round a closed line: all are longer or shorter by one factor.
 * How far they come grows with it, so that it is found by halving (regula falsi, Illinois variant; any numerics text).
 */
export function jointsToEnd(line: ChordLine, chordOf: (k: number) => number, count: number): Joints {
  const sum = Array.from({ length: count }, (_, k) => chordOf(k)).reduce((a, b) => a + b, 0);
  const far = (scale: number) => {
    const walk = new ChordWalk(line);
    for (let k = 0; k < count; k++) if (!walk.step(scale * chordOf(k), 2 * line.length)) return line.length;
    return walk.along - line.length;
  };
  let [low, high] = [0.2 * (line.length / sum), 1.02 * (line.length / sum)];
  let [below, above] = [far(low), far(high)];
  for (let round = 0; round < ROUNDS && below < -MEETS * line.length && high - low > 1e-13 * high; round++) {
    // what goes beyond an open line's end has no place there: then it is halved
    const guess = above < line.length ? (low * above - high * below) / (above - below) : (low + high) / 2;
    const missed = far(guess);
    if (missed <= 0) {
      low = guess;
      below = missed;
      above /= above < line.length ? 2 : 1;
    } else {
      high = guess;
      above = missed;
      below /= 2;
    }
  }
  const walk = new ChordWalk(line);
  const at = new Float64Array(3 * count + 3);
  const along = new Float64Array(count + 1);
  at.set(walk.joint);
  for (let k = 0; k < count; k++) {
    walk.step(low * chordOf(k), 2 * line.length);
    at.set(walk.joint, 3 * k + 3);
    along[k + 1] = walk.along;
  }
  return { at, along, scale: low };
}

/** One line of a set, its points and how far along they are. */
export interface ChordLine {
  position: Float64Array;
  along: ArrayLike<number>;
  length: number;
  closed: boolean;
}

export const chordLine = (
  { position, start, closed }: CurveSet,
  c: number,
  length: number,
  at: ArrayLike<number>,
): ChordLine => ({
  position: position.subarray(3 * start[c], 3 * start[c + 1]),
  along: at,
  length,
  closed: closed[c] === 1,
});

/** Goes along a line chord by chord; round and round a closed one. */
class ChordWalk {
  readonly joint: Float64Array;
  along = 0;
  private edge = 0;
  private share = 0;
  private readonly count: number;

  constructor(private readonly line: ChordLine) {
    this.joint = line.position.slice(0, 3);
    this.count = line.position.length / 3;
  }

  /** To the first place beyond here that is a chord away; false where there is none before `until` metres. */
  step(chord: number, until: number): boolean {
    const { line, joint, count } = this;
    const { position } = line;
    const edges = line.closed ? count : count - 1;
    let [edge, from] = [this.edge, this.share];
    for (;;) {
      const round = Math.floor(edge / edges);
      if (!line.closed && round > 0) return false;
      const p = 3 * (edge % edges);
      const q = 3 * (((edge % edges) + 1) % count);
      let [ab, bb, far] = [0, 0, 0];
      let aa = -chord * chord;
      for (let n = 0; n < 3; n++) {
        const a = position[p + n] - joint[n];
        const b = position[q + n] - position[p + n];
        const end = position[q + n] - joint[n];
        aa += a * a;
        ab += a * b;
        bb += b * b;
        far += end * end;
      }
      const start = round * line.length + line.along[edge % edges];
      if (start > until) return false;
      // an edge that ends a chord away by a rounding error ends there
      if (far >= chord * chord * (1 - 1e-12) && bb > 0) {
        const t = Math.max(from, Math.min(1, (-ab + Math.sqrt(Math.max(0, ab * ab - bb * aa))) / bb));
        const next = (edge % edges) + 1 < count ? line.along[(edge % edges) + 1] : line.length;
        for (let n = 0; n < 3; n++) joint[n] = position[p + n] + t * (position[q + n] - position[p + n]);
        this.along = start + t * (next - line.along[edge % edges]);
        this.edge = edge;
        this.share = t;
        return this.along <= until * (1 + 1e-12);
      }
      edge++;
      from = 0;
    }
  }
}
