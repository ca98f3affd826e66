import { joinCurves } from './carry.js';
import { type CurveData, type CurveSet, curveCount, pointCount } from './curve-set.js';

/** Points of one block: all that is worked out of it stays in the processor's own memory. */
const BLOCK = 2_000;

/**
 * Work that treats every curve for itself, done block by block and joined: of a hundred thousand curves no pass has to
 * go through the whole memory. Small sets are one block.
 */
export function inBlocks(curves: CurveSet, work: (block: CurveSet) => CurveSet): CurveSet {
  const done: CurveSet[] = [];
  eachBlock(curves, (block) => {
    done.push(work(block));
  });
  return done.length === 1 ? done[0] : joinCurves(done);
}

/** Calls `work` for block after block, with the number of its first curve. A set that is small, or empty, is one block. */
export function eachBlock(curves: CurveSet, work: (block: CurveSet, first: number) => void): void {
  const count = curveCount(curves);
  if (pointCount(curves) <= 2 * BLOCK) {
    work(curves, 0);
    return;
  }
  for (let first = 0; first < count; ) {
    let end = first + 1;
    while (end < count && curves.start[end + 1] - curves.start[first] <= BLOCK) end++;
    work(blockOf(curves, first, end), first);
    first = end;
  }
}

/** Curves `first` to `end` − 1, their points and attributes where they lie: nothing is copied but the offsets. */
export function blockOf(curves: CurveSet, first: number, end: number): CurveSet {
  const [from, to] = [curves.start[first], curves.start[end]];
  const start = new Uint32Array(end - first + 1);
  for (let c = first; c <= end; c++) start[c - first] = curves.start[c] - from;
  const part = <T extends CurveData>(data: Record<string, T>, of: number, a: number, b: number) =>
    Object.fromEntries(
      Object.entries(data).map(([name, values]) => {
        const size = of > 0 ? values.length / of : 1;
        return [name, values.subarray(size * a, size * b) as T];
      }),
    );
  return {
    start,
    position: curves.position.subarray(3 * from, 3 * to),
    closed: curves.closed.subarray(first, end),
    id: curves.id.subarray(first, end),
    pointData: part(curves.pointData, pointCount(curves), from, to),
    curveData: part(curves.curveData, curveCount(curves), first, end),
  };
}
