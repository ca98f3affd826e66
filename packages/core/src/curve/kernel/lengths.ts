import { layout, makeRoom } from '../../numeric/compiled.js';
import { measureEdges, writeLengths } from '../arc-length.js';
import { eachBlock } from '../blocks.js';
import { CURVE, type CurveSet, curveCount, POINT, pointCount } from '../curve-set.js';
import { lineKernel, MAX_POINTS, STEP_BYTES, TANGENT_BYTES } from './line-kernel.js';

/**
 * Writes how far along each point of smooth lines is, and how long the lines are: several times as fast as measuring their
 * edges where they are open, at single precision. The arrays for both are there.
 */
export function measureLines(lines: CurveSet): void {
  if (lines.closed.includes(1) || !measuredByKernel(lines)) writeLengths(lines, measureEdges(lines).length);
}

function measuredByKernel(lines: CurveSet): boolean {
  let done = true;
  eachBlock(lines, (block) => {
    done &&= measureBlock(block);
  });
  return done;
}

function measureBlock(lines: CurveSet): boolean {
  const [count, points] = [curveCount(lines), pointCount(lines)];
  if (points > MAX_POINTS || count === 0) return false;
  const kernel = lineKernel();
  const { reserve, end } = layout();
  const at = {
    start: reserve(4 * count + 4),
    position: reserve(24 * points),
    steps: reserve(STEP_BYTES * points),
    tangents: reserve(TANGENT_BYTES * points),
    along: reserve(4 * points),
    length: reserve(4 * count),
  };
  makeRoom(kernel, end());
  const { buffer } = kernel.memory;
  new Uint32Array(buffer, at.start, count + 1).set(lines.start);
  new Float64Array(buffer, at.position, 3 * points).set(lines.position);
  if (kernel.measure(count, at.start, at.position, at.steps, at.tangents, at.along, at.length)) return false;
  lines.pointData[POINT.along].set(new Float32Array(buffer, at.along, points));
  lines.curveData[CURVE.length].set(new Float32Array(buffer, at.length, count));
  return true;
}
