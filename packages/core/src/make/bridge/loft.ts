import { blankMesh, type Mesh } from '../../mesh/mesh.js';
import type { Course } from './course.js';
import { type Match, matchLoops } from './match.js';
import { backwards, type Opening } from './opening.js';

export interface LoftShape {
  /** By how many corners of the rim at the end the meeting is moved on. */
  shift: number;
  /** Whole turns more over the length. */
  turns: number;
  /** How many times as thick it is in its middle. */
  middle: number;
  /** It goes on in the direction of the walls at both ends, instead of square to the openings. */
  walls: boolean;
}

/** Corners of a rim that turn more than this are edges of the body, radians. */
const HARD = 0.6;
/** Walls that lean further than this from the way out are followed no further. */
const MAX_LEAN = 2;

/** Places of a rim in the frame of its end of the course, and how they go on per metre along it. */
interface LocalLoop {
  x: Float64Array;
  y: Float64Array;
  z: Float64Array;
  slopeX: Float64Array;
  slopeY: Float64Array;
}

export interface Loft {
  mesh: Mesh;
  /** How far the body reaches from its course at each ring, metres. */
  reach: Float32Array;
}

/**
 * The body between two rims along a course: rings go from one rim's outline to the other's, turned as little as the
 * meeting asks, and join both vertex for vertex. A rim of fewer places than the other is sewn to the next ring by
 * triangles, all else is quads.
 */
export function loft(a: Opening, b: Opening, course: Course, shape: LoftShape): Loft {
  const rings = course.along.length;
  const from = localLoop(a, course, 0);
  // the other way round: counter-clockwise about the way in
  const to = localLoop({ ...b, place: backwards(b.place), wall: backwards(b.wall) }, course, rings - 1);
  const match = matchLoops(from, to, shape);
  const grid = gridOf(from, to, course, match, shape);
  return { mesh: meshOf(a, b, course, match, grid), reach: reachOf(grid, course) };
}

function localLoop({ place, wall }: Opening, course: Course, ring: number): LocalLoop {
  const at = 3 * ring;
  const axis = (flat: Float64Array, from: Float64Array, i: number, base?: Float64Array) =>
    [0, 1, 2].reduce((sum, n) => sum + flat[at + n] * (from[i + n] - (base ? base[at + n] : 0)), 0);
  const count = place.length / 3;
  const take = (of: Float64Array) =>
    Float64Array.from({ length: count }, (_, k) => axis(of, place, 3 * k, course.position));
  // of the end the walls go out against the course
  const way = ring === 0 ? 1 : -1;
  const slope = (of: Float64Array) =>
    Float64Array.from({ length: count }, (_, k) => {
      const on = way * axis(course.tangent, wall, 3 * k);
      const aside = axis(of, wall, 3 * k);
      return Math.max(-MAX_LEAN, Math.min(MAX_LEAN, (way * aside) / Math.max(0.1, on)));
    });
  return {
    x: take(course.normal),
    y: take(course.binormal),
    z: take(course.tangent),
    slopeX: slope(course.normal),
    slopeY: slope(course.binormal),
  };
}

/** Positions and directions along the body of every column at every ring. Flat xyz, ring by ring. */
interface Grid {
  columns: number;
  place: Float64Array;
  onward: Float64Array;
}

function gridOf(from: LocalLoop, to: LocalLoop, course: Course, match: Match, { middle, walls }: LoftShape): Grid {
  const { along, share, length } = course;
  const columns = match.start.length;
  const place = new Float64Array(3 * columns * along.length);
  const onward = new Float64Array(place.length);
  const [ca, sa] = [Math.cos(-match.turn), Math.sin(-match.turn)];
  const a = columnsOf(from, match.start);
  const b = columnsOf(to, match.end);
  for (let i = 0; i < along.length; i++) {
    const t = share[i];
    // Hermite's weights: places with no slope at the ends, and slopes of the walls
    const e = t * t * (3 - 2 * t);
    const [h0, h1] = walls ? [length * t * (1 - t) ** 2, -length * t * t * (1 - t)] : [0, 0];
    const fat = 1 + (middle - 1) * 16 * t * t * (1 - t) * (1 - t);
    const [cos, sin] = [Math.cos(match.turn * e), Math.sin(match.turn * e)];
    for (let j = 0; j < columns; j++) {
      const [bx, by] = [ca * b.x[j] - sa * b.y[j], sa * b.x[j] + ca * b.y[j]];
      const [bu, bv] = [ca * b.slopeX[j] - sa * b.slopeY[j], sa * b.slopeX[j] + ca * b.slopeY[j]];
      const x = fat * ((1 - e) * a.x[j] + e * bx) + h0 * a.slopeX[j] + h1 * bu;
      const y = fat * ((1 - e) * a.y[j] + e * by) + h0 * a.slopeY[j] + h1 * bv;
      const z = (1 - e) * a.z[j] + e * b.z[j];
      const [u, v] = [cos * x - sin * y, sin * x + cos * y];
      const o = 3 * (i * columns + j);
      for (let n = 0; n < 3; n++)
        place[o + n] =
          course.position[3 * i + n] +
          u * course.normal[3 * i + n] +
          v * course.binormal[3 * i + n] +
          z * course.tangent[3 * i + n];
    }
  }
  const last = along.length - 1;
  for (let i = 0; i <= last; i++)
    for (let j = 0; j < columns; j++) {
      const o = 3 * (i * columns + j);
      const end = i === 0 ? { loop: a, sign: 1 } : i === last ? { loop: b, sign: 1 } : undefined;
      for (let n = 0; n < 3; n++) {
        if (end) {
          // exactly: along the course, and aside as the walls go
          const [u, v] = walls ? [end.loop.slopeX[j], end.loop.slopeY[j]] : [0, 0];
          onward[o + n] = course.tangent[3 * i + n] + u * course.normal[3 * i + n] + v * course.binormal[3 * i + n];
        } else onward[o + n] = place[o + 3 * columns + n] - place[o - 3 * columns + n];
      }
    }
  return { columns, place, onward };
}

