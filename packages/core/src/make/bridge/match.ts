/** Places of one rim seen along the course, closed. */
interface Outline {
  x: Float64Array;
  y: Float64Array;
}

/** Which place of one rim meets which of the other. */
export interface Match {
  /** Of each column: the place of the start's rim and of the end's, as number and share of the way to the next. */
  start: Float64Array;
  end: Float64Array;
  /** Share of the way round, 0…1, one a column. */
  share: Float64Array;
  /** By how much the body turns on its way, radians. */
  turn: number;
}

/** This many beginnings are tried at most, and this many places looked at for all of them. */
const MAX_STARTS = 400;
const MAX_CHECKS = 4_000_000;

/** A place of the outline with more places that meets one of the other: the columns begin there. */
interface Begin {
  more: number;
  less: number;
}

/**
 * Meets two closed outlines with the least twist: columns stand at the places of the one that has more; on the other they
 * stand at the same share of the way round, the first of them at one of its places. Of all beginnings the one is taken at
 * which the directions of the places differ least (sum of squares over outlines of one size). `shift` moves the meeting
 * on by places of the one that has fewer, `turns` adds whole turns.
 */
export function matchLoops(from: Outline, to: Outline, { shift, turns }: { shift: number; turns: number }): Match {
  const more = from.x.length >= to.x.length ? from : to;
  const less = more === from ? to : from;
  const shares = { more: sharesOf(more), less: sharesOf(less) };
  const same = more.x.length === less.x.length;
  const own = (begin: Begin) => Float64Array.from(shares.more, (_, j) => (begin.more + j) % more.x.length);
  const wayRound = (begin: Begin) =>
    Float64Array.from(own(begin), (j) => wrap(shares.more[j] - shares.more[begin.more]));
  const met = (begin: Begin) =>
    same
      ? Float64Array.from(shares.less, (_, k) => (begin.less + k) % less.x.length)
      : wayRound(begin).map((share) => spotAt(shares.less, shares.less[begin.less] + share));
  const most = Math.min(MAX_STARTS, Math.max(1, Math.floor(MAX_CHECKS / more.x.length)));
  // the first place of the one met by every place of the other
  const begins = [
    ...some(less.x.length, most).map((k) => ({ more: 0, less: k })),
    ...(same ? [] : some(more.x.length, most).map((k) => ({ more: k, less: 0 }))),
  ];
  let best = begins[0];
  let least = Infinity;
  for (const begin of begins) {
    const error = differenceOf(more, less, own(begin), met(begin));
    if (error < least - 1e-9) [best, least] = [begin, error];
  }
  const count = less.x.length;
  const begin = { more: best.more, less: (((best.less + shift) % count) + count) % count };
  const [start, end] = more === from ? [own(begin), met(begin)] : [met(begin), own(begin)];
  const turn = turnOf(from, to, start, end, turns + Math.trunc(shift / count));
  return { start: rising(start, from.x.length), end: rising(end, to.x.length), share: wayRound(begin), turn };
}

/** Numbers from 0 up to `count`, evenly picked where they are too many. */
const some = (count: number, most: number): number[] => {
  const every = Math.ceil(count / most);
  return Array.from({ length: Math.ceil(count / every) }, (_, k) => k * every);
};

const wrap = (share: number) => share - Math.floor(share);

/** Share of the way round at each place, by length. */
function sharesOf({ x, y }: Outline): Float64Array {
  const count = x.length;
  const out = new Float64Array(count);
  let walked = 0;
  for (let k = 0; k < count; k++) {
    out[k] = walked;
    const next = (k + 1) % count;
    walked += Math.hypot(x[next] - x[k], y[next] - y[k]);
  }
  return out.map((value) => (walked > 0 ? value / walked : 0));
}

/** The place at a share of the way round, as number and share of the way to the next. */
function spotAt(shares: Float64Array, share: number): number {
  const s = wrap(share);
  // the last place that is not beyond it
  let [k, beyond] = [0, shares.length];
  while (beyond - k > 1) {
    const middle = (k + beyond) >> 1;
    if (shares[middle] > s + 1e-12) beyond = middle;
    else k = middle;
  }
  const end = k + 1 < shares.length ? shares[k + 1] : 1;
  return k + (end > shares[k] ? Math.min(1 - 1e-12, Math.max(0, (s - shares[k]) / (end - shares[k]))) : 0);
}

/** How much the directions of the places differ where the columns meet so. */
function differenceOf(more: Outline, less: Outline, own: Float64Array, spots: Float64Array): number {
  const [a, b] = [sizeOf(more), sizeOf(less)];
  let sum = 0;
  spots.forEach((spot, j) => {
    const [x, y] = placeAt(less, spot);
    sum += (more.x[own[j]] / a - x / b) ** 2 + (more.y[own[j]] / a - y / b) ** 2;
  });
  return sum;
}

const sizeOf = ({ x, y }: Outline): number =>
  Math.sqrt(x.reduce((sum, value, k) => sum + value * value + y[k] * y[k], 0) / x.length) || 1;

function placeAt({ x, y }: Outline, spot: number): [number, number] {
  const k = Math.floor(spot) % x.length;
  const next = (k + 1) % x.length;
  const t = spot - Math.floor(spot);
  return [x[k] + t * (x[next] - x[k]), y[k] + t * (y[next] - y[k])];
}

/** The turn that takes the start's places nearest to the end's (Procrustes in the plane), and whole turns on top. */
function turnOf(from: Outline, to: Outline, start: Float64Array, end: Float64Array, turns: number): number {
  let [sine, cosine] = [0, 0];
  for (let j = 0; j < start.length; j++) {
    const [ax, ay] = placeAt(from, start[j]);
    const [bx, by] = placeAt(to, end[j]);
    sine += ax * by - ay * bx;
    cosine += ax * bx + ay * by;
  }
  return Math.atan2(sine, cosine) + 2 * Math.PI * turns;
}

/** The same places, each further on than the one before. */
function rising(spots: Float64Array, count: number): Float64Array {
  const out = spots.slice();
  for (let j = 1; j < out.length; j++) while (out[j] < out[j - 1] - 1e-9) out[j] += count;
  return out;
}
