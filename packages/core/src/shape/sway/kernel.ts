import { CURVE, type CurveSet, curveCount, POINT, pointCount } from '../../curve/curve-set.js';
import { lineKernel, MAX_POINTS, STEP_BYTES, TANGENT_BYTES } from '../../curve/kernel/line-kernel.js';
import { layout, makeRoom } from '../../numeric/compiled.js';
import { SIDEWAYS, type Sway, UP, writeReach } from './sway.js';

/**
 * What `swayLines` does, several times as fast, for open lines without corners whose points all differ, at single
 * precision of the sway.
 * @param from where the points stand, flat xyz; `lines` get where they go, and may begin with the same array
 * @returns whether it was done; where not, nothing has changed
 */
export function swayByKernel(from: Float64Array, lines: CurveSet, sway: Sway): boolean {
  const [count, points] = [curveCount(lines), pointCount(lines)];
  if (points > MAX_POINTS || lines.pointData[POINT.corner] || lines.closed.includes(1)) return false;
  const kernel = lineKernel();
  const { reserve, end } = layout();
  const at = {
    start: reserve(4 * count + 4),
    id: reserve(4 * count),
    position: reserve(24 * points),
    steps: reserve(STEP_BYTES * points),
    tangents: reserve(TANGENT_BYTES * points),
    normals: reserve(TANGENT_BYTES * points),
    along: reserve(4 * points),
    far: reserve(4 * points),
    length: reserve(4 * count),
  };
  makeRoom(kernel, end());
  const { buffer } = kernel.memory;
  new Uint32Array(buffer, at.start, count + 1).set(lines.start);
  new Uint32Array(buffer, at.id, count).set(lines.id);
  const position = new Float64Array(buffer, at.position, 3 * points);
  const along = new Float32Array(buffer, at.along, points);
  const length = new Float32Array(buffer, at.length, count);
  position.set(from.subarray(0, 3 * points));
  if (kernel.measure(count, at.start, at.position, at.steps, at.tangents, at.along, at.length)) return false;
  writeReach(lines, along, length, sway, new Float32Array(buffer, at.far, points));
  const { period, up, seed } = sway;
  kernel.sway(
    count,
    at.start,
    at.id,
    at.position,
    at.steps,
    at.tangents,
    at.normals,
    at.along,
    at.far,
    period,
    up,
    seed,
    SIDEWAYS,
    UP,
  );
  kernel.measure(count, at.start, at.position, at.steps, at.tangents, at.along, at.length);
  lines.position.set(position);
  lines.pointData[POINT.along].set(along);
  lines.curveData[CURVE.length].set(length);
  return true;
}
