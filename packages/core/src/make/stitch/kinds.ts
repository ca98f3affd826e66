/** A place of a stitch: metres along from the beginning of its cell, and to the right of the line. */
export type PlanPlace = readonly [along: number, aside: number];

/** One thread over the cloth, from where it comes up to where it goes down. */
export interface PlanThread {
  /** Straight from the first to the last where there are two; else a smooth way through all. */
  places: readonly PlanPlace[];
  /** Which of its ends go down a hole. */
  holes: readonly [boolean, boolean];
  /** How much higher it lies than others, in threads: over what it crosses. At its middle where it is straight, else at each place. */
  over: number | readonly number[];
}

/** What a kind of stitch goes by, metres. */
export interface PlanSize {
  /** From stitch to stitch, and how long each is. */
  pitch: number;
  length: number;
  /** Half of the breadth of a row. */
  half: number;
  /** Radius of the thread. */
  thread: number;
  /** Turn of each about its middle, radians. */
  turn: number;
  /** How many of its row, from 0. */
  ordinal: number;
  /** The last one of a row that does not close. */
  last: boolean;
}

interface StitchKind {
  value: string;
  label: string;
  /** It goes by its breadth. */
  broad: boolean;
  /** Stitches that share their holes have no gap. */
  joined: boolean;
  /** They are of two kinds by turns. */
  alternates: boolean;
  plan(size: PlanSize): PlanThread[];
}

const HOLES = [true, true] as const;
const straight = (from: PlanPlace, to: PlanPlace, over = 0): PlanThread => ({ places: [from, to], holes: HOLES, over });

/** Places turned about the middle of the cell. */
function turned({ turn, pitch }: PlanSize, places: readonly PlanPlace[]): PlanPlace[] {
  const [cos, sin] = [Math.cos(turn), Math.sin(turn)];
  return places.map(([u, v]) => [pitch / 2 + (u - pitch / 2) * cos - v * sin, (u - pitch / 2) * sin + v * cos]);
}

/** The stitches there are. Names are the trade's own (dashes, backstitch, crosses …); ISO 4915 numbers where it has one. */
export const STITCH_KINDS: readonly StitchKind[] = [
  {
    value: 'run',
    label: 'Running',
    broad: false,
    joined: false,
    alternates: false,
    plan(size) {
      const rest = (size.pitch - size.length) / 2;
      const [a, b] = turned(size, [
        [rest, 0],
        [size.pitch - rest, 0],
      ]);
      return [straight(a, b)];
    },
  },
  {
    // on its face as the lockstitch, ISO 4915 no. 301: thread after thread, each from the hole where the last went down
    value: 'back',
    label: 'Backstitch',
    broad: false,
    joined: true,
    alternates: false,
    plan: ({ pitch, thread }) => [straight([0.7 * thread, 0], [pitch - 0.7 * thread, 0])],
  },
  {
    value: 'cross',
    label: 'Crosses',
    broad: true,
    joined: false,
    alternates: false,
    plan(size) {
      const rest = (size.pitch - size.length) / 2;
      const far = size.pitch - rest;
      const [a, b, c, d] = turned(size, [
        [rest, -size.half],
        [far, size.half],
        [rest, size.half],
        [far, -size.half],
      ]);
      return [straight(a, b), straight(c, d, 1)];
    },
  },
  {
    value: 'bar',
    label: 'Bars',
    broad: true,
    joined: false,
    alternates: false,
    plan(size) {
      const [a, b] = turned(size, [
        [size.pitch / 2, -size.half],
        [size.pitch / 2, size.half],
      ]);
      return [straight(a, b)];
    },
  },
  {
    // ISO 4915 no. 304
    value: 'zigzag',
    label: 'Zigzag',
    broad: true,
    joined: true,
    alternates: true,
    plan({ pitch, half, ordinal }) {
      const way = ordinal % 2 === 0 ? 1 : -1;
      return [straight([0, -way * half], [pitch, way * half])];
    },
  },
  {
    value: 'vee',
    label: 'V',
    broad: true,
    joined: false,
    alternates: false,
    plan(size) {
      const rest = (size.pitch - size.length) / 2;
      const far = size.pitch - rest;
      const [a, b, c] = turned(size, [
        [rest, size.half],
        [size.pitch / 2, -size.half],
        [far, size.half],
      ]);
      return [straight(a, b), straight(b, c)];
    },
  },
  {
    // ISO 4915 no. 101: each loop is held by the next, both legs of which pass over its end
    value: 'chain',
    label: 'Chain',
    broad: true,
    joined: true,
    alternates: false,
    plan({ pitch, half, thread, last }) {
      const [b, e] = [Math.max(half, 1.2 * thread), 1.6 * thread];
      const leg = [
        [0.3 * thread, 0.5],
        [1.6 * thread, 0.75],
        [0.35 * pitch, 1],
        [0.65 * pitch, 0.95],
        [pitch - thread, 0.65],
        [pitch + 0.7 * e, 0.36],
      ] as const;
      // both legs begin beside each other in one hole
      const side = (way: number) => leg.map(([u, v], k): PlanPlace => [u, way * (k === 0 ? 0.8 * thread : v * b)]);
      const over = [1, 1, 0.2, 0, 0, 0];
      const tip: PlanPlace = [pitch + e, 0];
      const loop: PlanThread = {
        places: [...side(1), tip, ...side(-1).toReversed()],
        holes: HOLES,
        over: [...over, 0, ...over.toReversed()],
      };
      // the last loop is held down by a thread of its own
      return last ? [loop, straight([pitch - thread, 0], [pitch + e + 2 * thread, 0], 1)] : [loop];
    },
  },
  {
    value: 'blanket',
    label: 'Blanket',
    broad: true,
    joined: true,
    alternates: false,
    plan({ pitch, half, thread }) {
      const edge: PlanThread = {
        places: [
          [0, half],
          [pitch / 3, half],
          [(2 * pitch) / 3, half],
          [pitch, half],
        ],
        holes: [false, false],
        over: 0,
      };
      const leg: PlanThread = {
        places: [
          [pitch, half + 2 * thread],
          [pitch, half],
          [pitch, half - 3 * thread],
          [pitch, 0],
          [pitch, -half],
        ],
        holes: HOLES,
        over: [0, 1, 0.5, 0, 0],
      };
      return [edge, leg];
    },
  },
  { value: 'whip', label: 'Whip, over an edge', broad: true, joined: false, alternates: false, plan: () => [] },
];

export const stitchKind = (value: string): StitchKind =>
  STITCH_KINDS.find((kind) => kind.value === value) ?? STITCH_KINDS[0];
