import fc from 'fast-check';
import Module from 'manifold-3d';
import { beforeAll, describe, expect, it } from 'vitest';
import {
  curveLengths,
  drawnPath,
  evaluatePiece,
  findUnit,
  newUse,
  type Profile,
  type ProfilePath,
  parseDocument,
  polygonSection,
  realMesh,
  roundedBoxSection,
  Surroundings,
  signedVolume,
  topologyOf,
  World,
} from '../src/index.js';
import { formPaths } from '../src/section/form-paths.js';
import { FORMS, formSection } from '../src/section/forms.js';
import { outlinePath } from '../src/section/outline-path.js';
import { ownSection, profilePicture, profileSize } from '../src/section/own-section.js';
import { evenly } from './helpers.js';
import { alongPoints } from './projects.js';

type Path = Profile['paths'][number];

const path = (points: readonly (readonly [number, number])[], corner = true, closed = true): Path => ({
  closed,
  points: points.map(([x, y]) => ({ x, y, corner })),
});
const box = (x: number, y: number, w: number, h: number) =>
  path([
    [x, y],
    [x + w, y],
    [x + w, y + h],
    [x, y + h],
  ]);
const circle = (x: number, y: number, r: number) =>
  path(
    Array.from({ length: 8 }, (_, k) => [x + r * Math.cos((k * Math.PI) / 4), y + r * Math.sin((k * Math.PI) / 4)]),
    false,
  );
const profile = (...paths: Path[]): Profile => ({ id: 'own', name: 'Own', paths });

const LINES = {
  straight: [
    [0, 0, 0],
    [0.5, 0, 0],
    [1, 0, 0],
  ],
  bent: [
    [0, 0, 0],
    [0.5, 0.2, 0],
    [1, 0, 0.3],
    [1.5, 0, 0],
  ],
} as const;

/** A piece that sweeps a profile of its project at the profile's own size. */
function swept(own: Profile, points: readonly (readonly [number, number, number])[], change: object = {}) {
  const { document } = alongPoints(points, (one) => {
    one.make = newUse('make', 'sweep');
    Object.assign(one.make.parameters, { form: 'own', profile: 'own', start: 'flat', end: 'flat' });
    Object.assign(one.make.parameters, findUnit('sweep')?.sizedBy?.(own), change);
  });
  // what is swept can be saved
  const project = parseDocument(JSON.parse(JSON.stringify({ ...document, profiles: [own] })));
  const build = evaluatePiece(new World(project, new Surroundings(new Map())), project.pieces[0]);
  return { build, mesh: realMesh(build.parts[0]) };
}
const reported = (own: Profile, change: object = {}) => swept(own, LINES.straight, change).build.findings;

let manifold: Awaited<ReturnType<typeof Module>>;
beforeAll(async () => {
  manifold = await Module();
  manifold.setup();
});

