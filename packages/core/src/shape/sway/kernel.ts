import { CURVE, type CurveSet, curveCount, POINT, pointCount } from '../../curve/curve-set.js';
import { compiled, type Memory, makeRoom } from '../../numeric/compiled.js';
import { KERNEL } from './binary.js';
import { SIDEWAYS, type Sway, UP, writeReach } from './sway.js';

interface Exports extends Memory {
  measure(
    lines: number,
    start: number,
    position: number,
    steps: number,
    tangents: number,
    along: number,
    length: number,
  ): number;
  sway(
    lines: number,
    start: number,
    id: number,
    position: number,
    steps: number,
    tangents: number,
    along: number,
    far: number,
    step: number,
    up: number,
    seed: number,
    sideways: number,
    upward: number,
  ): void;
}

let exports: Exports | undefined;

/**
 * What `swayLines` does, several times as fast, for open lines without corners whose points all differ, at single
 * precision of the sway.
 * @param from where the points stand, flat xyz; `lines` get where they go, and may begin with the same array
 * @returns whether it was done; where not, nothing has changed
 */
export function swayByKernel(from: Float64Array, lines: CurveSet, sway: Sway): boolean {
  if (lines.pointData[POINT.corner] || lines.closed.includes(1)) return false;
  exports ??= compiled<Exports>(KERNEL);
  const [count, points] = [curveCount(lines), pointCount(lines)];
  let end = 1024;
  const reserve = (bytes: number) => {
    const at = end;
    end += Math.ceil(bytes / 16) * 16;
    return at;
  };
  const at = {
    start: reserve(4 * count + 4),
    id: reserve(4 * count),
    position: reserve(24 * points),
    // four lines side by side, where there are not four of one kind too
    steps: reserve(64 * points),
    tangents: reserve(48 * points),
    along: reserve(4 * points),
    far: reserve(4 * points),
    length: reserve(4 * count),
  };
  makeRoom(exports, end);
  const { buffer } = exports.memory;
  new Uint32Array(buffer, at.start, count + 1).set(lines.start);
  new Uint32Array(buffer, at.id, count).set(lines.id);
  const position = new Float64Array(buffer, at.position, 3 * points);
  const along = new Float32Array(buffer, at.along, points);
  const length = new Float32Array(buffer, at.length, count);
  position.set(from.subarray(0, 3 * points));
  if (exports.measure(count, at.start, at.position, at.steps, at.tangents, at.along, at.length)) return false;
  writeReach(lines, along, length, sway, new Float32Array(buffer, at.far, points));
  const { period, up, seed } = sway;
  exports.sway(
    count,
    at.start,
    at.id,
    at.position,
    at.steps,
    at.tangents,
    at.along,
    at.far,
    period,
    up,
    seed,
    SIDEWAYS,
    UP,
  );
  exports.measure(count, at.start, at.position, at.steps, at.tangents, at.along, at.length);
  lines.position.set(position);
  lines.pointData[POINT.along].set(along);
  lines.curveData[CURVE.length].set(length);
  return true;
}
