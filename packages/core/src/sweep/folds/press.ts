import type { CurveSet } from '../../curve/curve-set.js';
import type { Frames } from '../../curve/frames.js';
import type { Mesh } from '../../mesh/mesh.js';
import { addScaled, distanceAt, dot, normalize, type Vec3, vec3 } from '../../numeric/vector.js';
import type { Section } from '../../section/section.js';
import type { Rings } from '../rings.js';

/** Towards the inside a place stays where it is up to such a share of the way to where the rings of the bend meet. */
const FREE = 0.55;
/** What is further in is drawn together in this much of it, the order kept: no two places come to lie in each other. */
const ROOM = 0.25;
/** A ring that reaches so far in at its most is left as it is; from there on up to one that folds more and more of this holds. */
const LEFT = 0.85;
const WHOLE = 1.1;
/** Where the plane of the bend turns from ring to ring, what the next ring's bend moved is held to this in a few rounds more. */
const MAX_SHIFT = FREE + 1.2 * ROOM;
const ROUNDS = 4;

/** How far in a place goes that lies `inwards` in a ring that reaches in by `most`, all as shares of the way to where the rings meet. */
function held(inwards: number, most: number, round: number): number {
  if (round > 0) return Math.min(inwards, MAX_SHIFT);
  const over = inwards - FREE;
  if (over <= 0) return inwards;
  const much = Math.min(1, Math.max(0, (most - LEFT) / (WHOLE - LEFT)));
  return inwards - much * much * (3 - 2 * much) * (over - (ROOM * over) / (over + ROOM));
}

/**
 * Draws the inner side of some rings in towards the curve, so that none reaches to where its plane meets the next ring's:
 * what is left where the line turns back on itself more tightly than its section is thick.
 */
export function pressIn(
  { position: center, closed }: CurveSet,
  { tangent }: Frames,
  rings: Rings,
  pressed: ReadonlySet<number>,
  section: Section,
  mesh: Mesh,
): void {
  const { start, point, corners } = rings;
  const columns = section.x.length;
  const moved = new Set<number>();
  for (let round = 0; round < ROUNDS; round++)
    for (let c = 0; c + 1 < start.length; c++) {
      const last = start[c + 1] - 1;
      for (let ring = start[c]; ring < last; ring++) {
        // the last ring of a closed line is its first
        const next = ring + 1 === last && closed[c] ? start[c] : ring + 1;
        const [p, q] = [point[ring], point[ring + 1]];
        // at a corner the tangent is the mitre's, not the line's
        if (!(pressed.has(ring) || pressed.has(next)) || p === q || corners.has(p) || corners.has(q)) continue;
        const step = distanceAt(center, p, q) || 1;
        const way = [0, 1, 2].map((k) => (center[3 * q + k] - center[3 * p + k]) / step);
        // from the ring's own direction to that of the step, and on to the next one's: half of the bend each
        const bend = (at: number, sign: number) =>
          way.map((one, k) => (sign * 2 * (one - tangent[3 * at + k])) / step) as Vec3;
        pressRing(mesh, ring * columns, columns, center, tangent, 3 * p, bend(p, 1), round, moved);
        pressRing(mesh, next * columns, columns, center, tangent, 3 * q, bend(q, -1), round, moved);
      }
    }
  closeUp(mesh.position, closed, rings, columns);
  renewNormals(moved, closed, rings, section, mesh);
  closeUp(mesh.normal, closed, rings, columns);
}

/** The last ring of a closed line is its first to the bit, but for the normals of a hard edge. */
function closeUp(of: Float32Array, closed: Uint8Array, { start, side }: Rings, columns: number): void {
  for (let c = 0; c < closed.length; c++)
    if (closed[c] && side[start[c]] === 0)
      of.copyWithin(3 * (start[c + 1] - 1) * columns, 3 * start[c] * columns, 3 * (start[c] + 1) * columns);
}

