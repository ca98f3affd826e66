import { crossingOf } from '../plane.js';
import { seesAll } from '../runs.js';
import { inColumns, type Section } from '../section.js';
import { capOf } from './cap.js';
import { type Face, faceAt, lengthOf, type Outline, outlinesOf, type Place, placeOn } from './loops.js';
import { meet } from './meet.js';

/** Sections with the same columns and faces: column by column each becomes the next. */
export interface Blend {
  /** What it is one after the other, two or more. */
  stages: readonly Section[];
  /** How fast each column's place moves round, one a column for each stage: normals are mixed by it (the outline's own derivative). */
  speeds: readonly Float64Array[];
  /** Places of each outline, in the order of the rim. */
  loops: readonly number[];
}

/** Where a share lies: between a stage and the next, this much of which it is, and how fast that grows with the share. */
export interface Leg {
  from: number;
  mixed: number;
  rate: number;
}

/** Shares nearer to each other than this are one place. */
const SAME = 1e-7;
const SMOOTH = 0.9995;

/**
 * Sections as one that can be anything between each and the next, with the places of all. Undefined where they have other
 * numbers of outlines, or one is a sheet and another is none.
 */
export function blendOf(sections: readonly Section[]): Blend | undefined {
  const [first] = sections;
  const outlines = sections.map(outlinesOf);
  if (outlines.some((one) => one.length !== outlines[0].length)) return undefined;
  if (sections.some(({ open }) => (open === true) !== (first.open === true))) return undefined;
  const met = outlines[0].map((_, k) => blendedLoop(outlines.map((one) => one[k])));
  const columns = met.flatMap((loop) => loop.columns);
  let before = 0;
  const face: number[] = [];
  const rim: number[] = [];
  for (const loop of met) {
    face.push(...loop.face.map((column) => before + column));
    rim.push(...loop.face.map((column) => before + column));
    before += loop.columns.length;
    if (first.open) rim.push(before - 1);
  }
  const loops = met.map((loop) => loop.face.length);
  const stages = sections.map((section, n): Section => {
    const shared = inColumns(
      columns.map((column) => ({ ...column.places[n], u: column.u })),
      face,
      rim,
    );
    const one = { ...section, ...shared, round: false };
    return { ...one, cap: section.cap && (capOf(one, loops) ?? section.cap) };
  });
  return { stages, loops, speeds: sections.map((_, n) => Float64Array.from(columns, ({ speeds }) => speeds[n])) };
}

/**
 * Where a share of the whole way lies, 0…1: each leg takes as much of it. It slows down at a stage between two others,
 * so that the skin has no edge there: cubic Hermite, slope 1 at both ends of all, 0 at what is between.
 */
export function legAt({ stages }: Blend, share: number): Leg {
  const legs = stages.length - 1;
  const from = Math.max(0, Math.min(legs - 1, Math.floor(share * legs)));
  const t = share * legs - from;
  const [begin, end] = [from === 0 ? 1 : 0, from === legs - 1 ? 1 : 0];
  const [quadratic, cubic] = [3 - 2 * begin - end, begin + end - 2];
  return {
    from,
    mixed: t * (begin + t * (quadratic + t * cubic)),
    rate: legs * (begin + t * (2 * quadratic + t * 3 * cubic)),
  };
}

/** Whether an outline crosses itself, or another, somewhere between two stages. */
export function crossesBetween(blend: Blend): boolean {
  const legs = blend.stages.length - 1;
  return [0.25, 0.5, 0.75].some((t) =>
    blend.stages.slice(1).some((_, leg) => {
      const { x, y, rim, open } = blendedAt(blend, (leg + t) / legs);
      let begin = 0;
      const outlines = blend.loops.map((count) => {
        begin += count;
        return Array.from(rim.subarray(begin - count, begin), (column): [number, number] => [x[column], y[column]]);
      });
      return !open && crossingOf(outlines) !== undefined;
    }),
  );
}

/** What it is at a share of the whole way, 0…1. */
export function blendedAt(blend: Blend, share: number): Section {
  const leg = legAt(blend, share);
  const { mixed } = leg;
  const [from, to] = [blend.stages[leg.from], blend.stages[leg.from + 1]];
  const [speedFrom, speedTo] = [blend.speeds[leg.from], blend.speeds[leg.from + 1]];
  if (mixed === 0) return from;
  if (mixed === 1) return to;
  const mix = (one: Float64Array, other: Float64Array) => one.map((value, k) => value + mixed * (other[k] - value));
  const x = mix(from.x, to.x);
  const y = mix(from.y, to.y);
  const normal = (one: Float64Array, other: Float64Array) =>
    one.map((value, k) => (1 - mixed) * speedFrom[k] * value + mixed * speedTo[k] * other[k]);
  const [nx, ny] = [normal(from.normalX, to.normalX), normal(from.normalY, to.normalY)];
  const size = nx.map((value, k) => Math.hypot(value, ny[k]) || 1);
  const domed =
    blend.loops.length === 1 && !from.open && seesAll(Array.from(from.rim, (column) => [x[column], y[column]]));
  const cap = domed || from.open ? undefined : capOf({ x, y, rim: from.rim }, blend.loops);
  return {
    // where its outline crosses itself none fits: it is closed as the nearer of both is
    ...(mixed < 0.5 ? from : to),
    ...(domed || cap ? { domed, cap } : {}),
    x,
    y,
    normalX: nx.map((value, k) => value / size[k]),
    normalY: ny.map((value, k) => value / size[k]),
    area: from.area + mixed * (to.area - from.area),
    perimeter: from.perimeter + mixed * (to.perimeter - from.perimeter),
    reach: x.reduce((far, value, k) => Math.max(far, Math.hypot(value, y[k])), 0),
  };
}