describe('a profile of the project', () => {
  it('is swept at its own size and place, holes and islands in them as even-odd fills them (SVG 2, fill-rule)', () => {
    const own = profile(box(0, 0, 0.06, 0.04), box(0.01, 0.01, 0.03, 0.02), box(0.02, 0.015, 0.01, 0.01));
    const { mesh, build } = swept(own, LINES.straight);
    expect(build.findings).toEqual([]);
    expect(signedVolume(mesh)).toBeCloseTo(0.06 * 0.04 - 0.03 * 0.02 + 0.01 * 0.01, 7);
    expect(topologyOf(mesh)).toMatchObject({ openEdges: 0, shells: 2 });
    // the way its paths go round says nothing
    const turned = profile(...own.paths.map((one) => ({ ...one, points: one.points.toReversed() })));
    expect(signedVolume(swept(turned, LINES.straight).mesh)).toBeCloseTo(signedVolume(mesh), 9);
  });

  it('has up where it was drawn up, and to the right of who looks along the line what was drawn right', () => {
    // a flag on a mast: on the upper right
    const { mesh } = swept(
      profile(
        path([
          [0, 0],
          [0.01, 0],
          [0.01, 0.03],
          [0.04, 0.03],
          [0.04, 0.05],
          [0, 0.05],
        ]),
      ),
      LINES.straight,
    );
    const at = (y: number) =>
      [...mesh.position.keys()]
        .filter((i) => i % 3 === 1 && Math.abs(mesh.position[i] - y) < 1e-6)
        .map((i) => mesh.position[i + 1]);
    // along +x, up is +y and right is +z
    const [low, high] = [at(-0.025), at(0.025)];
    expect([Math.min(...low), Math.max(...low)].map((z) => Math.round(1e4 * z))).toEqual([-200, -100]);
    expect([Math.min(...high), Math.max(...high)].map((z) => Math.round(1e4 * z))).toEqual([-200, 200]);
  });

  it('has a picture in a list: its outlines, or a frame where there is nothing to sweep', () => {
    const picture = profilePicture(profile(box(0, 0, 0.04, 0.02), box(0.01, 0.005, 0.01, 0.01)));
    expect(picture.match(/M/g)).toHaveLength(2);
    const numbers = picture.match(/-?[\d.]+/g)?.map(Number) ?? [];
    expect([Math.min(...numbers), Math.max(...numbers)]).toEqual([-1, 1]);
    expect(profilePicture(profile())).not.toBe(picture);
  });

  it('of smooth points is as round as they are: a circle through eight has its area within two hundredths, and its normals', () => {
    const { mesh } = swept(profile(circle(0.3, -0.2, 0.02)), LINES.straight, { cuts: 0 });
    expect(signedVolume(mesh) / (Math.PI * 0.02 ** 2)).toBeGreaterThan(0.98);
    expect(signedVolume(mesh) / (Math.PI * 0.02 ** 2)).toBeLessThan(1.001);
    for (let i = 0; i < mesh.position.length; i += 3) {
      const [, y, z] = mesh.position.subarray(i, i + 3);
      const [nx, ny, nz] = mesh.normal.subarray(i, i + 3);
      if (Math.abs(nx) > 0.5) continue;
      expect((y * ny + z * nz) / Math.hypot(y, z)).toBeGreaterThan(Math.cos(0.05));
    }
  });

  it('of arcs is as round as those: a slot of two half circles and a corner rounded out or in have the areas of any handbook', () => {
    const arcs = (...points: [number, number, number][]): Path => ({
      closed: true,
      points: points.map(([x, y, bulge]) => ({ x, y, corner: true, ...(bulge ? { bulge } : {}) })),
    });
    const r = 0.01;
    const slot = arcs([-0.03, -r, 0], [0.03, -r, 1], [0.03, r, 0], [-0.03, r, 1]);
    expect(signedVolume(swept(profile(slot), LINES.straight).mesh)).toBeCloseTo(0.06 * 2 * r + Math.PI * r * r, 5);
    // a quarter of a turn: the segment under its chord is r²(π/2 − 1)/2
    const quarter = Math.tan(Math.PI / 8);
    const segment = (r * r * (Math.PI / 2 - 1)) / 2;
    const triangle = (bulge: number) => arcs([0, 0, 0], [r, 0, bulge], [0, r, 0]);
    for (const [bulge, sign] of [
      [quarter, 1],
      [-quarter, -1],
    ] as const) {
      const { mesh, build } = swept(profile(triangle(bulge)), LINES.straight);
      // chords of 0.2 rad leave out 1 − sin φ/φ of the quarter circle
      const least = (1 - Math.sin(0.2) / 0.2) * (Math.PI / 4) * r * r;
      expect(Math.abs(signedVolume(mesh) - (r * r) / 2 - sign * segment)).toBeLessThan(1.05 * least);
      expect(build.findings).toEqual([]);
      expect(topologyOf(mesh).openEdges).toBe(0);
    }
  });

  it('whatever it is, sweeps along whatever is bent to one sound body (manifold-3d)', () => {
    const spokes = fc.array(fc.double({ min: 0.3, max: 1, noNaN: true }), { minLength: 3, maxLength: 9 });
    fc.assert(
      fc.property(spokes, fc.boolean(), fc.boolean(), evenly(-2, 2), (far, corner, hollow, twist) => {
        const round = (size: number): Path =>
          path(
            far.map((r, k): [number, number] => {
              const angle = (2 * Math.PI * k) / far.length;
              return [size * r * Math.cos(angle), size * r * Math.sin(angle)];
            }),
            corner,
          );
        const own = profile(round(0.03), ...(hollow ? [round(0.012)] : []));
        fc.pre(ownSection(own, 1, 1).crossing === undefined);
        const { mesh } = swept(own, LINES.bent, { twist });
        for (const array of [mesh.position, mesh.normal, mesh.uv]) expect(array.every(Number.isFinite)).toBe(true);
        const welded = new manifold.Mesh({ numProp: 3, vertProperties: mesh.position, triVerts: mesh.index });
        welded.merge();
        const body = new manifold.Manifold(welded);
        expect(body.status()).toBe('NoError');
        expect(body.genus()).toBe(hollow ? 1 : 0);
        expect(body.volume()).toBeGreaterThan(0);
        body.delete();
      }),
      { numRuns: 60 },
    );
  });

  it('that is not there, does not close, encloses nothing or crosses itself is reported, and something is made', () => {
    const good = box(0, 0, 0.04, 0.02);
    const codes = (own: Profile, change: object = {}) => reported(own, change).map(({ code }) => code);
    expect(codes(profile(good))).toEqual([]);
    expect(codes(profile(good), { profile: '' })).toContain('profile-missing');
    expect(codes(profile(good), { profile: 'gone' })).toContain('profile-missing');
    expect(
      codes(
        profile(
          path([
            [0, 0],
            [1, 0],
            [2, 0],
          ]),
        ),
      ),
    ).toContain('profile-empty');
    expect(codes(profile(good, { ...good, closed: false }))).toContain('profile-open');
    const bow = profile(
      path([
        [0, 0],
        [0.04, 0.02],
        [0.04, 0],
        [0, 0.03],
      ]),
    );
    const [crossing] = reported(bow).filter(({ code }) => code === 'profile-crosses');
    expect(crossing.message).toContain('intersects itself at 24.0, 12.0 mm');
    for (const own of [
      bow,
      profile(),
      profile(
        path([
          [0, 0],
          [1, 0],
          [2, 0],
        ]),
      ),
    ])
      expect(swept(own, LINES.bent).mesh.index.length).toBeGreaterThan(0);
  });

  it.each(FORMS.map(({ value }) => value))(
    'a ready-made %s can be drawn on: its paths enclose what it does',
    (form) => {
      const paths = formPaths(form, 0.04);
      const own = profile(...paths);
      const { section, left, crossing } = ownSection(own, profileSize(own)?.width ?? 1, 1);
      const numbers = { width: 1, sides: 64, points: 6, wall: 0.2, depth: 0.35, rounding: 0 };
      expect(left).toBe(0);
      expect(crossing).toBeUndefined();
      // few points represent its curves
      expect((section?.area ?? 0) / formSection(form, numbers).area).toBeCloseTo(1, 1);
      expect(paths.flatMap(({ points }) => points).length).toBeLessThan(60);
    },
  );

  it('of open paths alone is a sheet, seen from both sides, with the corners it was drawn with', () => {
    // a gutter: up, across, up; and a smooth wave
    const gutter = {
      ...path([
        [-0.04, 0.03],
        [-0.04, 0],
        [0.04, 0],
        [0.04, 0.03],
      ]),
      closed: false,
    };
    const wave = {
      ...path(
        [
          [-0.04, 0],
          [-0.01, 0.02],
          [0.02, -0.01],
          [0.04, 0],
        ],
        false,
      ),
      closed: false,
    };
    for (const own of [gutter, wave]) {
      expect(reported(profile(own)).map(({ code }) => code)).toEqual([]);
      const { mesh, build } = swept(profile(own), LINES.straight);
      const { section } = ownSection(profile(own), 1, 1);
      // both faces, each as long as the line
      const area = (m: typeof mesh) => {
        let sum = 0;
        for (let f = 0; f < m.index.length; f += 3) {
          const [a, b, c] = [0, 1, 2].map((k) => m.position.subarray(3 * m.index[f + k], 3 * m.index[f + k] + 3));
          const [u, v] = [b, c].map((p) => [p[0] - a[0], p[1] - a[1], p[2] - a[2]]);
          sum += Math.hypot(u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]) / 2;
        }
        return sum;
      };
      expect(section?.open).toBe(true);
      expect(signedVolume(mesh)).toBeCloseTo(0, 9);
      const [long] = curveLengths(build.guide);
      if (own === gutter) expect(area(mesh) / (2 * 0.14 * long)).toBeCloseTo(1, 5);
      else expect(area(mesh)).toBeGreaterThan(2 * 0.08 * long);
      expect(mesh.normal.every(Number.isFinite)).toBe(true);
    }
    // sharp corners have two normals each, on both sides
    expect(ownSection(profile(gutter), 8 / 3, 1).section?.x.length).toBe(2 * 6);
    // a straight line is a strip
    const strip = {
      ...path([
        [-0.03, 0],
        [0.03, 0],
      ]),
      closed: false,
    };
    expect(swept(profile(strip), LINES.bent).mesh.position.every(Number.isFinite)).toBe(true);
  });

  it('with more points than can be seen is swept with fewer', () => {
    const many = Array.from({ length: 5000 }, (_, k): [number, number] => [
      0.05 * Math.cos((k * Math.PI) / 2500),
      0.05 * Math.sin((k * Math.PI) / 2500),
    ]);
    const { section } = ownSection(profile(path(many, false)), 1, 20);
    expect(section?.x.length).toBeLessThan(2100);
    expect(section?.area).toBeCloseTo(Math.PI, 2);
  });
});

