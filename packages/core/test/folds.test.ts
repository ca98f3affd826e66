import fc from 'fast-check';
import { expect, it } from 'vitest';
import {
  applyFix,
  type CurveSet,
  evaluatePiece,
  type Mesh,
  newUse,
  type Profile,
  Surroundings,
  topologyOf,
  World,
} from '../src/index.js';
import { evenly } from './helpers.js';
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

const SLIVER = 2e-4;

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
    const mean = [0, 1, 2].map(
      (k) => normal[3 * index[f] + k] + normal[3 * index[f + 1] + k] + normal[3 * index[f + 2] + k],
    );
    const length = Math.hypot(...mean);
    // what is drawn together has slivers, which look anywhere: those thinner than a fifth of a millimetre are left out
    const longest = Math.max(Math.hypot(...u), Math.hypot(...v));
    if (size > SLIVER * longest && length > 0.1)
      worst = Math.min(worst, (cross[0] * mean[0] + cross[1] * mean[1] + cross[2] * mean[2]) / size / length);
  }
  return worst;
}

const HAIRPIN: Place[] = [
  [0, 0, 0],
  [0.5, 0, 0],
  [0.53, 0.03, 0],
  [0.5, 0.06, 0],
  [0, 0.06, 0],
];

it('a bend tighter than the section has inverted faces as it comes; creased, as it is by itself, it has none, is reported so, and is as closed', () => {
  const across = evenly(-0.02, 0.02);
  const forms = fc.constantFrom('round', 'box', 'polygon', 'half-round', 'channel');
  fc.assert(
    fc.property(forms, across, across, evenly(-1, 1), (form, y, z, roll) => {
      const points = HAIRPIN.map(([px, py, pz], i): Place => [px, py + (i === 2 ? y : 0), pz + (i > 2 ? z : 0)]);
      const make = { form, roll, rounding: 0 };
      const through = built(tight(points, { ...make, folds: 'through' }));
      const limited = built(tight(points, make));
      const [folded, creased] = [through, limited].map(({ parts, made }) =>
        parts[0]?.kind === 'mesh' ? leastStep(parts[0].mesh, made.bodies[0].curves) : Number.NaN,
      );
      expect(folded).toBeLessThan(-0.05);
      expect(creased).toBeGreaterThan(0);
      const [bend] = limited.findings.filter(({ code }) => code === 'pinch');
      expect(bend).toMatchObject({ severity: 'warning', message: expect.stringContaining('crease') });
      expect(through.findings.find(({ code }) => code === 'pinch')?.severity).toBe('error');
      if (limited.parts[0]?.kind === 'mesh') expect(topologyOf(limited.parts[0].mesh).openEdges).toBe(0);
    }),
    { numRuns: 60 },
  );
});

/** An outline of points about the middle, metres. */
const outline = (...places: [number, number][]): Profile => ({
  id: 'own',
  name: 'Own',
  paths: [{ closed: true, points: places.map(([x, y]) => ({ x, y, corner: true })) }],
});

it('a fold over the seam of a closed line is one fold; a leg that its mitres fill as the section turns on it is reported', () => {
  const over = tight(
    [
      [-0.587, 0.102, -0.201],
      [-0.37, -0.222, 0.067],
      [0.222, -0.29, -0.016],
    ],
    { form: 'own', profile: 'own' },
    true,
  );
  over.profiles = [
    outline(
      [0.039, 0],
      [0.024, 0.029],
      [-0.005, 0.019],
      [-0.024, 0.011],
      [-0.034, -0.016],
      [-0.005, -0.019],
      [0.023, -0.027],
    ),
  ];
  const folded = built(over);
  if (folded.parts[0]?.kind !== 'mesh') throw new Error('A sweep is a mesh');
  expect(leastStep(folded.parts[0].mesh, folded.made.bodies[0].curves)).toBeGreaterThan(-1e-3);

  const places: Place[] = [
    [0.00774, 0.12408, 0.101352],
    [0.181244, -0.260388, 0.3208],
    [0.5684, -0.135568, -0.42848],
    [-0.136116, 0.057604, 0.195144],
  ];
  const filled = tight(places, { form: 'own', profile: 'own', folds: 'through', start: 'flat', end: 'flat' }, true);
  filled.profiles = [
    outline(
      [0.01233350419144, 0],
      [0.004307212940801368, 0.033127676103850937],
      [-0.01235928440222261, 0.022440112690870668],
      [-0.004691260289396978, -0.008517678380905547],
      [0.004327564081425698, -0.0332842009853028],
    ),
  ];
  for (const point of filled.curves[0].points) point.corner = true;
  expect(built(filled).findings.map(({ code }) => code)).toContain('mitre-short');
});