/** A place of the outline: where it is in each of the stages. */
interface Column {
  places: Place[];
  speeds: number[];
  u: number;
}

interface BlendedLoop {
  columns: Column[];
  /** Column at which each face begins. */
  face: number[];
}

/** The outline with the places of all stages. */
function blendedLoop(outlines: readonly Outline[]): BlendedLoop {
  const shares = sharesOfAll(outlines);
  const columns: Column[] = [];
  const face: number[] = [];
  shares.slice(0, -1).forEach((begin, i) => {
    const end = shares[i + 1];
    const parts = outlines.map((outline, n) => facePart(outline, begin[n], end[n]));
    const step = end[0] - begin[0];
    const speeds = parts.map((part) => lengthOf(part) / (step || 1));
    const put = (pick: 'from' | 'to', u: number) =>
      columns.push({ places: parts.map((part) => part[pick]), speeds: [...speeds], u });
    const last = columns.at(-1);
    const goesOn = last?.places.every((place, n) => isSmooth(place, parts[n].from));
    if (last && goesOn) last.speeds = last.speeds.map((speed, n) => (speed + speeds[n]) / 2);
    else {
      put('from', begin[0] - shares[0][0]);
      // one place to the bit, whichever face it was asked of
      const next = columns[columns.length - 1];
      if (last) next.places = next.places.map((place, n) => moved(place, last.places[n]));
    }
    face.push(columns.length - 1);
    put('to', end[0] - shares[0][0]);
  });
  if (outlines[0].closed) closeUp(columns);
  return { columns, face };
}

const moved = (place: Place, { x, y }: Place): Place => ({ ...place, x, y });

const isSmooth = (a: Place, b: Place): boolean => a.nx * b.nx + a.ny * b.ny > SMOOTH;

/** Where it closes it is one place to the bit, and one in speed where it is smooth. */
function closeUp(columns: Column[]): void {
  const [first, last] = [columns[0], columns[columns.length - 1]];
  last.places = last.places.map((place, n) => moved(place, first.places[n]));
  if (!first.places.every((place, n) => isSmooth(place, last.places[n]))) return;
  first.speeds = last.speeds = first.speeds.map((speed, n) => (speed + last.speeds[n]) / 2);
}

/** The part of an outline's face between two shares that lie in one face. */
function facePart(outline: Outline, begin: number, end: number): Face {
  const round = Math.floor((begin + end) / 2);
  const f = faceAt(outline, (begin + end) / 2 - round);
  return { from: placeOn(outline, f, begin - round), to: placeOn(outline, f, end - round) };
}

/**
 * Every share at which a face of any stage begins, or two stages meet, as shares of all stages, rising, from the first
 * meeting on to where it closes.
 */
function sharesOfAll(outlines: readonly Outline[]): number[][] {
  const meetings = outlines.slice(1).map((outline, k) => meet(outlines[k], outline));
  const first = meetings[0].from[0];
  /** The shares of all stages where stage `n` has `u`, within the first round of the first stage. */
  const across = (n: number, u: number): number[] => {
    const all = [u];
    for (let k = n; k > 0; k--) all.unshift(mapped(all[0], meetings[k - 1].to, meetings[k - 1].from));
    for (const { from, to } of meetings.slice(n)) all.push(mapped(all[all.length - 1], from, to));
    const rounds = Math.floor(all[0] - first);
    return all.map((share) => share - rounds);
  };
  const begin = across(0, first);
  const end = outlines[0].closed ? begin.map((share) => share + 1) : begin.map(() => 1);
  const all = [
    begin,
    end,
    ...outlines.flatMap(({ faces }, n) => faces.map(({ from }) => across(n, from.u))),
    ...meetings.flatMap(({ from }, n) => from.slice(1, -1).map((u) => across(n, u))),
  ].sort((a, b) => a.reduce((sign, share, n) => sign || share - b[n], 0));
  const kept: number[][] = [];
  for (const one of all) {
    const last = kept.at(-1);
    if (!last || one.some((share, n) => share - last[n] > SAME)) kept.push(one);
  }
  kept[kept.length - 1] = end;
  return kept;
}

/** Along straight legs between places that rise, and go on after a round as they began. */
function mapped(value: number, from: readonly number[], to: readonly number[]): number {
  const [first, last] = [from[0], from[from.length - 1]];
  const rounds = value >= first && value <= last ? 0 : Math.floor(value - first);
  const u = value - rounds;
  let k = 1;
  while (k < from.length - 1 && from[k] < u) k++;
  const step = from[k] - from[k - 1];
  const t = step > 0 ? (u - from[k - 1]) / step : 0;
  return rounds + to[k - 1] + t * (to[k] - to[k - 1]);
}