describe('a drawn path', () => {
  type Point = { x: number; y: number; corner: boolean; bulge?: number };
  const point = (x: number, y: number, more: Partial<Point> = {}): Point => ({ x, y, corner: true, ...more });
  const path = (points: Point[], closed = false) => ({ closed, points }) as ProfilePath;

  it('an arc goes through both its points on one circle, on the side and as far off as its bulge says (bulge = tan of a quarter of its turn)', () => {
    for (const bulge of [0.2, 1, 2.5, -0.4, -1]) {
      const { places, point: of } = drawnPath(path([point(0, 0, { bulge }), point(2, 1), point(3, 1)]));
      const chord = Math.hypot(2, 1);
      const radius = (chord * (1 + bulge * bulge)) / (4 * Math.abs(bulge));
      const off = (1 - bulge * bulge) / (4 * bulge);
      const middle = [1 - off * 1, 0.5 + off * 2];
      const arc = places.filter((_, k) => of[k] === 0);
      expect(arc.length).toBeGreaterThan(5);
      for (const [x, y] of arc)
        expect(Math.abs(Math.hypot(x - middle[0], y - middle[1]) / radius - 1)).toBeLessThan(3e-3);
      // how far it leaves the straight way, to its right
      const sag = arc.map(([x, y]) => (x * 1 - y * 2) / chord);
      const furthest = bulge > 0 ? Math.max(...sag) : Math.min(...sag);
      expect(furthest).toBeCloseTo((bulge * chord) / 2, 2);
      expect(places[0]).toEqual([0, 0]);
      expect(places.at(-1)).toEqual([3, 1]);
    }
  });

  it('says of each place which point it follows; what is beside an arc does not bend it, nor the arc what is beside it', () => {
    const { places, point: of } = drawnPath(
      path([
        point(0, 0),
        point(1, 0, { bulge: 1, corner: false }),
        point(2, 0, { corner: false }),
        point(3, 0, { corner: false }),
        point(4, 0),
      ]),
    );
    expect(of.every((one, k) => k === 0 || one >= of[k - 1])).toBe(true);
    expect([...new Set(of)]).toEqual([0, 1, 2, 3, 4]);
    places.forEach(([x, y], k) => {
      if (of[k] === 1) expect(Math.abs(Math.hypot(x - 1.5, y) - 0.5)).toBeLessThan(3e-3);
      else expect(Math.abs(y)).toBeLessThan(1e-6);
    });
  });

  it('closed it comes round, with an arc over its seam; of less than two points, or of points in one place, it is nothing bent', () => {
    const ring = drawnPath(path([point(0, 0), point(1, 0), point(1, 1, { bulge: 1 })], true));
    const last = ring.places.filter((_, k) => ring.point[k] === 2);
    const radius = Math.SQRT1_2;
    for (const [x, y] of last) expect(Math.abs(Math.hypot(x - 0.5, y - 0.5) - radius)).toBeLessThan(3e-3);
    expect(last.length).toBeGreaterThan(8);
    // open, the last point's arc goes nowhere: all lies on two straight legs
    const open = drawnPath(path([point(0, 0), point(1, 0), point(1, 1, { bulge: 1 })])).places;
    for (const [x, y] of open) expect(Math.min(Math.abs(y), Math.abs(x - 1))).toBeLessThan(1e-9);
    expect(drawnPath(path([point(0, 0)]))).toEqual({ places: [], point: [] });
    expect(
      drawnPath(path([point(0, 0, { bulge: 1 }), point(0, 0), point(1, 0)])).places.every(([x, y]) =>
        Number.isFinite(x + y),
      ),
    ).toBe(true);
  });
});