it('two folds that reach into each other from both ends of a straight stretch are one: nothing between them runs back', () => {
  const points: Place[] = [
    [-0.42318, -0.23068, 0.312948],
    [-0.471208, -0.309908, -0.07286],
    [-0.02566, -0.16316, -0.552116],
    [0.132924, -0.279748, -0.589368],
    [0.4208, 0.089192, -0.342284],
    [0.483092, -0.046932, -0.659768],
  ];
  const document = tight(points, { form: 'own', profile: 'own', folds: 'limited' }, true);
  document.profiles = [outline([0.0056, 0], [-0.00451028, 0.019530085], [-0.0028, -0.012124356])];
  const { parts, made: whole } = built(document);
  if (parts[0]?.kind !== 'mesh') throw new Error('A sweep is a mesh');
  expect(leastStep(parts[0].mesh, whole.bodies[0].curves)).toBeGreaterThan(0);
});

it('a closed line that is tightest where it closes is creased there without a gap', () => {
  const drop: Place[] = [
    [0.53, 0.03, 0],
    [0.5, 0.06, 0.01],
    [0, 0.2, 0],
    [0, -0.2, 0.1],
    [0.5, 0, 0],
  ];
  for (const form of ['round', 'box']) {
    const document = tight(drop, { form, folds: 'limited' }, true);
    const made = built(document);
    expect(made.findings.map(({ code }) => code)).toContain('pinch');
    if (made.parts[0]?.kind === 'mesh') expect(topologyOf(made.parts[0].mesh).openEdges).toBe(0);
    if (made.parts[0]?.kind === 'mesh')
      expect(leastStep(made.parts[0].mesh, made.made.bodies[0].curves)).toBeGreaterThan(0);
  }
});

it('a crease lies where the inner sides of both legs meet, and each side of it looks to where its leg does', () => {
  // an arc of 20 mm, a bar of 40 mm to its side: both inner sides meet 40 mm off both legs
  const points: Place[] = [
    [0, 0, 0],
    [0.5, 0, 0],
    [0.5, 0.5, 0],
  ];
  const document = tight(points, {
    form: 'round',
    corners: 'arc',
    bendRadius: 0.25,
    sides: 32,
    cuts: 400,
    bendStep: 0.05,
  });
  document.curves[0].points[1].corner = true;
  const made = built(document);
  if (made.parts[0]?.kind !== 'mesh') throw new Error('A sweep is a mesh');
  const { position, normal } = made.parts[0].mesh;
  let near = 0;
  for (let i = 0; i < position.length; i += 3) {
    const [x, y, z] = position.subarray(i, i + 3);
    // a place at the very inside of the section, next to the bend
    if (Math.abs(z) > 1e-6 || y < 0.005 || x > 0.495 || Math.hypot(x - 0.5, y) > 0.1) continue;
    near++;
    expect(Math.min(Math.abs(y - 0.04), Math.abs(x - 0.46))).toBeLessThan(0.008);
    expect(x < 0.445 ? normal[i + 1] : y > 0.055 ? -normal[i] : 1).toBeGreaterThan(0.99);
    expect(normal[i + 1] - normal[i]).toBeGreaterThan(0.9);
  }
  expect(near).toBeGreaterThan(20);
});

