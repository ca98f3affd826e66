import { layout, makeRoom } from '../../numeric/compiled.js';
import { hashText, mixedSeed } from '../../numeric/random.js';
import type { AreaPicker } from './area-picker.js';
import { rootKernel } from './kernel.js';

/** Places on a mesh, one after the other as they were found: the k-th is the same however many follow. */
export interface Roots {
  /** Which draw each came from: the stable number of the place. */
  number: Uint32Array;
  triangle: Uint32Array;
  /** Shares of the triangle's second and third corner, two a place. */
  shares: Float64Array;
  count: number;
}

/** Draws by which the share of the area that something stands on is estimated. */
const PROBES = 1024;
/** Numbers that are tried between two words of how far it is. */
const STRIDE = 4096;

/**
 * Places spread over an area one after the other: a draw is taken where it keeps off all places before it, by a distance
 * that shrinks as they get more (dart throwing with a falling radius; McCool & Fiume: Hierarchical Poisson disk sampling
 * distributions, Graphics Interface 1992). Each place costs the same, however many there are.
 * @param evenness 0 at random alone … 1
 * @param keeps of a place by its number: whether something stands there; undefined where it always does
 * @param toFill places left out by `keeps` are made up for elsewhere
 */
export function spreadRoots(
  picker: AreaPicker,
  count: number,
  seed: number,
  evenness: number,
  keeps: ((at: readonly [number, number, number], number: number) => boolean) | undefined,
  toFill: boolean,
  step: (share: number) => void,
): Roots {
  const kernel = rootKernel({
    kernel: { keeps: (x, y, z, number) => (keeps === undefined || keeps([x, y, z], number) ? 1 : 0) },
  });
  const { position, index } = picker.mesh;
  const faces = picker.wanted.length;
  const { reserve, end } = layout();
  const at = {
    position: reserve(4 * position.length),
    index: reserve(4 * index.length),
    wanted: reserve(4 * faces),
    until: reserve(8 * faces),
    begins: reserve(4 * faces),
    table: reserve(8 * Math.max(count, 32)),
    chain: reserve(4 * count + 4),
    spots: reserve(12 * count),
    number: reserve(4 * count),
    triangle: reserve(4 * count),
    shares: reserve(16 * count),
  };
  makeRoom(kernel, end());
  const { buffer } = kernel.memory;
  new Float32Array(buffer, at.position).set(position);
  new Uint32Array(buffer, at.index).set(index);
  new Uint32Array(buffer, at.wanted).set(picker.wanted);
  new Float64Array(buffer, at.until).set(picker.until);
  new Uint32Array(buffer, at.begins).set(picker.begins);
  kernel.setArea(at.position, at.index, at.wanted, at.until, at.begins, faces, picker.area);
  kernel.setDraws(mixedSeed(seed), hashText('triangle'), hashText('s'), hashText('t'));
  const stands = keeps ? (picker.area * Math.max(1, kernel.stood(PROBES))) / PROBES : picker.area;
  kernel.begin(evenness, stands, at.table, at.chain, at.spots, at.number, at.triangle, at.shares);
  const most = toFill ? Math.min(4_000_000, 2000 * count) : count;
  let found = 0;
  while (found < count && !kernel.isOver(most)) {
    step(found / count);
    found = kernel.spread(STRIDE, count, most, keeps ? 1 : 0);
  }
  return {
    number: new Uint32Array(buffer, at.number, found).slice(),
    triangle: new Uint32Array(buffer, at.triangle, found).slice(),
    shares: new Float64Array(buffer, at.shares, 2 * found).slice(),
    count: found,
  };
}