describe('the small picture of a section', () => {
  it('is its outline, its top up, within −1 to 1; a hole is an outline of its own', () => {
    const numbers = (text: string) => [...text.matchAll(/-?\d+\.\d+/g)].map(Number);
    const square = outlinePath(polygonSection(4));
    // its first corner is the bottom, where its seam is: x of a section points up
    expect(square.startsWith('M-0.000 1.000L') || square.startsWith('M0.000 1.000L')).toBe(true);
    expect([square.match(/M/g)?.length, square.match(/L/g)?.length, square.match(/Z/g)?.length]).toEqual([1, 4, 1]);
    expect(Math.max(...numbers(square).map(Math.abs))).toBe(1);
    const tube = outlinePath(
      formSection('tube', { width: 1, wall: 0.4, points: 6, depth: 0.3, rounding: 0.2, sides: 8 }),
    );
    expect([tube.match(/M/g)?.length, tube.match(/L/g)?.length, tube.match(/Z/g)?.length]).toEqual([2, 16, 2]);
    const flat = numbers(outlinePath(roundedBoxSection(4, 0, 1)));
    expect(Math.max(...flat.filter((_, i) => i % 2 === 0))).toBe(1);
    expect(Math.max(...flat.filter((_, i) => i % 2 === 1))).toBe(0.25);
  });
});
