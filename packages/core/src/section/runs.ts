import earcut from 'earcut';
import { areaOf, contains } from './plane.js';
import { type Column, inColumns, type Section } from './section.js';

/** A smooth stretch of an outline: places with their normals, which point out of the stuff. */
export interface Run {
  x: number[];
  y: number[];
  normalX: number[];
  normalY: number[];
}

/** Stretches that follow each other, each beginning where the one before ended. Counter-clockwise; a hole clockwise. */
export interface Loop {
  runs: readonly Run[];
  closed: boolean;
}

/** Normals that differ by less than this are one (cosine). */
const SMOOTH = 0.9995;

/** A straight stretch; none where it has no length. */
export function line(x0: number, y0: number, x1: number, y1: number): Run[] {
  const size = Math.hypot(x1 - x0, y1 - y0);
  if (size < 1e-9) return [];
  const [nx, ny] = [(y1 - y0) / size, (x0 - x1) / size];
  return [{ x: [x0, x1], y: [y0, y1], normalX: [nx, nx], normalY: [ny, ny] }];
}

/** A stretch along any smooth line, given with its direction at t from 0 to 1. */
export function bow(steps: number, at: (t: number) => { x: number; y: number; dx: number; dy: number }): Run {
  const out: Run = { x: [], y: [], normalX: [], normalY: [] };
  for (let i = 0; i <= steps; i++) {
    const { x, y, dx, dy } = at(i / steps);
    const size = Math.hypot(dx, dy);
    out.x.push(x);
    out.y.push(y);
    out.normalX.push(dy / size);
    out.normalY.push(-dx / size);
  }
  return out;
}

/** Part of an ellipse with its axes along x and y, from one angle to another; backwards where the second is smaller. */
export function arc(
  [x, y]: readonly [number, number],
  [rx, ry]: readonly [number, number],
  from: number,
  to: number,
  steps: number,
): Run {
  return bow(steps, (t) => {
    const angle = from + t * (to - from);
    const [cos, sin] = [Math.cos(angle), Math.sin(angle)];
    return { x: x + rx * cos, y: y + ry * sin, dx: -(to - from) * rx * sin, dy: (to - from) * ry * cos };
  });
}

/**
 * Straight legs between places, closed, their corners rounded by true arcs: by this much, or as much as the legs allow.
 * @param steps faces for a corner of 90°
 */
export function rounded(places: readonly (readonly [number, number])[], radius: number, steps: number): Run[] {
  const count = places.length;
  const corners = places.map(([x, y], i) => {
    const [a, b] = [places[(i + count - 1) % count], places[(i + 1) % count]];
    const [before, after] = [Math.hypot(x - a[0], y - a[1]), Math.hypot(b[0] - x, b[1] - y)];
    const u = [(x - a[0]) / before, (y - a[1]) / before];
    const v = [(b[0] - x) / after, (b[1] - y) / after];
    const turn = Math.atan2(u[0] * v[1] - u[1] * v[0], u[0] * v[0] + u[1] * v[1]);
    const half = Math.tan(Math.abs(turn) / 2);
    const cut = half > 1e-9 ? Math.min(radius * half, before / 2, after / 2) : 0;
    return { x, y, u, v, turn, cut, r: cut > 0 ? cut / half : 0 };
  });
  return corners.flatMap(({ x, y, u, v, turn, cut, r }, i) => {
    const next = corners[(i + 1) % count];
    const leg = line(x + cut * v[0], y + cut * v[1], next.x - next.cut * next.u[0], next.y - next.cut * next.u[1]);
    if (r < 1e-9) return leg;
    const side = Math.sign(turn);
    // to the left of the way for a corner that turns left
    const center = [x - cut * u[0] - side * r * u[1], y - cut * u[1] + side * r * u[0]] as const;
    const from = Math.atan2(-side * u[0], side * u[1]);
    const turned = arc(
      center,
      [r, r],
      from,
      from + turn,
      Math.max(1, Math.round((steps * Math.abs(turn)) / (Math.PI / 2))),
    );
    return [turned, ...leg];
  });
}

/** The same stretches the other way round: the outline of a hole. */
export const reversed = (runs: readonly Run[]): Run[] =>
  runs.toReversed().map(({ x, y, normalX, normalY }) => ({
    x: x.toReversed(),
    y: y.toReversed(),
    normalX: normalX.toReversed().map((value) => -value),
    normalY: normalY.toReversed().map((value) => -value),
  }));

