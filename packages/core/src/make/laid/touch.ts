import type { Packing } from './packing.js';

/** Steps in which a turn to either side is searched for where two strands come nearest; the best is then made exact. */
const LOOKS = 16;
/** Strands of more than this many are held against those near them alone: others come no nearer by twisting. */
const MANY = 40;
/** Near is what is, untwisted, within this many of their own radii. */
const NEAR = 5;
/** Strands at a smaller angle to each other than this are neighbours, radians. */
const BESIDE = 0.6;
/** Of more pairs only the nearest are held against each other while their thickness is looked for. */
const FEW = 200;

/** Who a strand may touch: pairs of places in a packing, each once, and each with its own next turn. */
export interface Pairs {
  a: Uint32Array;
  b: Uint32Array;
}

export function pairsOf({ x, y, radius }: Packing): Pairs {
  const [a, b]: [number[], number[]] = [[], []];
  const count = x.length;
  const reach = count > MANY ? NEAR * radius : Infinity;
  const order = Array.from(x.keys()).sort((i, j) => x[i] - x[j]);
  for (let i = 0; i < count; i++) {
    a.push(order[i]);
    b.push(order[i]);
    for (let j = i + 1; j < count && x[order[j]] - x[order[i]] < reach; j++) {
      if (Math.abs(y[order[i]] - y[order[j]]) >= reach) continue;
      a.push(order[i]);
      b.push(order[j]);
    }
  }
  return { a: Uint32Array.from(a), b: Uint32Array.from(b) };
}

/**
 * The least distance of two helices about one axis with one pitch: of (a cos(t), a sin(t), P t/2π) from the place of the
 * other, b at angle `apart`, at height 0: d² = a² + b² − 2ab cos(t + apart) + (P t/2π)². A helix and itself: the next turn.
 */
export function helixDistance(a: number, b: number, apart: number, pitch: number, own = false): number {
  const rise = pitch / (2 * Math.PI);
  const [base, both, square] = [a * a + b * b, 2 * a * b, rise * rise];
  const at = (t: number) => base - both * Math.cos(t + apart) + square * t * t;
  // neighbours, and strands of a long lay, have one place where they are nearest: Newton goes straight there
  const beside = apart - 2 * Math.PI * Math.round(apart / (2 * Math.PI));
  if (!own && (Math.abs(beside) < BESIDE || both < 2 * square)) {
    let t = (-beside * both) / (both + 2 * square || 1);
    for (let k = 0; k < 4; k++) {
      const bend = both * Math.cos(t + beside) + 2 * square;
      if (bend <= 0) break;
      t -= (both * Math.sin(t + beside) + 2 * square * t) / bend;
    }
    return Math.sqrt(Math.max(0, base - both * Math.cos(t + beside) + square * t * t));
  }
  // its own next turn lies more than half a turn on: nearer than that it is itself
  const [from, to] = own ? [Math.PI / 2, 2.5 * Math.PI] : [-Math.PI, Math.PI];
  let best = from;
  let least = Infinity;
  for (let k = 0; k <= LOOKS; k++) {
    const t = from + ((to - from) * k) / LOOKS;
    const d = at(t);
    if (d < least) [best, least] = [t, d];
  }
  for (let k = 0; k < 5; k++) {
    const slope = both * Math.sin(best + apart) + 2 * square * best;
    const bend = both * Math.cos(best + apart) + 2 * square;
    if (bend <= 0) break;
    best = Math.min(to, Math.max(from, best - slope / bend));
  }
  return Math.sqrt(Math.max(0, Math.min(least, at(best))));
}

export interface Touching {
  /** Radius of each strand, for a bundle of radius 1. */
  radius: Float64Array;
  /** By this much the places of the packing are drawn out, so that the outermost strands end where the bundle does. */
  spread: number;
  /** Half the nearest distance of each strand to another, or to its own next turn. */
  gap: Float64Array;
}

/** How thick strands are that just touch: the same for all by the least, mean or greatest gap, or each its own. */
export type Fit = 'least' | 'mean' | 'most' | 'own';

/**
 * How thick the strands of a bundle of radius 1 are whose places are twisted together, so that they touch where they come
 * nearest and do not cut: the radius r for which the nearest two helices are 2r apart while the outermost end at 1.
 * @param pitch of one turn, in bundle radii, where it is tightest; endless when they run straight
 */
