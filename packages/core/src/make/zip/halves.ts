import type { CurveSet } from '../../curve/curve-set.js';
import { type AlongValue, valueAt } from '../../numeric/lane.js';
import type { Cloth, ClothPlace } from '../elements/cloth.js';
import type { FramedLines } from '../elements/framed-lines.js';
import { laidRails } from '../elements/laid-rails.js';

/** Places along a half for each half width, and at most. */
const STEPS = 1.2;
const MAX_STEPS = 40_000;
/** Halves that are apart by less than such a share of the half width are closed. */
const SHUT = 0.02;

/** One half of a zip: the line its teeth stand on. */
export interface Half {
  /** 1 right of the line, −1 left. */
  side: 1 | -1;
  framed: FramedLines;
  /** For each of its places how far along the whole zip it is, metres. */
  at: Float64Array;
}

/** A stretch of a zip that is closed, or open. */
export interface Zone {
  open: boolean;
  from: number;
  to: number;
}

/** How a zip opens along one line: half the gap between its halves, metres, and its slope. */
export interface Gape {
  at(s: number): number;
  slope(s: number): number;
}

/** @param width of the closed teeth, metres */
export function gapeOf(opening: AlongValue, width: number, length: number): Gape {
  const at = (s: number) => (width / 2) * valueAt(opening, Math.max(0, Math.min(1, s / length)));
  const step = 1e-4 * length;
  return { at, slope: (s) => (at(s + step) - at(s - step)) / (2 * step) };
}

/**
 * A place of a half, this far out from the line of its teeth: square to that line, not to the middle of the zip.
 * @returns how far along the zip and how far from its middle, metres
 */
export function outFrom(gape: Gape, s: number, far: number): [along: number, aside: number] {
  const slope = gape.slope(s);
  const size = Math.hypot(1, slope);
  return [s - (slope * far) / size, gape.at(s) + far / size];
}

export const samplesOn = (length: number, half: number): number =>
  Math.max(3, Math.min(MAX_STEPS, Math.ceil((STEPS * length) / half) + 1));

/** Both halves of the zip on one line, laid on the cloth. */
export function halvesOf(
  { lines, lengths }: FramedLines,
  c: number,
  cloth: Cloth,
  gape: Gape,
  half: number,
): [Half, Half] {
  const count = samplesOn(lengths[c], half);
  const closed = lines.closed[c] === 1;
  const at = Float64Array.from({ length: count }, (_, k) => (k * lengths[c]) / (closed ? count : count - 1));
  const [right, left] = ([1, -1] as const).map((side): Half => {
    const places: ClothPlace[] = Array.from(at, (s) => cloth.place(c, s, side * gape.at(s)));
    const { rails, frames } = laidRails([{ places, closed, id: lines.id[c] }]);
    return { side, at, framed: { lines: rails, lengths: lengthOf(rails), tangent: frames.tangent, up: frames.normal } };
  });
  return [right, left];
}

const lengthOf = ({ curveData }: CurveSet): ArrayLike<number> => curveData['length'];

/** The zones of one line, in order: where the gap begins is found by halving. */
export function zonesOf(gape: Gape, length: number, half: number): Zone[] {
  const isOpen = (s: number) => gape.at(s) > SHUT * half;
  const count = samplesOn(length, half);
  const zones: Zone[] = [{ open: isOpen(0), from: 0, to: length }];
  for (let k = 1; k < count; k++) {
    const [before, here] = [((k - 1) * length) / (count - 1), (k * length) / (count - 1)];
    const last = zones[zones.length - 1];
    if (isOpen(here) === last.open) continue;
    let [low, high] = [before, here];
    for (let round = 0; round < 30; round++) {
      const middle = (low + high) / 2;
      if (isOpen(middle) === last.open) low = middle;
      else high = middle;
    }
    last.to = high;
    zones.push({ open: !last.open, from: high, to: length });
  }
  return zones;
}

/** How far along a half something is that is so far along the zip. */
export function alongHalf({ at, framed }: Half, s: number): number {
  const along = framed.lines.pointData['along'];
  const last = at.length - 1;
  const step = at[1] - at[0];
  const k = Math.max(0, Math.min(last - 1, Math.floor(s / step)));
  const end = k + 1 <= last ? along[k + 1] : framed.lengths[0];
  return along[k] + ((s - at[k]) / step) * (end - along[k]);
}

/** Where teeth stand on a half: metres along it, in order; the other half's stand between them. */
export function toothPlaces(half: Half, zones: readonly Zone[], pitch: number): number[] {
  const out: number[] = [];
  for (const { open, from, to } of zones) {
    const [begin, end] = [alongHalf(half, from), alongHalf(half, to)];
    // closed teeth go by the zip, so that both halves have as many; open ones by their own half
    const count = Math.round((open ? end - begin : to - from) / pitch);
    const phase = half.side === 1 ? 0.25 : 0.75;
    for (let k = 0; k < count; k++) {
      const t = (k + phase) / count;
      out.push(open ? begin + t * (end - begin) : alongHalf(half, from + t * (to - from)));
    }
  }
  return out;
}

/** How much of its way along the middle of the zip a place so far out keeps, at least. */
const MIN_KEPT = 0.15;

/**
 * Where the halves, or their tapes, run back on themselves because they are too far apart for a bend.
 * @returns how far along the zip the worst place is; undefined where there is none
 */
export function foldOf(
  { lengths }: FramedLines,
  c: number,
  cloth: Cloth,
  gape: Gape,
  half: number,
  tape: number,
): number | undefined {
  const count = samplesOn(lengths[c], half);
  let worst: { s: number; kept: number } | undefined;
  for (const side of [1, -1])
    for (const far of [0, tape]) {
      let before: readonly number[] | undefined;
      for (let k = 0; k < count; k++) {
        const s = (k * lengths[c]) / (count - 1);
        const [along, aside] = outFrom(gape, s, far);
        const { at } = cloth.planned(c, along, side * aside);
        const { tangent } = cloth.planned(c, s, 0);
        if (before) {
          const step = at.map((value, n) => value - before![n]);
          const kept =
            (step[0] * tangent[0] + step[1] * tangent[1] + step[2] * tangent[2]) / (lengths[c] / (count - 1));
          if (kept < MIN_KEPT && (!worst || kept < worst.kept)) worst = { s, kept };
        }
        before = at;
      }
    }
  return worst?.s;
}