/** A loop's numbers at places between its own: `at` is the place's number and the share of the way to the next. */
function columnsOf(loop: LocalLoop, at: Float64Array): LocalLoop {
  const count = loop.x.length;
  const take = (values: Float64Array) =>
    Float64Array.from(at, (spot) => {
      const k = Math.floor(spot);
      const t = spot - k;
      return (1 - t) * values[k % count] + t * values[(k + 1) % count];
    });
  return { x: take(loop.x), y: take(loop.y), z: take(loop.z), slopeX: take(loop.slopeX), slopeY: take(loop.slopeY) };
}

/** A row of vertices round the body: places with their column, one more at a hard corner and at the seam. */
interface Row {
  /** First vertex of the row; the vertex at which the face from place k begins, and at which it ends. */
  begin: Uint32Array;
  end: Uint32Array;
  /** Of each place, its share of the way round, as the columns count it. */
  share: Float64Array;
}

function meshOf(a: Opening, b: Opening, course: Course, match: Match, grid: Grid): Mesh {
  const rings = course.along.length;
  const { columns } = grid;
  const hard = hardColumns(grid, rings);
  const position: number[] = [];
  const normal: number[] = [];
  const uv: number[] = [];
  /** Writes a row: flat places with the way along at each. */
  const putRow = (
    place: ArrayLike<number>,
    onward: ArrayLike<number>,
    sharp: (k: number) => boolean,
    share: Float64Array,
    v: number,
  ): Row => {
    const count = share.length;
    const begin = new Uint32Array(count);
    const end = new Uint32Array(count);
    const put = (k: number, side: -1 | 0 | 1, u: number) => {
      const [before, after] = [(k + count - (side > 0 ? 0 : 1)) % count, (k + (side < 0 ? 0 : 1)) % count];
      const d = [0, 1, 2].map((n) => place[3 * after + n] - place[3 * before + n]);
      const t = [onward[3 * k], onward[3 * k + 1], onward[3 * k + 2]];
      const n = [d[1] * t[2] - d[2] * t[1], d[2] * t[0] - d[0] * t[2], d[0] * t[1] - d[1] * t[0]];
      const size = Math.hypot(...n) || 1;
      normal.push(...n.map((value) => value / size));
      position.push(place[3 * k], place[3 * k + 1], place[3 * k + 2]);
      uv.push(u, v);
      return position.length / 3 - 1;
    };
    for (let k = 0; k < count; k++) {
      if (sharp(k)) {
        if (k > 0) end[k - 1] = put(k, -1, share[k]);
        begin[k] = put(k, 1, share[k]);
      } else {
        begin[k] = put(k, 0, share[k]);
        if (k > 0) end[k - 1] = begin[k];
      }
    }
    // once round: the seam's second vertex
    end[count - 1] = put(0, sharp(0) ? -1 : 0, 1 + share[0]);
    return { begin, end, share };
  };
  const even = Float64Array.from({ length: columns }, (_, j) => match.share[j]);
  const rows: Row[] = [];
  for (let i = 0; i < rings; i++) {
    const opening = i === 0 ? a : i === rings - 1 ? b : undefined;
    const slice = (flat: Float64Array) => flat.subarray(3 * i * columns, 3 * (i + 1) * columns);
    const own = opening && ownRow(opening, i === 0 ? match.start : match.end, i > 0, match, slice(grid.onward));
    rows.push(
      own
        ? putRow(own.place, own.onward, own.sharp, own.share, course.along[i])
        : putRow(slice(grid.place), slice(grid.onward), (k) => hard[k] === 1, even, course.along[i]),
    );
  }
  const quads: number[] = [];
  const triangles: number[] = [];
  for (let i = 0; i + 1 < rings; i++) {
    const [low, high] = [rows[i], rows[i + 1]];
    if (low.begin.length === high.begin.length)
      for (let k = 0; k < low.begin.length; k++) {
        const [p, q, r, s] = [low.begin[k], low.end[k], high.end[k], high.begin[k]];
        quads.push(p, q, r, p, r, s);
      }
    else sew(low, high, triangles);
  }
  const mesh = blankMesh(position.length / 3, quads.length + triangles.length);
  mesh.position.set(position);
  mesh.normal.set(normal);
  mesh.uv.set(uv);
  mesh.index.set(quads);
  mesh.index.set(triangles, quads.length);
  mesh.quads = quads.length / 6;
  mesh.groups.push({ start: 0, count: mesh.index.length, slot: 'main' });
  return mesh;
}

