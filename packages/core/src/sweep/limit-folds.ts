import type { CurveSet } from '../curve/curve-set.js';
import type { Frames } from '../curve/frames.js';
import type { Mesh } from '../mesh/mesh.js';
import { distanceAt } from '../numeric/vector.js';
import type { Section } from '../section/section.js';
import type { Rings } from './rings.js';

/** Towards the inside a place stays where it is up to such a share of the way to where the rings of the bend meet. */
const FREE = 0.55;
/** What lies further in is drawn together in so much of it, the order kept: no two places come to lie in each other. */
const ROOM = 0.25;
/** Where the plane of the bend turns from ring to ring, what the next ring's bend moved is held to this in a few rounds more. */
const MOST = FREE + 1.2 * ROOM;
const ROUNDS = 4;

/** How far in a place goes that lies `inwards`, both as shares of the way to where the rings meet. */
function held(inwards: number, round: number): number {
  if (round > 0) return Math.min(inwards, MOST);
  const over = inwards - FREE;
  return over > 0 ? FREE + (ROOM * over) / (over + ROOM) : inwards;
}

/**
 * Draws the inner side of tight bends in towards the curve, so that no ring reaches to where its plane meets the next
 * ring's: a place p from the curve lies at 1 − κ·p of the step there (κ the curvature vector; any text on offset
 * curves), and below 0 its faces are inside out. Corners are left: they are mitred.
 */
export function limitFolds(
  { position: center, closed }: CurveSet,
  { tangent }: Frames,
  rings: Rings,
  section: Section,
  mesh: Mesh,
): void {
  const { start, point, corners } = rings;
  const { position } = mesh;
  const columns = section.x.length;
  const bend = new Float64Array(3);
  const moved = new Set<number>();
  for (let round = 0; round < ROUNDS; round++)
    for (let c = 0; c + 1 < start.length; c++) {
      const last = start[c + 1] - 1;
      for (let ring = start[c]; ring < last; ring++) {
        const [p, q] = [3 * point[ring], 3 * point[ring + 1]];
        // there the tangent is the mitre's, not the line's
        if (p === q || corners.has(point[ring]) || corners.has(point[ring + 1])) continue;
        const step = distanceAt(center, point[ring], point[ring + 1]);
        for (const [at, r] of [
          [p, ring],
          // the last ring of a closed line is its first
          [q, ring + 1 === last && closed[c] ? start[c] : ring + 1],
        ]) {
          // within the ring's own plane
          let onwards = 0;
          for (let k = 0; k < 3; k++) {
            // between the ring’s own direction and that of the step: half of the bend from ring to ring
            const way = (center[q + k] - center[p + k]) / (step || 1);
            bend[k] = (2 * (at === p ? way - tangent[p + k] : tangent[q + k] - way)) / (step || 1);
            onwards += bend[k] * tangent[at + k];
          }
          for (let k = 0; k < 3; k++) bend[k] -= onwards * tangent[at + k];
          const size = Math.hypot(bend[0], bend[1], bend[2]);
          if (size < 1e-9) continue;
          for (let vertex = r * columns; vertex < (r + 1) * columns; vertex++) {
            const i = 3 * vertex;
            let inwards = 0;
            for (let k = 0; k < 3; k++) inwards += (position[i + k] - center[at + k]) * bend[k];
            const back = inwards - held(inwards, round);
            if (back <= 0) continue;
            for (let k = 0; k < 3; k++) position[i + k] -= (back * bend[k]) / size ** 2;
            moved.add(vertex);
          }
        }
      }
    }
  if (moved.size === 0) return;
  renewNormals(moved, closed, rings, section, mesh);
  for (let c = 0; c + 1 < start.length; c++) {
    const first = 3 * start[c] * columns;
    if (!closed[c] || corners.has(point[start[c]])) continue;
    for (const array of [position, mesh.normal])
      array.copyWithin(3 * (start[c + 1] - 1) * columns, first, first + 3 * columns);
  }
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
  const old = normal.slice();
  let c = 0;
  for (const vertex of [...moved].sort((a, b) => a - b)) {
    const ring = Math.floor(vertex / columns);
    const column = vertex % columns;
    while (ring >= start[c + 1]) c++;
    const round = ring === start[c] && closed[c] ? start[c + 1] - 1 - start[c] : 0;
    const before =
      side[ring] > 0
        ? vertex
        : round > 0
          ? vertex + (round - 1) * columns
          : ring > start[c]
            ? vertex - columns
            : vertex;
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
    else normal.set(old.subarray(3 * vertex, 3 * vertex + 3), 3 * vertex);
  }
}
