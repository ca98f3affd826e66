import { areaOf } from '../plane.js';
import { triangles } from '../runs.js';
import type { Section } from '../section.js';

/** Where an outline turns by less (sine) it goes straight on. */
const STRAIGHT = 1e-9;

/**
 * Triangles of the flat end of outlines that may have places along straight sides: those of their corners alone, then
 * split where the places are. Three numbers of the rim each. Undefined where outlines cross, so that none fit.
 * @param loops places of each outline, in the order of the rim
 */
export function capOf(
  { x, y, rim }: Pick<Section, 'x' | 'y' | 'rim'>,
  loops: readonly number[],
): Uint32Array | undefined {
  let begin = 0;
  let own = 0;
  const rims = loops.map((count): Rim => {
    const at = (k: number): [number, number] => {
      const column = rim[begin + ((k + count) % count)];
      return [x[column], y[column]];
    };
    const places = Array.from({ length: count }, (_, k) => k).filter((k) => turns(at(k - 1), at(k), at(k + 1)));
    const one = { own, places, begin, count, at: places.map(at) };
    own += places.length;
    begin += count;
    return one;
  });
  const outlines = rims.map((one) => ({ first: one.own, places: one.at, area: areaOf(one.at) }));
  const cap = triangles(outlines);
  // any triangulation has as many: two fewer than places for an outline, two more for a hole (Euler)
  const due = outlines.reduce((sum, { places, area }) => sum + places.length + (area > 0 ? -2 : 2), 0);
  return cap.length === 3 * due ? splitCap(cap, rims) : undefined;
}

function turns(a: readonly number[], b: readonly number[], c: readonly number[]): boolean {
  const [ux, uy, vx, vy] = [b[0] - a[0], b[1] - a[1], c[0] - b[0], c[1] - b[1]];
  return Math.abs(ux * vy - uy * vx) > STRAIGHT * Math.hypot(ux, uy) * Math.hypot(vx, vy);
}

/** One outline of a flat end: where its places were, and which of the new ones they are. */
interface Rim {
  /** Its first place among the old ones. */
  own: number;
  /** Which of its new places each old one is. */
  places: readonly number[];
  /** Its first place among the new ones, and how many it has. */
  begin: number;
  count: number;
  /** Where the old ones are. */
  at: [number, number][];
}

/**
 * Triangles of a flat end on outlines that have got more places along their sides: a triangle with such a side becomes as
 * many as it has new places, so that the end meets the wall place for place.
 * @param cap three places each
 */
function splitCap(cap: Uint32Array, rims: readonly Rim[]): Uint32Array {
  const next = new Map<number, { place: number; after: number; between: number[] }>();
  for (const { own, places, begin, count } of rims)
    places.forEach((place, i) => {
      const after = places[(i + 1) % places.length];
      const steps = (after - place + count) % count || count;
      const between = Array.from({ length: steps - 1 }, (_, k) => begin + ((place + k + 1) % count));
      next.set(own + i, { place: begin + place, after: own + ((i + 1) % places.length), between });
    });
  const out: number[] = [];
  for (let i = 0; i < cap.length; i += 3) {
    const corners = [cap[i], cap[i + 1], cap[i + 2]];
    const sides = corners.map((corner, k) => {
      const to = corners[(k + 1) % 3];
      return next.get(corner)?.after === to
        ? (next.get(corner)?.between ?? [])
        : next.get(to)?.after === corner
          ? (next.get(to)?.between ?? []).toReversed()
          : [];
    });
    split(
      corners.map((corner) => next.get(corner)?.place ?? 0),
      sides,
      out,
    );
  }
  return Uint32Array.from(out);
}

/** A triangle with places along its sides: from the last of the first side that has some a cut goes to the corner across. */
function split(corners: readonly number[], sides: readonly (readonly number[])[], out: number[]): void {
  const k = sides.findIndex((side) => side.length > 0);
  if (k < 0) {
    out.push(...corners);
    return;
  }
  const [a, b, c] = [0, 1, 2].map((n) => corners[(k + n) % 3]);
  const [ab, bc, ca] = [0, 1, 2].map((n) => sides[(k + n) % 3]);
  const q = ab[ab.length - 1];
  split([a, q, c], [ab.slice(0, -1), [], ca], out);
  split([q, b, c], [[], bc, []], out);
}
