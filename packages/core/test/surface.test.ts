import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  anchorOf,
  createHit,
  evaluatePiece,
  HOME,
  type Placement,
  Surface,
  SurfaceStore,
  Surroundings,
  World,
} from '../src/index.js';
import { anchorFor, anchorPosition } from '../src/surface/anchor.js';
import { bunnyMesh } from './helpers.js';
import { lyingOnBunny } from './projects.js';

const mesh = bunnyMesh();
const surface = Surface.of(mesh);
const coordinate = fc.integer({ min: -150, max: 200 }).map((value) => value / 1000);

/** Nearest place of every triangle, one after another (Ericson, Real-Time Collision Detection, 2005, 5.1.5). */
function bruteForceDistance(x: number, y: number, z: number): number {
  let best = Infinity;
  const { position, index } = mesh;
  const at = (v: number) => [position[3 * v], position[3 * v + 1], position[3 * v + 2]];
  const sub = (a: number[], b: number[]) => a.map((value, k) => value - b[k]);
  const dot = (a: number[], b: number[]) => a.reduce((sum, value, k) => sum + value * b[k], 0);
  const p = [x, y, z];
  for (let i = 0; i < index.length; i += 3) {
    const [a, b, c] = [at(index[i]), at(index[i + 1]), at(index[i + 2])];
    const [ab, ac, ap, bp, cp] = [sub(b, a), sub(c, a), sub(p, a), sub(p, b), sub(p, c)];
    const [d1, d2, d3, d4, d5, d6] = [dot(ab, ap), dot(ac, ap), dot(ab, bp), dot(ac, bp), dot(ab, cp), dot(ac, cp)];
    const [vc, vb, va] = [d1 * d4 - d3 * d2, d5 * d2 - d1 * d6, d3 * d6 - d5 * d4];
    let [v, w] = [0, 0];
    if (d1 <= 0 && d2 <= 0) [v, w] = [0, 0];
    else if (d3 >= 0 && d4 <= d3) [v, w] = [1, 0];
    else if (vc <= 0 && d1 >= 0 && d3 <= 0) [v, w] = [d1 / (d1 - d3), 0];
    else if (d6 >= 0 && d5 <= d6) [v, w] = [0, 1];
    else if (vb <= 0 && d2 >= 0 && d6 <= 0) [v, w] = [0, d2 / (d2 - d6)];
    else if (va <= 0 && d4 - d3 >= 0 && d5 - d6 >= 0) {
      w = (d4 - d3) / (d4 - d3 + d5 - d6);
      v = 1 - w;
    } else [v, w] = [vb / (va + vb + vc), vc / (va + vb + vc)];
    const place = a.map((value, k) => value + v * ab[k] + w * ac[k]);
    best = Math.min(best, Math.hypot(...sub(p, place)));
  }
  return best;
}

const turned: Placement = { position: [0.3, -0.1, 0.2], rotation: [0, Math.SQRT1_2, 0, Math.SQRT1_2], scale: 2 };

describe('closest point on the open scanned mesh', () => {
  it('is the one brute force finds, and its anchor is that point, wherever the prop stands', () => {
    fc.assert(
      fc.property(coordinate, coordinate, coordinate, (x, y, z) => {
        const hit = createHit();
        expect(surface.closest(x, y, z, hit)).toBe(true);
        expect(hit.distance).toBeCloseTo(bruteForceDistance(x, y, z), 6);
        expect(Math.hypot(hit.point[0] - x, hit.point[1] - y, hit.point[2] - z)).toBeCloseTo(hit.distance, 7);
        expect(hit.barycentric.reduce((sum, share) => sum + share)).toBeCloseTo(1, 9);
        const place = new Float64Array(3);
        anchorPosition(anchorOf('bunny', hit), new Surroundings(new Map([['bunny', surface]])), place, 0);
        for (let k = 0; k < 3; k++) expect(place[k]).toBeCloseTo(hit.point[k], 6);
        // the same question and answer in a world where the prop is turned by 90°, doubled and moved
        const moved = surface.at(turned);
        const there = createHit();
        moved.closest(2 * z + 0.3, 2 * y - 0.1, -2 * x + 0.2, there);
        expect(there.distance).toBeCloseTo(2 * hit.distance, 6);
      }),
      { numRuns: 40 },
    );
  });

  it('a ray towards a face meets it there, from outside and from inside', () => {
    const hit = createHit();
    surface.place(100, [1 / 3, 1 / 3, 1 / 3], hit);
    const [point, normal] = [hit.point.slice(), hit.normal.slice()];
    for (const side of [1, -1]) {
      const origin = [0, 1, 2].map((k) => point[k] + side * 1e-3 * normal[k]);
      expect(
        surface.cast(
          origin,
          normal.map((value) => -side * value),
          hit,
        ),
      ).toBe(true);
      expect(hit.triangle).toBe(100);
      expect(hit.distance).toBeCloseTo(1e-3, 6);
    }
  });
});