/** A line that turns back at x = 0.6, 60 mm wide, its middle lifted a little. */
const turnAt = (y: number, lift = 0): Place[] => [
  [0.3, y, 0],
  [0.57, y, 0],
  [0.6, y + 0.03, lift],
  [0.57, y + 0.06, 0],
  [0.3, y + 0.06, 0],
];
const LEGS: Record<string, { points: Place[]; corners?: number[]; closed?: boolean; turns: Place[] }> = {
  'two turns': {
    points: [...turnAt(0), [0.1, 0.4, 0], ...turnAt(0.7)],
    turns: [
      [0.6, 0.03, 0],
      [0.6, 0.73, 0],
    ],
  },
  'between corners': {
    points: [[-0.3, 0.3, 0], [0, 0, 0], ...turnAt(0, 0.01), [0, 0.06, 0], [-0.3, -0.3, 0.1]],
    corners: [1, 7],
    turns: [[0.6, 0.03, 0]],
  },
  'closed over corners': {
    points: [[0, 0, 0], ...turnAt(0, 0.01), [0, 0.06, 0], [-0.4, 0.5, 0], [-0.4, -0.4, 0]],
    corners: [0, 6, 7, 8],
    closed: true,
    turns: [[0.6, 0.03, 0]],
  },
  'closed over a corner': {
    points: [...turnAt(0, 0.01), [0, 0.06, 0], [-0.4, 0.5, 0], [-0.6, 0.1, 0], [-0.5, -0.3, 0], [-0.2, -0.2, 0]],
    corners: [6],
    closed: true,
    turns: [[0.6, 0.03, 0]],
  },
  'closed and smooth': {
    points: [[0, 0, 0], ...turnAt(0, 0.01), [0, 0.4, 0], ...turnAt(0.7), [0, 0.76, 0], [-0.5, 0.4, 0.2]],
    closed: true,
    turns: [
      [0.6, 0.03, 0],
      [0.6, 0.73, 0],
    ],
  },
};

it.each(Object.keys(LEGS))('what folds is creased where it folds, and nothing else is moved: %s', (name) => {
  const { points, corners = [], closed = false, turns } = LEGS[name];
  const make = { form: 'round', cuts: 100, start: 'flat', end: 'flat' };
  const [through, limited] = ['through', 'limited'].map((folds) => {
    const document = tight(points, { ...make, folds }, closed);
    for (const k of corners) document.curves[0].points[k].corner = true;
    // another line of the same piece, before the tight one
    const straight = structuredClone(document.curves[0]);
    Object.assign(straight, {
      id: 'straight',
      closed: false,
      points: [
        [0, 2, 0],
        [0.5, 2, 0],
        [1, 2, 0.1],
      ].map((position) => ({ position, corner: false, radius: 1 })),
    });
    document.curves.push(straight as (typeof document.curves)[0]);
    document.pieces[0].path.parameters['curves'] = ['straight', document.curves[0].id];
    const { parts, made, findings } = built(document);
    if (parts[0]?.kind !== 'mesh') throw new Error('A sweep is a mesh');
    expect(findings.map(({ code }) => code).filter((code) => code !== 'pinch' && code !== 'cuts-itself')).toEqual([]);
    return { mesh: parts[0].mesh, curves: made.bodies[0].curves };
  });
  const far = (i: number) =>
    Math.min(...turns.map((turn) => Math.hypot(...turn.map((value, k) => value - limited.mesh.position[i + k]))));
  let moved = 0;
  for (let i = 0; i < limited.mesh.position.length; i += 3) {
    const same = [0, 1, 2].every((k) => limited.mesh.position[i + k] === through.mesh.position[i + k]);
    if (!same) moved++;
    if (!same) expect(far(i)).toBeLessThan(0.14);
  }
  expect(moved).toBeGreaterThan(40 * turns.length);
  // of the tight line alone
  const { mesh, curves } = limited;
  const first = mesh.position.findIndex((_, i) => i % 3 === 1 && mesh.position[i] < 1.5);
  const from = Math.floor(first / 3);
  const own = {
    ...mesh,
    position: mesh.position.subarray(3 * from),
    uv: mesh.uv.subarray(2 * from),
  };
  const start = Uint32Array.of(0, curves.start[2] - curves.start[1]);
  expect(
    leastStep(own, {
      ...curves,
      start,
      position: curves.position.subarray(3 * curves.start[1]),
      closed: curves.closed.subarray(1),
    }),
  ).toBeGreaterThan(-1e-6);
  expect(topologyOf(mesh).openEdges).toBe(0);
});

