import fc from 'fast-check';
import { expect, it } from 'vitest';
import { applyFix, evaluatePiece, newUse, Surroundings, topologyOf, World } from '../src/index.js';
import { alongPoints } from './projects.js';

type Place = [number, number, number];
const nothing = new Surroundings(new Map());

/** A bar along a line that bends to and fro more tightly than it is thick. */
function tight(points: readonly Place[], make: object, closed = false) {
  const { document } = alongPoints(points, (one) => {
    one.make = newUse('make', 'sweep');
    Object.assign(one.make.parameters, { radius: 0.04, sides: 16, ...make });
  });
  document.curves[0].closed = closed;
  return document;
}
const built = (document: ReturnType<typeof tight>) => evaluatePiece(new World(document, nothing), document.pieces[0]);

/** Of all faces the least cosine between what it looks to and the mean of its vertices’ normals. */
function mostTurned({ parts }: ReturnType<typeof built>): number {
  if (parts[0]?.kind !== 'mesh') throw new Error('A sweep is a mesh');
  const { position, normal, index } = parts[0].mesh;
  let worst = 1;
  for (let f = 0; f < index.length; f += 3) {
    const [a, b, c] = [0, 1, 2].map((k) => position.subarray(3 * index[f + k], 3 * index[f + k] + 3));
    const [u, v] = [b, c].map((place) => place.map((value, k) => value - a[k]));
    const cross = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]];
    const size = Math.hypot(...cross);
    const mean = [0, 1, 2].map((k) => normal[3 * index[f] + k] + normal[3 * index[f + 1] + k] + normal[3 * index[f + 2] + k]); // biome-ignore format: one line
    const length = Math.hypot(...mean);
    if (size > 1e-10 && length > 0.1)
      worst = Math.min(worst, (cross[0] * mean[0] + cross[1] * mean[1] + cross[2] * mean[2]) / size / length);
  }
  return worst;
}

const HAIRPIN: Place[] = [[0, 0, 0], [0.5, 0, 0], [0.53, 0.03, 0], [0.5, 0.06, 0], [0, 0.06, 0]]; // biome-ignore format: one line

it('a bend tighter than the section has inverted faces as it comes; drawn in it has none, is told so, and is as closed', () => {
  const across = fc.double({ min: -0.02, max: 0.02, noNaN: true });
  const forms = fc.constantFrom('round', 'box', 'polygon', 'half-round', 'channel');
  fc.assert(
    fc.property(forms, across, across, fc.double({ min: -1, max: 1, noNaN: true }), (form, y, z, roll) => {
      const points = HAIRPIN.map(([px, py, pz], i): Place => [px, py + (i === 2 ? y : 0), pz + (i > 2 ? z : 0)]);
      const make = { form, roll, rounding: 0 };
      const through = built(tight(points, make));
      const limited = built(tight(points, { ...make, folds: 'limited' }));
      expect(mostTurned(through)).toBeLessThan(-0.5);
      expect(mostTurned(limited)).toBeGreaterThan(-0.05);
      const [bend] = limited.findings.filter(({ code }) => code === 'pinch');
      expect(bend).toMatchObject({ severity: 'warning', message: expect.stringContaining('drawn in') });
      expect(through.findings.find(({ code }) => code === 'pinch')?.severity).toBe('error');
      if (limited.parts[0]?.kind === 'mesh') expect(topologyOf(limited.parts[0].mesh).openEdges).toBe(0);
    }),
    { numRuns: 60 },
  );
});

it('a bend that is wide enough is the same to the bit, drawn in or not', () => {
  const wide: Place[] = [[0, 0, 0], [0.5, 0.1, 0.2], [1, 0, 0]]; // biome-ignore format: one line
  const [a, b] = ['through', 'limited'].map((folds) => built(tight(wide, { folds })).parts[0]);
  if (a.kind !== 'mesh' || b.kind !== 'mesh') throw new Error('A sweep is a mesh');
  expect(b.mesh.position).toEqual(a.mesh.position);
});

it('each of the ways to mend a fold mends it: the line smoother, the section thinner there alone, its inner side drawn in', () => {
  const document = tight(HAIRPIN, {});
  const [fold] = built(document).findings.filter(({ severity }) => severity === 'error');
  const ways = [fold.fix, ...(fold.others ?? [])].flatMap((fix) => fix ?? []);
  expect(ways.map(({ label }) => label)).toEqual([
    'Smooth the line',
    'Make it thinner there',
    'Draw its inner side in',
  ]);
  for (const fix of ways.slice(1)) {
    const mended = applyFix(document, 'piece', fix);
    expect(built(mended).findings.filter(({ severity }) => severity === 'error')).toEqual([]);
  }
  const radius = applyFix(document, 'piece', ways[1]).pieces[0].make.parameters['radius'];
  expect(radius).toMatchObject({ knots: expect.arrayContaining([{ at: 0, value: 0.04 }, { at: 1, value: 0.04 }]) }); // biome-ignore format: one line
});

it('a mitre that reaches further than its leg is mended by a thinner section there', () => {
  const document = tight([[0, 0, 0], [0.5, 0, 0], [0.5, 0.03, 0], [0, 0.03, 0]], {}); // biome-ignore format: one line
  for (const point of document.curves[0].points) point.corner = true;
  const [short] = built(document).findings.filter(({ code }) => code === 'mitre-short');
  const thin = [short.fix, ...(short.others ?? [])].find((fix) => fix?.label === 'Make it thinner there');
  if (!thin) throw new Error('There is a way');
  const mended = built(applyFix(document, 'piece', thin));
  expect(mended.findings.filter(({ code }) => code === 'mitre-short')).toEqual([]);
});
