import { describe, expect, it } from 'vitest';
import { singleCurve } from '../src/curve/curve-set.js';
import { Surface, Surroundings, topologyOf } from '../src/index.js';
import { Cloth } from '../src/make/elements/cloth.js';
import { framedLines } from '../src/make/elements/framed-lines.js';
import { legsOf } from '../src/make/stitch/legs.js';
import { creaseMesh, type Hole, holeMesh, holePlaces, seamMesh } from '../src/make/stitch/relief.js';
import { BELOW } from '../src/make/stitch/thread.js';
import { WHIP_POINTS, whipThread } from '../src/make/stitch/whip.js';
import { boundsOf } from '../src/mesh/measure.js';
import type { Vec3 } from '../src/numeric/vector.js';

const FLAT = Surface.of({
  position: Float32Array.of(-1, 0, -1, 1, 0, -1, 1, 0, 1, -1, 0, 1),
  index: Uint32Array.of(0, 2, 1, 0, 3, 2),
});
const LINE = framedLines(singleCurve([0, 0, 0, 0.2, 0, 0]), false);
const CLOTH = new Cloth(LINE, new Surroundings(new Map([['cloth', FLAT]])), 0.01);
const hole = (x: number, id: number, z = 0): Hole => ({
  at: [x, 0, z],
  up: [0, 1, 0],
  free: false,
  id,
  curve: 0,
  along: x,
  tangent: [1, 0, 0],
});

describe('a whipped thread', () => {
  const size = { radius: 0.001, lift: 0.0002, arch: 0.0006 };
  const high = size.radius + size.lift;
  const thread = (from: { at: Vec3; up: Vec3 }, to: { at: Vec3; up: Vec3 }, edge: [Vec3, Vec3]) => {
    const out = new Float64Array(3 * WHIP_POINTS);
    whipThread({ ...from, free: false }, { ...to, free: false }, edge, size, out, 0);
    return Array.from({ length: WHIP_POINTS }, (_, j) => [...out.subarray(3 * j, 3 * j + 3)]);
  };
  /** Off a block that fills x < 0, y < 0. */
  const off = ([x, y]: readonly number[]) => (x > 0 && y > 0 ? Math.hypot(x, y) : Math.max(x, y));

  it('goes from below its hole on one side over a square edge to below the other, clear of the block, highest over the edge', () => {
    const [a, b] = [
      { at: [-0.01, 0, 0] as Vec3, up: [0, 1, 0] as Vec3 },
      { at: [0, -0.01, 0.004] as Vec3, up: [1, 0, 0] as Vec3 },
    ];
    const edge: [Vec3, Vec3] = [
      [0, 0, 0],
      [0, 0, 0.004],
    ];
    const way = thread(a, b, edge);
    expect(way[0]).toEqual([-0.01, -BELOW * size.radius, 0].map((value) => expect.closeTo(value, 9)));
    expect(way[2]).toEqual([...a.at].map((value) => expect.closeTo(value, 9)));
    expect(way[18]).toEqual([...b.at].map((value) => expect.closeTo(value, 9)));
    expect(way[20]).toEqual([-BELOW * size.radius, -0.01, 0.004].map((value) => expect.closeTo(value, 9)));
    const heights = way.map(off);
    expect([heights[4], heights[6], heights[10]]).toEqual(
      [high, high + size.arch / 2, 1.15 * high + size.arch].map((value) => expect.closeTo(value, 9)),
    );
    expect(heights[8]).toBeCloseTo(1.05 * high + size.arch, 9);
    for (let j = 4; j <= 16; j++) expect(heights[j], String(j)).toBeGreaterThan(0.99 * size.radius);
    // the same from the other side, the other way round
    const back = thread(b, a, [edge[1], edge[0]]);
    for (const [j, place] of back.entries())
      place.forEach((value, n) => void expect(value).toBeCloseTo(way[WHIP_POINTS - 1 - j][n], 9));
    for (let j = 2; j + 2 < WHIP_POINTS; j++) {
      const [p, q] = [0, 1].map((k) => [0, 1, 2].map((n) => way[j + k][n] - way[j + k - 1][n]));
      expect(
        p.reduce((sum, value, n) => sum + value * q[n], 0) / (Math.hypot(...p) * Math.hypot(...q)),
        String(j),
      ).toBeGreaterThan(0);
    }
  });

  it('goes round the rim of a sheet on the side away from its holes', () => {
    const way = thread({ at: [-0.01, 0, 0], up: [0, 1, 0] }, { at: [-0.01, 0, 0.002], up: [0, -1, 0] }, [
      [0, 0, 0],
      [0, 0, 0.002],
    ]);
    expect(way[10]).toEqual([1.15 * high + size.arch, 0, 0.001].map((value) => expect.closeTo(value, 9)));
    expect(way[6][1]).toBeCloseTo(high + size.arch / 2, 9);
    expect(way[14][1]).toBeCloseTo(-high - size.arch / 2, 9);
  });
});

