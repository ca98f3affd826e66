import { faceAt, isSharp, type Outline, placeOn } from './loops.js';

/** Shares of the way round two outlines that become each other, both rising by 1 in all over the whole. */
export interface Meeting {
  from: number[];
  to: number[];
}

/** Outlines with more corners than this are met by length alone. */
const MAX_CORNERS = 72;
/** This many ways to turn one against the other are tried. */
const TURNS = 360;
/** This many places are compared for each. */
const LOOKS = 90;

/**
 * Which places of two outlines become each other: corners meet corners where both have some, each of the one that has fewer
 * another one of the other, in order, so that their directions from the middle differ least in all; else equal shares
 * of the way round meet, turned against each other so that the directions differ least. Open ones meet end to end.
 */
export function meet(from: Outline, to: Outline): Meeting {
  if (!from.closed || !to.closed) return { from: [0, 1], to: [0, 1] };
  const corners = [cornersOf(from), cornersOf(to)];
  const [few, many] = corners[0].length <= corners[1].length ? corners : corners.toReversed();
  if (few.length === 0 || many.length > MAX_CORNERS) {
    const turn = leastTurn(from, to);
    return { from: [0, 1], to: [turn, turn + 1] };
  }
  const partners = leastOf(few, many);
  const met = few.map((corner, i) => ({ few: corner.u, many: many[partners[i]].u }));
  const pairs = met.map((one) =>
    few === corners[0] ? { from: one.few, to: one.many } : { from: one.many, to: one.few },
  );
  pairs.sort((a, b) => a.from - b.from);
  const out: Meeting = { from: pairs.map((pair) => pair.from), to: [] };
  for (const { to: u } of pairs) {
    const last = out.to.at(-1);
    out.to.push(last === undefined || u > last ? u : u + 1);
  }
  return { from: [...out.from, out.from[0] + 1], to: [...out.to, out.to[0] + 1] };
}

interface Corner {
  u: number;
  x: number;
  y: number;
}

/** Sharp places, with their directions from the middle. */
const cornersOf = (outline: Outline): Corner[] =>
  outline.faces.flatMap(({ from }, f) => (isSharp(outline, f) ? [{ u: from.u, ...directionOf(from) }] : []));

function directionOf({ x, y }: { x: number; y: number }): { x: number; y: number } {
  const size = Math.hypot(x, y) || 1;
  return { x: x / size, y: y / size };
}

const apart = (a: { x: number; y: number }, b: { x: number; y: number }): number => (a.x - b.x) ** 2 + (a.y - b.y) ** 2;

/** Of each of the few the one of the many it meets: in cyclic order, by the least sum (dynamic programming for each beginning). */
function leastOf(few: readonly Corner[], many: readonly Corner[]): number[] {
  const spare = many.length - few.length;
  let best: number[] = [];
  let least = Infinity;
  for (let begin = 0; begin < many.length; begin++) {
    // sums[k]: the least so far where the last one met stands `k` further on than it must
    let sums = Array.from({ length: spare + 1 }, (_, k) => (k === 0 ? apart(few[0], many[begin]) : Infinity));
    const cameFrom: number[][] = [];
    for (let i = 1; i < few.length; i++) {
      const came: number[] = [];
      let lowest = 0;
      sums = sums.map((_, k) => {
        if (sums[k] < sums[lowest]) lowest = k;
        came.push(lowest);
        return sums[lowest] + apart(few[i], many[(begin + i + k) % many.length]);
      });
      cameFrom.push(came);
    }
    let k = sums.indexOf(Math.min(...sums));
    if (sums[k] >= least - 1e-12) continue;
    least = sums[k];
    best = [];
    for (let i = few.length - 1; i >= 0; i--) {
      best[i] = (begin + i + k) % many.length;
      if (i > 0) k = cameFrom[i - 1][k];
    }
  }
  return best;
}

/** The share by which one outline is further on where the directions of both differ least, −½…½. */
function leastTurn(from: Outline, to: Outline): number {
  const at = (outline: Outline, u: number) => {
    const share = u - Math.floor(u);
    return directionOf(placeOn(outline, faceAt(outline, share), share));
  };
  const own = Array.from({ length: LOOKS }, (_, k) => at(from, k / LOOKS));
  let [best, least] = [0, Infinity];
  for (let n = 0; n < TURNS; n++) {
    // from no turn on to both sides: of equal ones the smaller is taken
    const turn = (n % 2 === 0 ? 1 : -1) * (Math.ceil(n / 2) / TURNS);
    const sum = own.reduce((all, place, k) => all + apart(place, at(to, k / LOOKS + turn)), 0);
    if (sum < least - 1e-9) [best, least] = [turn, sum];
  }
  return best;
}