it('what turns in itself is drawn in on its inner side alone, the same all round, its order kept, and no face looks inwards', () => {
  for (const form of ['round', 'box'])
    for (const r of [0.012, 0.02, 0.03]) {
      const circle = Array.from(
        { length: 12 },
        (_, k): Place => [r * Math.cos((k * Math.PI) / 6), r * Math.sin((k * Math.PI) / 6), 0],
      );
      const [through, limited] = ['through', 'limited'].map((folds) => built(tight(circle, { form, folds }, true)));
      if (through.parts[0]?.kind !== 'mesh' || limited.parts[0]?.kind !== 'mesh') throw new Error('A sweep is a mesh');
      const [was, is] = [through.parts[0].mesh, limited.parts[0].mesh];
      expect(leastStep(is, limited.made.bodies[0].curves)).toBeGreaterThan(0.1);
      expect(mostTurned(limited)).toBeGreaterThan(0.5);
      const rings = limited.made.bodies[0].curves.start[1];
      const columns = was.position.length / 3 / (rings + 1);
      /** From the axis, in radii, and up, of a place of a ring. */
      const at = ({ position }: Mesh, v: number) => {
        const [x, y, z] = position.subarray(3 * v, 3 * v + 3);
        const angle = (2 * Math.PI * Math.floor(v / columns)) / rings;
        return { far: (x * Math.cos(angle) + y * Math.sin(angle)) / r, z };
      };
      for (let v = 0; v < is.position.length / 3; v++) {
        const [a, b] = [at(was, v), at(is, v)];
        // up to 0.55 of the way to the axis it stays, from there on it is drawn together in a quarter more
        if (a.far > 0.46) expect(b.far).toBeCloseTo(a.far, 2);
        else expect(b.far > 0.13 && b.far < 0.47, `${b.far} was ${a.far}`).toBe(true);
        expect(Math.abs(b.z - a.z)).toBeLessThan(0.002);
        // the same all round: a ring like the one a twelfth of the way further on, place and normal
        const next = (v + (columns * rings) / 12) % (columns * rings);
        expect(at(is, next).far).toBeCloseTo(b.far, 2);
        const [turn, n, m] = [
          Math.PI / 6,
          is.normal.subarray(3 * v, 3 * v + 3),
          is.normal.subarray(3 * next, 3 * next + 3),
        ];
        expect(m[0] * Math.cos(turn) + m[1] * Math.sin(turn)).toBeCloseTo(n[0], 1);
        expect(m[2]).toBeCloseTo(n[2], 1);
      }
      const ring = Array.from({ length: columns }, (_, k) => ({ was: at(was, k).far, is: at(is, k).far }));
      ring.sort((a, b) => a.was - b.was);
      for (let k = 1; k < columns; k++) expect(ring[k].is).toBeGreaterThan(ring[k - 1].is - 1e-3);
    }
});

it('a screw so tight that its inner side folds looks outwards everywhere', () => {
  for (const r of [0.02, 0.03, 0.04]) {
    const screw = Array.from(
      { length: 26 },
      (_, k): Place => [r * Math.cos((k * Math.PI) / 6), r * Math.sin((k * Math.PI) / 6), k / 80],
    );
    const make = { form: 'round', start: 'flat', end: 'flat' };
    const made = ['through', 'limited'].map((folds) => built(tight(screw, { ...make, folds })));
    const steps = made.map(({ parts, made: { bodies } }) =>
      parts[0]?.kind === 'mesh' ? leastStep(parts[0].mesh, bodies[0].curves) : Number.NaN,
    );
    expect(steps[0]).toBeLessThan(-0.05);
    expect(steps[1]).toBeGreaterThan(0);
    expect(mostTurned(made[1])).toBeGreaterThan(0.9);
  }
});