export function touching(packing: Packing, pairs: Pairs, pitch: number, fit: Fit): Touching {
  const { x, y } = packing;
  const count = x.length;
  const ring = Float64Array.from(x, (value, i) => Math.hypot(value, y[i]));
  const turn = Float64Array.from(x, (value, i) => Math.atan2(y[i], value));
  const far = ring.reduce((a, b) => Math.max(a, b), 0);
  const distance = (k: number, spread: number): number => {
    const [i, j] = [pairs.a[k], pairs.b[k]];
    const own = i === j;
    if (!Number.isFinite(pitch)) return own ? Infinity : spread * Math.hypot(x[i] - x[j], y[i] - y[j]);
    return own && ring[i] < 1e-9
      ? Infinity
      : helixDistance(spread * ring[i], spread * ring[j], turn[j] - turn[i], pitch, own);
  };
  if (far < 1e-9) return { radius: new Float64Array(count).fill(1), spread: 1, gap: new Float64Array(count).fill(1) };
  const spreadOf = (r: number) => (1 - r) / far;
  // the nearest pairs stay the nearest while the strands grow: the others are looked at once more, when they have
  let near = pairs.a.map((_, k) => k);
  const over = (r: number) => {
    const spread = spreadOf(r);
    let least = Infinity;
    for (const k of near) least = Math.min(least, distance(k, spread));
    return least / 2 - r;
  };
  if (near.length > FEW) {
    const first = Float64Array.from(near, (k) => distance(k, spreadOf(packing.radius)));
    const close = 1.02 * first.reduce((a, b) => Math.min(a, b), Infinity);
    near = near.filter((k) => first[k] <= close);
  }
  let r = rootOf(over, packing.radius);
  let spread = spreadOf(r);
  const closer = pairs.a.map((_, k) => k).filter((k) => distance(k, spread) < 2 * r * (1 - 1e-7));
  if (closer.length > 0) {
    near = Uint32Array.from([...near, ...closer]);
    r = rootOf(over, r);
    spread = spreadOf(r);
  }
  const gap = new Float64Array(count).fill(Infinity);
  const apart = Float64Array.from(pairs.a, (_, k) => distance(k, spread));
  apart.forEach((d, k) => {
    gap[pairs.a[k]] = Math.min(gap[pairs.a[k]], d / 2);
    gap[pairs.b[k]] = Math.min(gap[pairs.b[k]], d / 2);
  });
  const mean = gap.reduce((sum, value) => sum + value, 0) / count;
  const same = { least: r, mean, most: gap.reduce((a, b) => Math.max(a, b), 0), own: r }[fit];
  const radius = new Float64Array(count).fill(Math.max(0, same));
  if (fit === 'own') growInto(radius, pairs, apart);
  return { radius, spread, gap };
}

/** Each strand in turn grows until it touches another one: the gaps between are filled. */
function growInto(radius: Float64Array, { a, b }: Pairs, apart: Float64Array): void {
  const room = new Float64Array(radius.length);
  const beside: number[][] = Array.from(radius, () => []);
  for (let k = 0; k < a.length; k++) {
    beside[a[k]].push(k);
    if (a[k] !== b[k]) beside[b[k]].push(k);
  }
  for (let i = 0; i < radius.length; i++) {
    room[i] = Infinity;
    for (const k of beside[i]) {
      const other = a[k] === i ? b[k] : a[k];
      room[i] = Math.min(room[i], other === i ? apart[k] / 2 : apart[k] - radius[other]);
    }
    if (Number.isFinite(room[i])) radius[i] = Math.max(radius[i], room[i]);
  }
}

/** Where a falling function crosses 0 between 0 and `most`: secants, held by halves. */
function rootOf(f: (x: number) => number, most: number): number {
  let [low, high] = [0, most];
  let [below, above] = [f(low), f(high)];
  if (above >= 0) return high;
  if (below <= 0) return 0;
  for (let k = 0; k < 40 && high - low > 1e-9 * most; k++) {
    const secant = low + ((high - low) * below) / (below - above);
    const x = k % 3 === 2 ? (low + high) / 2 : Math.min(high, Math.max(low, secant));
    const value = f(x);
    if (Math.abs(value) < 1e-9) return x;
    if (value > 0) [low, below] = [x, value];
    else [high, above] = [x, value];
  }
  return low;
}
