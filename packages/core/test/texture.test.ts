import fc from 'fast-check';
import { BufferAttribute, BufferGeometry } from 'three';
import { expect, it } from 'vitest';
import { evaluatePiece, type Mesh, newUse, Surroundings, signedVolume, topologyOf, World } from '../src/index.js';
import { tangentsOf } from '../src/mesh/tangents.js';
import { FORMS, formSection } from '../src/section/forms.js';
import { evenly } from './helpers.js';
import { alongPoints } from './projects.js';

const forms = fc.constantFrom(...FORMS.map(({ value }) => value));
const NUMBERS = { width: 1.4, sides: 20, points: 6, wall: 0.25, depth: 0.3, rounding: 0.3 };

function swept(make: object): Mesh {
  const { document, piece } = alongPoints(
    [
      [0, 0, 0],
      [0.5, 0.1, 0],
      [1, 0, 0.3],
    ],
    (one) => {
      one.make = newUse('make', 'sweep');
      Object.assign(one.make.parameters, { radius: 0.02, ...NUMBERS, start: 'flat', end: 'flat', ...make });
    },
  );
  const [part] = evaluatePiece(new World(document, new Surroundings(new Map())), piece).parts;
  if (part.kind !== 'mesh') throw new Error('A sweep is a mesh');
  return part.mesh;
}

it('a seam moves along the outline and changes nothing else: same body, texture once round from there', () => {
  fc.assert(
    fc.property(forms, evenly(0, 1), (form, seam) => {
      const [plain, moved] = [swept({ form }), swept({ form, seam })];
      expect(topologyOf(moved)).toEqual(topologyOf(plain));
      expect(signedVolume(moved)).toBeCloseTo(signedVolume(plain), 9);
      // the first ring begins at the place nearest to it, and what is on is reported from there
      const { u, x, y, face } = formSection(form, NUMBERS);
      const places = [...face].filter((column, f) => f === 0 || u[column] > 0);
      const only = u.indexOf(0, 1) < 0 ? places : places.filter((column) => column < u.indexOf(0, 1));
      const away = (column: number) => Math.abs(u[column] - seam - Math.round(u[column] - seam));
      const nearest = only.reduce((best, column) => (away(column) < away(best) ? column : best));
      const at = ({ position }: Mesh, column: number) => position.slice(3 * column, 3 * column + 3);
      expect(at(moved, 0)).toEqual(at(plain, nearest));
      expect(Math.hypot(x[nearest], y[nearest])).toBeGreaterThan(0);
      expect(moved.uv[0]).toBe(0);
      expect(moved.uv.findIndex((u, n) => n % 2 === 0 && !(u >= 0 && u <= 1))).toBe(-1);
    }),
    { numRuns: 80 },
  );
});

it('by true width, the texture is as wide as the section is round, at each ring of what tapers and twists (metres)', () => {
  const lane = {
    ease: 'straight',
    knots: [
      { at: 0, value: 0.01 },
      { at: 1, value: 0.03 },
    ],
  };
  fc.assert(
    fc.property(forms, fc.constantFrom(0, 1.5), (form, twist) => {
      const outer = formSection(form, NUMBERS);
      // of what is hollow the outer outline comes first
      const columns = outer.u.indexOf(0, 1) < 0 ? outer.x.length : outer.u.indexOf(0, 1);
      const round = outer.x
        .subarray(1, columns)
        .reduce((sum, value, k) => sum + Math.hypot(value - outer.x[k], outer.y[k + 1] - outer.y[k]), 0);
      const { uv } = swept({ form, twist, radius: lane, texture: 'true', start: 'open', end: 'open' });
      const rings = uv.length / 2 / outer.x.length;
      for (const [ring, radius] of [
        [0, 0.01],
        [rings - 1, 0.03],
      ]) {
        const first = 2 * ring * outer.x.length;
        expect(uv[first]).toBe(0);
        expect(uv[first + 2 * (columns - 1)] / (round * radius)).toBeCloseTo(1, 4);
      }
    }),
    { numRuns: 40 },
  );
});

it('tangents run as those of three’s computeTangents (Lengyel), w with the picture’s own way up', () => {
  fc.assert(
    fc.property(forms, evenly(-2, 2), fc.constantFrom('flat', 'open'), (form, twist, end) => {
      const mesh = swept({ form, twist, start: end, end });
      const theirs = new BufferGeometry();
      theirs.setAttribute('position', new BufferAttribute(mesh.position, 3));
      theirs.setAttribute('normal', new BufferAttribute(mesh.normal, 3));
      theirs.setAttribute('uv', new BufferAttribute(mesh.uv, 2));
      theirs.setIndex(new BufferAttribute(mesh.index, 1));
      theirs.computeTangents();
      const { array } = theirs.getAttribute('tangent');
      const ours = tangentsOf(mesh);
      let [unlike, aslant, together] = [0, 0, 1];
      for (let v = 0; v < array.length; v += 4) {
        const [x, y, z] = ours.subarray(v, v + 3);
        const n = mesh.normal.subarray((3 * v) / 4, (3 * v) / 4 + 3);
        unlike = Math.max(unlike, Math.abs(Math.hypot(x, y, z) - 1));
        aslant = Math.max(aslant, Math.abs(x * n[0] + y * n[1] + z * n[2]));
        together = Math.min(together, x * array[v] + y * array[v + 1] + z * array[v + 2]);
      }
      expect(unlike).toBeLessThan(5e-6);
      expect(aslant).toBeLessThan(1e-5);
      // faces weigh by size here and there alike where texture and body are evenly stretched: within a few degrees
      expect(together).toBeGreaterThan(0.99);
      // three's pictures have v upwards, those of glTF downwards
      expect(ours.findIndex((way, v) => v % 4 === 3 && way !== -array[v])).toBe(-1);
    }),
    { numRuns: 40 },
  );
});