/** A section from outlines: places where two stretches meet at an angle are sharp, all others smooth. */
export function sectionFromRuns(loops: readonly Loop[]): Section {
  const columns: Column[] = [];
  const face: number[] = [];
  const rim: number[] = [];
  const outlines: FlatOutline[] = [];
  let area = 0;
  let perimeter = 0;
  for (const { runs, closed } of loops) {
    const length = runs.reduce((sum, run) => sum + lengthOf(run), 0);
    const first = rim.length;
    let walked = 0;
    // where two stretches meet, and where the outline closes, it is one place to the bit
    let last: { x: number; y: number; nx: number; ny: number } | undefined;
    const begin = runs[0];
    runs.forEach(({ x, y, normalX, normalY }, r) => {
      const end = x.length - 1;
      x.forEach((_, i) => {
        if (i > 0) walked += Math.hypot(x[i] - x[i - 1], y[i] - y[i - 1]);
        const isSame = i === 0 && last && last.nx * normalX[0] + last.ny * normalY[0] > SMOOTH;
        const closes = closed && i === end && r === runs.length - 1;
        const [px, py] = closes ? [begin.x[0], begin.y[0]] : i === 0 && last ? [last.x, last.y] : [x[i], y[i]];
        if (!isSame) columns.push({ x: px, y: py, nx: normalX[i], ny: normalY[i], u: walked / length });
        if (i === end) return;
        face.push(columns.length - 1);
        rim.push(columns.length - 1);
      });
      last = { x: x[end], y: y[end], nx: normalX[end], ny: normalY[end] };
    });
    if (!closed) rim.push(columns.length - 1);
    const places = rim.slice(first).map((column): [number, number] => [columns[column].x, columns[column].y]);
    outlines.push({ first, places, area: closed ? areaOf(places) : 0 });
    area += outlines[outlines.length - 1].area;
    perimeter += length;
  }
  const open = loops.some(({ closed }) => !closed);
  const [only] = outlines;
  const seen = outlines.length === 1 && !open && seesAll(only.places);
  return {
    ...inColumns(columns, face, rim),
    area,
    perimeter,
    round: false,
    domed: seen,
    ...(open ? { open } : seen ? {} : { cap: triangles(outlines) }),
  };
}

export interface FlatOutline {
  /** Where its places begin in the rim. */
  first: number;
  places: [number, number][];
  area: number;
}

const lengthOf = ({ x, y }: Run): number =>
  x.reduce((sum, _, i) => (i > 0 ? sum + Math.hypot(x[i] - x[i - 1], y[i] - y[i - 1]) : 0), 0);

/** True where a fan about the middle covers the outline once. */
export const seesAll = (places: readonly (readonly [number, number])[]): boolean =>
  places.every(([x, y], i) => {
    const [bx, by] = places[(i + 1) % places.length];
    return x * by - bx * y > 1e-12;
  });

/** The flat end of outlines with holes: each hole belongs to the smallest outline round it. */
export function triangles(outlines: readonly FlatOutline[]): Uint32Array {
  const outers = outlines.filter(({ area }) => area > 0).sort((a, b) => a.area - b.area);
  const holes = new Map(outers.map((outer) => [outer, [] as FlatOutline[]]));
  for (const hole of outlines.filter(({ area }) => area < 0)) {
    const round = outers.find(({ places }) => contains(places, hole.places[0]));
    if (round) holes.get(round)?.push(hole);
  }
  return Uint32Array.from(
    outers.flatMap((outer) => {
      const parts = [outer, ...(holes.get(outer) ?? [])];
      const number = parts.flatMap(({ first, places }) => places.map((_, i) => first + i));
      const starts = parts
        .slice(1)
        .map((_, i) => parts.slice(0, i + 1).reduce((sum, part) => sum + part.places.length, 0));
      const flat = parts.flatMap(({ places }) => places.flat());
      return counterClockwise(earcut(flat, starts), flat).map((i) => number[i]);
    }),
  );
}

/** Triangles of places, each turned counter-clockwise. */
function counterClockwise(index: readonly number[], flat: readonly number[]): number[] {
  const out: number[] = [];
  for (let i = 0; i < index.length; i += 3) {
    const [a, b, c] = index.slice(i, i + 3);
    const turn =
      (flat[2 * b] - flat[2 * a]) * (flat[2 * c + 1] - flat[2 * a + 1]) -
      (flat[2 * c] - flat[2 * a]) * (flat[2 * b + 1] - flat[2 * a + 1]);
    out.push(a, ...(turn > 0 ? [b, c] : [c, b]));
  }
  return out;
}