/** The row of a rim itself: its own places, bit for bit, in the order in which the columns go round. */
function ownRow(opening: Opening, spots: Float64Array, atEnd: boolean, match: Match, onward: Float64Array) {
  const count = opening.place.length / 3;
  const columns = spots.length;
  // a rim with as many places as there are columns has one at each
  const direct = count === columns;
  const first = direct ? Math.round(spots[0]) : Math.ceil(spots[0] - 1e-9);
  const numbers = Array.from({ length: count }, (_, k) => (first + k) % count);
  const source = (k: number) => (atEnd ? count - 1 - k : k);
  const own = new Float64Array(3 * count);
  numbers.forEach((k, i) => {
    own.set(opening.place.subarray(3 * source(k), 3 * source(k) + 3), 3 * i);
  });
  const share = new Float64Array(count);
  const ways = new Float64Array(3 * count);
  for (let i = 0; i < count; i++) {
    // where between the columns this place stands
    const spot = first + i;
    let j = 0;
    while (j + 1 < columns && spots[j + 1] <= spot + 1e-9) j++;
    const [s0, s1] = [spots[j], j + 1 < columns ? spots[j + 1] : spots[0] + count];
    const t = direct ? 0 : Math.max(0, Math.min(1, (spot - s0) / (s1 - s0 || 1)));
    const [u0, u1] = [match.share[j], j + 1 < columns ? match.share[j + 1] : 1 + match.share[0]];
    share[i] = direct ? match.share[i] : u0 + t * (u1 - u0);
    const nearest = (t < 0.5 ? j : j + 1) % columns;
    for (let n = 0; n < 3; n++) ways[3 * i + n] = onward[3 * (direct ? i : nearest) + n];
  }
  const sharp = (k: number) => turnAt(own, k, count) > HARD;
  return { place: own, onward: ways, sharp, share };
}

/** Which columns are edges of the body: those at which either end's outline turns sharply. */
function hardColumns({ columns, place }: Grid, rings: number): Uint8Array {
  const out = new Uint8Array(columns);
  for (const ring of [0, rings - 1]) {
    const row = place.subarray(3 * ring * columns, 3 * (ring + 1) * columns);
    for (let j = 0; j < columns; j++) if (turnAt(row, j, columns) > HARD) out[j] = 1;
  }
  return out;
}

/** Turn of a closed row at one of its places, radians. */
function turnAt(row: ArrayLike<number>, k: number, count: number): number {
  const [a, b, c] = [3 * ((k + count - 1) % count), 3 * k, 3 * ((k + 1) % count)];
  const u = [0, 1, 2].map((n) => row[b + n] - row[a + n]);
  const v = [0, 1, 2].map((n) => row[c + n] - row[b + n]);
  const sizes = Math.hypot(...u) * Math.hypot(...v);
  return sizes > 0 ? Math.acos(Math.max(-1, Math.min(1, (u[0] * v[0] + u[1] * v[1] + u[2] * v[2]) / sizes))) : 0;
}

/**
 * Triangles between two rows of different counts: sides of both in the order of their middles, each joined to the place
 * of the other row that is beside it. A corner of that row is met on the side of it where the triangle lies.
 */
function sew(low: Row, high: Row, out: number[]): void {
  const [n, m] = [low.begin.length, high.begin.length];
  const at = (row: Row, k: number) => (k < row.share.length ? row.share[k] : 1 + row.share[0]);
  const middle = (row: Row, k: number) => (at(row, k) + at(row, k + 1)) / 2;
  const beside = (row: Row, k: number, share: number) =>
    k === row.begin.length || (k > 0 && share < at(row, k)) ? row.end[k - 1] : row.begin[k];
  let [i, j] = [0, 0];
  while (i < n || j < m)
    if (j >= m || (i < n && middle(low, i) <= middle(high, j))) {
      out.push(low.begin[i], low.end[i], beside(high, j, middle(low, i)));
      i++;
    } else {
      out.push(beside(low, i, middle(high, j)), high.end[j], high.begin[j]);
      j++;
    }
}

function reachOf({ columns, place }: Grid, { along, position }: Course): Float32Array {
  return Float32Array.from(along, (_, i) => {
    let far = 0;
    for (let j = 0; j < columns; j++) {
      const o = 3 * (i * columns + j);
      far = Math.max(far, Math.hypot(...[0, 1, 2].map((n) => place[o + n] - position[3 * i + n])));
    }
    return far;
  });
}