it('a bend that is wide enough is the same to the bit, creased or not', () => {
  const wide: Place[] = [
    [0, 0, 0],
    [0.5, 0.1, 0.2],
    [1, 0, 0],
  ];
  const [a, b] = ['through', 'limited'].map((folds) => built(tight(wide, { folds })).parts[0]);
  if (a.kind !== 'mesh' || b.kind !== 'mesh') throw new Error('A sweep is a mesh');
  expect(b.mesh.position).toEqual(a.mesh.position);
});

it('each of the ways to mend a fold mends it: the line smoother, the section thinner there alone, its inner side creased', () => {
  const document = tight(HAIRPIN, { folds: 'through' });
  const [fold] = built(document).findings.filter(({ severity }) => severity === 'error');
  const ways = [fold.fix, ...(fold.others ?? [])].flatMap((fix) => fix ?? []);
  expect(ways.map(({ label }) => label)).toEqual(['Smooth the line', 'Make it thinner there', 'Crease the inner side']);
  for (const fix of ways.slice(1)) {
    const mended = applyFix(document, 'piece', fix);
    expect(built(mended).findings.filter(({ severity }) => severity === 'error')).toEqual([]);
  }
  const radius = applyFix(document, 'piece', ways[1]).pieces[0].make.parameters['radius'];
  expect(radius).toMatchObject({
    knots: expect.arrayContaining([
      { at: 0, value: 0.04 },
      { at: 1, value: 0.04 },
    ]),
  });
});

it('a mitre that reaches further than its leg is mended by a thinner section there', () => {
  const document = tight(
    [
      [0, 0, 0],
      [0.5, 0, 0],
      [0.5, 0.03, 0],
      [0, 0.03, 0],
    ],
    {},
  );
  for (const point of document.curves[0].points) point.corner = true;
  const [short] = built(document).findings.filter(({ code }) => code === 'mitre-short');
  const thin = [short.fix, ...(short.others ?? [])].find((fix) => fix?.label === 'Make it thinner there');
  if (!thin) throw new Error('There is a way');
  const mended = built(applyFix(document, 'piece', thin));
  expect(mended.findings.filter(({ code }) => code === 'mitre-short')).toEqual([]);
});

it('two corners of one leg that differ share it by what each takes: nothing is inside out where both fit', () => {
  // 40 mm to the side of 130°, and of 40°: together they take 100 mm of a leg of 105
  const [sharp, blunt] = [130, 40].map((degrees) => (degrees * Math.PI) / 180);
  const points: Place[] = [
    [0.3 * Math.cos(sharp), -0.3 * Math.sin(sharp), 0],
    [0, 0, 0],
    [0, 0, 0],
    [0, 0, 0],
  ];
  points[2] = [-0.105, 0, 0];
  points[0] = [-0.3 * Math.cos(Math.PI - sharp), 0.3 * Math.sin(Math.PI - sharp), 0];
  points[3] = [-0.105 - 0.3 * Math.cos(blunt), 0.3 * Math.sin(blunt), 0];
  const document = tight(points, { form: 'box', rounding: 0, cuts: 200 });
  for (const point of document.curves[0].points) point.corner = true;
  const made = built(document);
  expect(made.findings.filter(({ code }) => code === 'mitre-short')).toEqual([]);
  expect(mostTurned(made)).toBeGreaterThan(0.5);
});

it('a corner that turns back on its line is reported, and made smooth it is reported no more', () => {
  const document = tight(
    [
      [0, 0, 0],
      [0.6, 0, 0],
      [0.02, 0.1, 0],
    ],
    { radius: 0.005 },
  );
  document.curves[0].points[1].corner = true;
  const [sharp] = built(document).findings.filter(({ code }) => code === 'corner-sharp');
  expect(sharp.size?.value).toBeCloseTo(Math.PI - Math.atan2(0.1, 0.58), 2);
  expect(sharp.fix?.label).toBe('Smooth the corner');
  const smooth = applyFix(document, 'piece', sharp.fix!);
  expect(built(smooth).findings.map(({ code }) => code)).not.toContain('corner-sharp');
  document.curves[0].points[2].position = [0.5, 0.5, 0];
  expect(built(document).findings).toEqual([]);
});

