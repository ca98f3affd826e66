import { layout, makeRoom } from '../../numeric/compiled.js';
import { type CurveSet, curveCount, pointCount } from '../curve-set.js';
import { lineKernel, MAX_POINTS, STEP_BYTES, TANGENT_BYTES } from './line-kernel.js';

/**
 * Tangents and rotation-minimizing normals of lines as `rotationMinimizingFrames` gives them, several times as fast, for open
 * lines without a bend above 20° whose points all differ; directions at single precision.
 * @returns whether it was done; where not, nothing was written
 */
export function framesByKernel(lines: CurveSet, tangent: Float64Array, normal: Float64Array): boolean {
  const [count, points] = [curveCount(lines), pointCount(lines)];
  if (points > MAX_POINTS || lines.closed.includes(1)) return false;
  const kernel = lineKernel();
  const { reserve, end } = layout();
  const at = {
    start: reserve(4 * count + 4),
    position: reserve(24 * points),
    steps: reserve(STEP_BYTES * points),
    tangents: reserve(TANGENT_BYTES * points),
    normals: reserve(TANGENT_BYTES * points),
    tangent: reserve(24 * points),
    normal: reserve(24 * points),
  };
  makeRoom(kernel, end());
  const { buffer } = kernel.memory;
  new Uint32Array(buffer, at.start, count + 1).set(lines.start);
  new Float64Array(buffer, at.position, 3 * points).set(lines.position);
  if (kernel.frames(count, at.start, at.position, at.steps, at.tangents, at.normals, at.tangent, at.normal))
    return false;
  tangent.set(new Float64Array(buffer, at.tangent, 3 * points));
  normal.set(new Float64Array(buffer, at.normal, 3 * points));
  return true;
}
