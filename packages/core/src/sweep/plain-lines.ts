import { eachBlock } from '../curve/blocks.js';
import { type CurveSet, curveCount, POINT, pointCount } from '../curve/curve-set.js';
import { lineKernel, MAX_POINTS, STEP_BYTES, TANGENT_BYTES } from '../curve/kernel/line-kernel.js';
import { blankMesh, type Mesh } from '../mesh/mesh.js';
import { layout, makeRoom } from '../numeric/compiled.js';
import type { Section } from '../section/section.js';

/** Numbers of one column, in the order of kernel/lines.as.ts. */
const COLUMN_NUMBERS = 8;
/** Sections of more columns leave little to win: their vertices are the greater part. */
const MAX_COLUMNS = 16;

/**
 * The skins of many open lines of one thickness that never turn and have no ends, without their faces: measured, framed
 * and written in one go, at single precision of the frames.
 * @returns undefined where a line bends by more than 20° at one point, is closed, or anything else is as it is seldom
 */
export function plainSkins(lines: CurveSet, section: Section, radius: number, into?: Mesh): Mesh | undefined {
  const columns = section.x.length;
  if (columns > MAX_COLUMNS || !lines.pointData[POINT.along] || lines.closed.includes(1)) return undefined;
  const bands = pointCount(lines) - curveCount(lines);
  const blank = blankMesh(pointCount(lines) * columns, 6 * bands * section.face.length, into);
  const mesh = { ...blank, quads: bands * section.face.length };
  let done = true;
  eachBlock(lines, (block, first) => {
    done &&= writeSkins(block, section, radius, mesh, lines.start[first] * columns);
  });
  return done ? mesh : undefined;
}

function writeSkins(lines: CurveSet, section: Section, radius: number, mesh: Mesh, vertex: number): boolean {
  const [count, points, columns] = [curveCount(lines), pointCount(lines), section.x.length];
  if (points > MAX_POINTS) return false;
  const kernel = lineKernel();
  const { reserve, end } = layout();
  const vertices = columns * points;
  const at = {
    start: reserve(4 * count + 4),
    position: reserve(24 * points),
    along: reserve(4 * points),
    section: reserve(4 * COLUMN_NUMBERS * columns),
    steps: reserve(STEP_BYTES * points),
    tangents: reserve(TANGENT_BYTES * points),
    normals: reserve(TANGENT_BYTES * points),
    p: reserve(12 * vertices),
    n: reserve(12 * vertices),
    uv: reserve(8 * vertices),
  };
  makeRoom(kernel, end());
  const { buffer } = kernel.memory;
  new Uint32Array(buffer, at.start, count + 1).set(lines.start);
  new Float64Array(buffer, at.position, 3 * points).set(lines.position);
  new Float32Array(buffer, at.along, points).set(lines.pointData[POINT.along]);
  const column = new Float32Array(buffer, at.section, COLUMN_NUMBERS * columns);
  const { x, y, normalX, normalY, u } = section;
  for (let k = 0; k < columns; k++) column.set([x[k], y[k], normalX[k], normalY[k], u[k]], COLUMN_NUMBERS * k);
  const { start, position, steps, tangents, normals, along, p, n, uv } = at;
  if (kernel.rings(count, start, position, steps, tangents, normals, along, at.section, columns, radius, p, n, uv))
    return false;
  mesh.position.set(new Float32Array(buffer, p, 3 * vertices), 3 * vertex);
  mesh.normal.set(new Float32Array(buffer, n, 3 * vertices), 3 * vertex);
  mesh.uv.set(new Float32Array(buffer, uv, 2 * vertices), 2 * vertex);
  return true;
}