/** The least way of a place from its ring to the next, along the line there, over that of the line: below 0 its faces are inside out. */
function leastStep({ position, uv }: Mesh, { position: line, start, closed }: CurveSet): number {
  let columns = 1;
  while (uv[2 * columns + 1] === uv[1] && uv[2 * columns] > 0) columns++;
  // at a sharp corner, and where a line closes, two rings stand at one place
  let [point, least] = [0, Infinity];
  for (let ring = 0; point + 1 < start[1] + closed[0]; ring++) {
    const [a, b] = [ring, ring + 1].map((r) => 2 * r * columns + 1);
    if (uv[a] === uv[b]) continue;
    const next = (point + 1) % start[1];
    const step = [0, 1, 2].map((k) => line[3 * next + k] - line[3 * point + k]);
    point++;
    for (let column = 0; column < columns; column++) {
      const at = (r: number, k: number) => position[3 * (r * columns + column) + k];
      const way = step.reduce((sum, value, k) => sum + value * (at(ring + 1, k) - at(ring, k)), 0);
      least = Math.min(least, way / (step[0] ** 2 + step[1] ** 2 + step[2] ** 2));
    }
  }
  return least;
}

/** A profile of its own: an outline round its middle, or one with bays, sharp or smooth. */
const profiles = fc
  .record({
    far: fc.array(evenly(0.35, 1), { minLength: 3, maxLength: 9 }),
    corner: fc.boolean(),
    width: evenly(0.4, 3),
  })
  .map(({ far, corner, width }) => ({
    id: 'own',
    name: 'Own',
    paths: [
      {
        closed: true,
        points: far.map((r, k) => {
          const angle = (2 * Math.PI * k) / far.length;
          return { x: 0.04 * width * r * Math.cos(angle), y: 0.04 * r * Math.sin(angle), corner };
        }),
      },
    ],
  }));

it('a random profile along a random curve, tight, cornered or closed, has no hole, no NaN, and no face inside out where no fold is reported', () => {
  const across = (far: number) => evenly(-far, far);
  const place: fc.Arbitrary<Place> = fc.tuple(across(0.6), across(0.4), across(0.6));
  const curve = fc.record({
    // never back on itself to the bit: what then lies in the same place is welded
    points: fc
      .array(place, { minLength: 3, maxLength: 6 })
      .map((all) => all.map(([x, y, z], i): Place => [x + 0.0137 * i * i, y + 0.0071 * i, z - 0.0053 * i * i]))
      .filter((all) =>
        all.every((a, i) => all.every((b, k) => i === k || Math.hypot(...a.map((v, n) => v - b[n])) > 0.1)),
      ),
    corners: fc.boolean(),
    closed: fc.boolean(),
    folds: fc.constantFrom('through', 'limited'),
  });
  let sound = 0;
  fc.assert(
    fc.property(profiles, curve, (own, { points, corners, closed, folds }) => {
      const document = tight(
        points,
        { form: 'own', profile: 'own', radius: 0.04, folds, start: 'flat', end: 'flat' },
        closed,
      );
      document.profiles = [own];
      for (const point of document.curves[0].points) point.corner = corners;
      const made = built(document);
      if (made.parts[0]?.kind !== 'mesh') throw new Error('A sweep is a mesh');
      const { mesh } = made.parts[0];
      for (const array of [mesh.position, mesh.normal, mesh.uv]) expect(array.every(Number.isFinite)).toBe(true);
      expect(topologyOf(mesh).openEdges).toBe(0);
      const folded = made.findings.filter(({ code, size }) =>
        code === 'pinch'
          ? folds === 'through' && (size?.value ?? 0) <= 1.05 * (size?.limit ?? 0)
          : ['mitre-short', 'corner-sharp'].includes(code),
      );
      if (folded.length > 0 || made.findings.some(({ code }) => code === 'profile-crosses')) return;
      sound++;
      // a leg that its mitres just fill has places that are still
      expect(leastStep(mesh, made.made.bodies[0].curves)).toBeGreaterThan(-1e-3);
    }),
    { numRuns: 200 },
  );
  expect(sound).toBeGreaterThan(40);
});