/** Moves what is too far in of one ring back, within the ring's own plane. */
function pressRing(
  { position }: Mesh,
  first: number,
  columns: number,
  center: Float64Array,
  tangent: Float64Array,
  at: number,
  bend: Vec3,
  round: number,
  moved: Set<number>,
): void {
  const onwards = bend.reduce((sum, value, k) => sum + value * tangent[at + k], 0);
  const [x, y, z] = bend.map((value, k) => value - onwards * tangent[at + k]);
  if (x * x + y * y + z * z < 1e-18) return;
  const inwards = (i: number) =>
    (position[i] - center[at]) * x + (position[i + 1] - center[at + 1]) * y + (position[i + 2] - center[at + 2]) * z;
  let most = 0;
  for (let vertex = first; vertex < first + columns; vertex++) most = Math.max(most, inwards(3 * vertex));
  if (most <= (round > 0 ? MAX_SHIFT : LEFT)) return;
  const way = wayBack(position.subarray(3 * first, 3 * (first + columns)), [x, y, z]);
  const gain = way[0] * x + way[1] * y + way[2] * z;
  for (let vertex = first; vertex < first + columns; vertex++) {
    const i = 3 * vertex;
    const back = (inwards(i) - held(inwards(i), most, round)) / gain;
    if (back <= 0) continue;
    for (let k = 0; k < 3; k++) position[i + k] -= back * way[k];
    moved.add(vertex);
  }
}

/** What is drawn back goes at least by such a cosine along the bend. */
const ALONG_BEND = 0.5;

/**
 * Which way places of a ring are drawn back from the inside of its bend: C·b, C their covariance and b the bend. That is
 * along the bend for what is as broad as high, along its breadth for a strap: nothing is pushed out of its flat sides. (Of
 * an ellipse it is the diameter conjugate to the chord across the bend; any text on conics.)
 */
function wayBack(places: Float32Array, bend: Vec3): Vec3 {
  const count = places.length / 3;
  const mean = vec3();
  for (let i = 0; i < places.length; i++) mean[i % 3] += places[i] / count;
  const way = vec3();
  for (let i = 0; i < places.length; i += 3) {
    const [x, y, z] = [places[i] - mean[0], places[i + 1] - mean[1], places[i + 2] - mean[2]];
    addScaled(way, way, [x, y, z], x * bend[0] + y * bend[1] + z * bend[2]);
  }
  const towards = normalize(vec3(), bend);
  const along = dot(normalize(way, way), towards);
  return along < ALONG_BEND ? addScaled(way, way, towards, 2 * (ALONG_BEND - along)) : way;
}

/** Normals of what was moved, from the places beside it in its ring and in the rings beside that. */
function renewNormals(
  moved: ReadonlySet<number>,
  closed: Uint8Array,
  { start, side }: Rings,
  section: Section,
  mesh: Mesh,
): void {
  const { position, normal } = mesh;
  const columns = section.x.length;
  const begins = new Set(section.face);
  let c = 0;
  for (const vertex of [...moved].sort((a, b) => a - b)) {
    const ring = Math.floor(vertex / columns);
    const column = vertex % columns;
    while (ring >= start[c + 1]) c++;
    const first = ring === start[c];
    // of a closed line the ring before its first is the last but one
    const back = !first ? columns : closed[c] ? (ring - start[c + 1] + 2) * columns : 0;
    const before = side[ring] > 0 ? vertex : vertex - back;
    const after = ring + 1 < start[c + 1] && side[ring] >= 0 ? vertex + columns : vertex;
    const left = begins.has(column - 1) ? vertex - 1 : vertex;
    const right = begins.has(column) ? vertex + 1 : vertex;
    const along = (k: number) => position[3 * after + k] - position[3 * before + k];
    const across = (k: number) => position[3 * right + k] - position[3 * left + k];
    const n = [0, 1, 2].map((k) => {
      const [a, b] = [(k + 1) % 3, (k + 2) % 3];
      return across(a) * along(b) - across(b) * along(a);
    });
    const size = Math.hypot(...n);
    if (size > 0) for (let k = 0; k < 3; k++) normal[3 * vertex + k] = n[k] / size;
  }
}