describe('a cable that clings', () => {
  const { document, piece } = lyingOnBunny();
  const store = new SurfaceStore();
  store.add('bunny', mesh);

  it('touches the scan along its length and cuts nowhere into it', () => {
    const surroundings = store.surroundings(document);
    const build = evaluatePiece(new World(document, surroundings), piece);
    const hit = createHit();
    const radius = piece.make.parameters['radius'] as number;
    const { position } = build.guide;
    let touching = 0;
    for (let i = 0; i < position.length; i += 3) {
      const distance = surroundings.signedDistance(position[i], position[i + 1], position[i + 2], hit, 1);
      expect(distance).toBeGreaterThan(0.95 * radius);
      if (distance < 1.5 * radius) touching++;
    }
    expect(touching / (position.length / 3)).toBeGreaterThan(0.9);
    expect(build.findings.filter((finding) => finding.code === 'cuts-prop')).toEqual([]);
  });

  it('rides along when the prop moves: the same cable, moved as the prop is', () => {
    const still = store.surroundings(document);
    const at = (placement: Placement) => ({
      ...document,
      props: document.props.map((prop) => ({ ...prop, placement })),
    });
    const far = at({ ...HOME, position: [5, 1, -3] });
    const moved = store.surroundings(far);
    const a = evaluatePiece(new World(document, still), piece);
    const b = evaluatePiece(new World(far, moved), piece);
    expect(b.guide.position.length).toBe(a.guide.position.length);
    for (let i = 0; i < a.guide.position.length; i++)
      expect(b.guide.position[i] - a.guide.position[i]).toBeCloseTo([5, 1, -3][i % 3], 5);
  });
});

it('a place off a prop, over an edge or a corner too, is held so that its anchor is that place, and grows with the prop', () => {
  const on = new Surroundings(new Map([['bunny', surface]]));
  const grown = new Surroundings(new Map([['bunny', surface.at({ ...HOME, scale: 3 })]]));
  const reach = 0.004;
  fc.assert(
    fc.property(coordinate, coordinate, coordinate, (x, y, z) => {
      const hit = createHit();
      if (on.closest(x, y, z, hit, 0.02) === undefined) return;
      const anchor = anchorFor('bunny', surface, hit, [x, y, z], reach);
      if (!anchor) return;
      const out = new Float64Array(3);
      expect(anchorPosition(anchor, on, out, 0)).toBe(true);
      expect(Math.hypot(out[0] - x, out[1] - y, out[2] - z)).toBeLessThan(1e-6);
      // three times the size: all but what the thing itself needs is three times as far
      const off = hit.normal.reduce((sum, value, k) => sum + value * ([x, y, z][k] - hit.point[k]), 0);
      const own = 2 * Math.min(off, reach);
      anchorPosition(anchor, grown, out, 0);
      for (let k = 0; k < 3; k++) expect(out[k]).toBeCloseTo(3 * [x, y, z][k] - own * hit.normal[k], 6);
    }),
    { numRuns: 300 },
  );
});
