import type { Weave } from './weave.js';

/** Places between two crossings that are looked at, and halvings about the best of them. */
const LOOKS = 12;
const HALVINGS = 12;
/** How often thickness and waves are tried. */
const ROUNDS = 14;
const WAVE_ROUNDS = 16;
const EXACT = 1e-4;
/** Strands that had to go over others by more than this many of their radii would lie in lumps: they are made thinner. */
const MAX_RISE = 1.35;
/** Beside each other strands may be this much nearer than their thickness. */
const SLACK = 2e-3;

/** How thick the strands of a braid of half-width 1 are, and how they go over and under. */
export interface BraidSize {
  /** Radius of a strand. */
  radius: number;
  /** Where the wave's middle is, and how far it goes to both sides of it at each kind of crossing. */
  middle: number;
  waves: Float64Array;
}

/**
 * The thickest strands that can be woven so: where two cross they touch, and nowhere do two cut. For a thickness the waves
 * are found at which crossing strands come two radii apart; the thickness is the greatest at which all others stay so far
 * apart too.
 * @param pitch length of one turn, or one way there and back, in half-widths, where it is tightest
 * @param share of that thickness which is wanted: thinner strands touch at their crossings all the same
 */
export function solveBraid(weave: Weave, pitch: number, share: number): BraidSize {
  let [low, high] = [0, 0.5];
  let best = wovenWith(weave, pitch, 1e-3);
  for (let k = 0; k < ROUNDS; k++) {
    const radius = (low + high) / 2;
    const size = wovenWith(weave, pitch, radius);
    if (
      size.middle > radius &&
      size.waves.every((wave) => wave <= MAX_RISE * radius) &&
      touches(weave, pitch, size) &&
      isFree(weave, pitch, size)
    )
      [low, best] = [radius, size];
    else high = radius;
  }
  return share === 1 ? best : wovenWith(weave, pitch, share * best.radius);
}

/** The waves at which strands of one thickness touch where they cross. */
function wovenWith(weave: Weave, pitch: number, radius: number): BraidSize {
  const waves = new Float64Array(weave.kinds.length).fill(radius);
  const size: BraidSize = { radius, middle: 0, waves };
  const half = Math.ceil(waves.length / 2);
  for (let k = 0; k < WAVE_ROUNDS; k++) {
    size.middle = weave.flat ? 1 - radius : 1 - radius - waves[0];
    let off = 0;
    for (let c = 0; c < half; c++) {
      const times = (2 * radius) / Math.max(1e-9, crossingDistance(weave, pitch, size, c));
      off = Math.max(off, Math.abs(times - 1));
      // both edges are alike
      waves[c] = waves[waves.length - 1 - c] = Math.min(2, waves[c] * Math.min(2, Math.max(0.5, times)));
    }
    if (off < EXACT) break;
  }
  size.middle = weave.flat ? 1 - radius : 1 - radius - waves[0];
  return size;
}

type Line = (turns: number) => readonly [number, number, number];

function lineOf(weave: Weave, pitch: number, k: number, { middle, waves }: BraidSize): Line {
  return (turns) => {
    const { x, y } = weave.at(k, turns, middle, waves);
    return [x, y, pitch * turns];
  };
}

/** Least distance of a place to a line near it. */
function nearest([x, y, z]: readonly [number, number, number], line: Line, middle: number, reach: number): number {
  const d = (t: number) => {
    const b = line(t);
    return (x - b[0]) ** 2 + (y - b[1]) ** 2 + (z - b[2]) ** 2;
  };
  return Math.sqrt(leastOf(d, middle, reach));
}

/** Least value of a function about a place: the best of some, then halves of the step about it. */
function leastOf(d: (t: number) => number, middle: number, reach: number): number {
  let best = middle;
  let least = Infinity;
  for (let k = -LOOKS / 2; k <= LOOKS / 2; k++) {
    const t = middle + (2 * reach * k) / LOOKS;
    const value = d(t);
    if (value < least) [best, least] = [t, value];
  }
  let step = (2 * reach) / LOOKS;
  for (let k = 0; k < HALVINGS; k++) {
    step /= 2;
    const [before, after] = [d(best - step), d(best + step)];
    if (before < least && before <= after) [best, least] = [best - step, before];
    else if (after < least) [best, least] = [best + step, after];
  }
  return least;
}

/** How near two strands come where they cross. */
function crossingDistance(weave: Weave, pitch: number, size: BraidSize, c: number): number {
  const { other, at } = weave.kinds[c];
  const [one, two] = [lineOf(weave, pitch, 0, size), lineOf(weave, pitch, other, size)];
  const reach = 0.5 / weave.crossings;
  return leastOf((t) => nearest(one(t), two, t, reach), at, reach);
}

const touches = (weave: Weave, pitch: number, size: BraidSize): boolean =>
  weave.kinds.every((_, c) => Math.abs(crossingDistance(weave, pitch, size, c) / (2 * size.radius) - 1) < SLACK);

/** Whether no other strand comes nearer than the thickness anywhere. */
function isFree(weave: Weave, pitch: number, size: BraidSize): boolean {
  const one = lineOf(weave, pitch, 0, size);
  const steps = Math.ceil(LOOKS * weave.crossings * weave.period);
  const reach = 1 / weave.crossings;
  const least = 2 * size.radius * (1 - SLACK);
  return weave.beside.every((k) => {
    const two = lineOf(weave, pitch, k, size);
    for (let s = 0; s < steps; s++) {
      const t = (weave.period * s) / steps;
      const a = one(t);
      const b = two(t);
      // along the line they do not gain on each other by more than they are looked for
      if (Math.hypot(a[0] - b[0], a[1] - b[1]) > 4 * size.radius) continue;
      if (nearest(a, two, t, reach) < least) return false;
    }
    return true;
  });
}