describe('what stitches do to the cloth', () => {
  it('holes stand on the cloth with their z along the line, as large as asked; threads that share one have one', () => {
    const places = holePlaces([hole(0.01, 1), hole(0.0101, 2), hole(0.02, 3), hole(0.03, 4, 0.01)], 0.002);
    expect([...places.id]).toEqual([1, 3, 4]);
    expect([...places.matrix.subarray(16, 32)]).toEqual(
      [0, 0, -0.002, 0, 0, 0.002, 0, 0, 0.002, 0, 0, 0, 0.02, 0, 0, 1].map((value) => expect.closeTo(value, 9)),
    );
    expect([...places.along].map((value) => +value.toFixed(4))).toEqual([0.01, 0.02, 0.03]);
    // where the line runs along the way up it still has three axes
    const { matrix } = holePlaces([{ ...hole(0, 5), tangent: [0, 1, 0] }], 1);
    expect(
      Math.abs(
        matrix[0] * (matrix[5] * matrix[10] - matrix[6] * matrix[9]) +
          matrix[1] * (matrix[6] * matrix[8] - matrix[4] * matrix[10]) +
          matrix[2] * (matrix[4] * matrix[9] - matrix[5] * matrix[8]),
      ),
    ).toBeCloseTo(1, 6);
    const { min, max } = boundsOf(holeMesh(0.3, 24).position);
    expect([max[0], max[1], min[1]]).toEqual([
      expect.closeTo(1.42, 2),
      expect.closeTo(0.3, 6),
      expect.closeTo(-0.2, 6),
    ]);
    expect(topologyOf(holeMesh(0.3, 24)).openEdges).toBe(0);
  });

  it('a pressed seam lies on the cloth row by row: level at its rims, puffed to both sides, a fold in its middle', () => {
    const { legs } = legsOf(LINE, 0.01, false, 100);
    const [half, depth] = [0.004, 0.001];
    const mesh = seamMesh(LINE, legs, CLOTH, [0], half, depth)!;
    expect(topologyOf(mesh).openEdges).toBe(0);
    const { min, max } = boundsOf(mesh.position);
    expect([min[0], max[0]]).toEqual([expect.closeTo(0, 6), expect.closeTo(0.2, 6)]);
    expect([min[2], max[2]]).toEqual([expect.closeTo(-half, 5), expect.closeTo(half, 5)]);
    expect(max[1]).toBeLessThan(depth + 1e-9);
    expect(max[1]).toBeGreaterThan(0.9 * depth);
    expect(min[1]).toBeCloseTo(-1.2 * depth, 6);
    const heightAt = (z: number) =>
      Math.max(
        ...Array.from({ length: mesh.position.length / 3 }, (_, v) =>
          Math.abs(mesh.position[3 * v + 2] - z) < 1e-6 ? mesh.position[3 * v + 1] : -1,
        ),
      );
    expect(heightAt(0)).toBeCloseTo(0.06 * depth, 6);
    expect(heightAt(half)).toBeCloseTo(-0.4 * depth, 6);
    expect(heightAt(0.2 * half)).toBeCloseTo(heightAt(-0.2 * half), 9);
    const two = boundsOf(seamMesh(LINE, legs, CLOTH, [-0.02, 0.02], half, depth)!.position);
    expect([two.min[2], two.max[2]]).toEqual([expect.closeTo(-0.024, 5), expect.closeTo(0.024, 5)]);
    expect(seamMesh(LINE, [], CLOTH, [0], half, depth)).toBeUndefined();
  });

  it('creases run out from a hole to both sides, no longer than asked, thickest near it, sunk in the cloth', () => {
    const holes = Array.from({ length: 60 }, (_, k) => hole(0.003 * k, 100 + k));
    const [length, radius] = [0.02, 0.001];
    const mesh = creaseMesh(holes, CLOTH, length, radius, 1)!;
    expect(topologyOf(mesh)).toMatchObject({ openEdges: 0, shells: 120 });
    const { min, max } = boundsOf(mesh.position);
    expect([max[2], -min[2]].every((far) => far > 0.8 * length && far < length + radius)).toBe(true);
    // this much of it looks out of the cloth at its thickest: what is not sunk
    expect(max[1]).toBeLessThan((1 - 0.62) * radius + 1e-9);
    expect(max[1]).toBeGreaterThan(0.25 * radius);
    expect(creaseMesh(holes, CLOTH, length, radius, 1)!.position).toEqual(mesh.position);
    expect(creaseMesh(holes, CLOTH, length, radius, 2)!.position).not.toEqual(mesh.position);
    expect(creaseMesh([], CLOTH, length, radius, 1)).toBeUndefined();
  });
});
