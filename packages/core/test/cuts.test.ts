import fc from 'fast-check';
import { BoxGeometry, type BufferGeometry, SphereGeometry } from 'three';
import { expect, it } from 'vitest';
import {
  type AlongValue,
  evaluatePiece,
  newUse,
  type ParameterValues,
  Surface,
  Surroundings,
  World,
} from '../src/index.js';
import { evenly } from './helpers.js';
import { alongPoints } from './projects.js';

type Place = [number, number, number];

/** A closed box of the graphics library, its middle somewhere. */
function boxAt([x, y, z]: Place, size: Place): Surface {
  return surfaceOf(new BoxGeometry(...size).translate(x, y, z));
}

function surfaceOf(geometry: BufferGeometry): Surface {
  const position = Float32Array.from(geometry.toNonIndexed().getAttribute('position').array);
  return Surface.of({ position, index: Uint32Array.from({ length: position.length / 3 }, (_, v) => v) });
}

/** What is reported a round cable of 10 mm radius that cuts into what is there. */
function cutsOf(points: readonly Place[], surface: Surface, closed = false) {
  const { document, piece } = alongPoints(points, ({ make }) => {
    make.parameters['radius'] = 0.01;
  });
  Object.assign(document.curves[0], { closed });
  for (const point of document.curves[0].points) point.corner = true;
  const world = new World(document, new Surroundings(new Map([['box', surface]])));
  return evaluatePiece(world, piece).findings.filter(({ code }) => code === 'cuts-prop');
}

const crate = () => boxAt([0, 0, 0], [1, 0.4, 0.6]);

it('a cable through a box is reported once, at its deepest, with how deep', () => {
  const reported = cutsOf(
    [
      [-2, 0, 0.05],
      [2, 0, 0.05],
    ],
    crate(),
  );
  expect(reported).toHaveLength(1);
  // 0.2 m below its top and bottom, and the section's own radius
  expect(reported[0].size?.value).toBeCloseTo(0.21, 3);
  expect(Math.abs(reported[0].place![0])).toBeLessThan(0.5);
});

it('one that grazes the top is reported by how much its section goes in; one that lies on it is not', () => {
  expect(
    cutsOf(
      [
        [-2, 0.21, 0],
        [2, 0.21, 0],
      ],
      crate(),
    ),
  ).toEqual([]);
  const [reported] = cutsOf(
    [
      [-2, 0.206, 0],
      [2, 0.206, 0],
    ],
    crate(),
  );
  expect(reported.size?.value).toBeCloseTo(0.004, 5);
  expect(reported.place![1]).toBeCloseTo(0.2, 5);
});

it('one that is entirely inside is reported with its depth', () => {
  const reported = cutsOf(
    [
      [-0.3, 0, 0.1],
      [0.3, 0, 0.1],
    ],
    crate(),
  );
  expect(reported).toHaveLength(1);
  expect(reported[0].size?.value).toBeCloseTo(0.21, 3);
});

it('a post through the edge that closes a ring is reported', () => {
  const ring: Place[] = [
    [0, 0, 0],
    [1, 0, 0],
    [1, 0, 1],
    [0, 0, 1],
  ];
  expect(cutsOf(ring, boxAt([0, 0, 0.5], [0.1, 1, 0.1]), true)).toHaveLength(1);
  expect(cutsOf(ring, boxAt([0.5, 0, 0.5], [0.1, 1, 0.1]), true)).toEqual([]);
});

it('behind the faces of an open shell is not inside it', () => {
  const shell = surfaceOf(new SphereGeometry(1, 32, 16, 0, 2 * Math.PI, 0, Math.PI / 2));
  expect(
    cutsOf(
      [
        [-0.3, 0.3, 0.1],
        [0.3, 0.3, 0.1],
      ],
      shell,
    ),
  ).toEqual([]);
});

/** A long blade: its edge is the z axis, its underside level, its upper side so steep. */
function blade(degrees: number): { surface: Surface; top: (x: number) => number } {
  const top = (x: number) => x * Math.tan((degrees * Math.PI) / 180);
  const profile = [
    [0, 0],
    [0.4, 0],
    [0.4, top(0.4)],
  ];
  const position = Float32Array.from([-1, 1].flatMap((z) => profile.flatMap(([x, y]) => [x, y, z])));
  const index = Uint32Array.of(0, 2, 1, 3, 4, 5, 0, 1, 4, 0, 4, 3, 1, 2, 5, 1, 5, 4, 2, 0, 3, 2, 3, 5);
  return { surface: Surface.of({ position, index }), top };
}

/** A cable that clings to a blade, and how deep its surface is in it by the planes of the two sides. */
function overBlade(degrees: number, through: (top: (x: number) => number) => Place[]) {
  const { surface, top } = blade(degrees);
  const { document, piece } = alongPoints(through(top), (one) => {
    one.shape = [{ ...newUse('shape', 'cling'), enabled: true }];
  });
  const build = evaluatePiece(new World(document, new Surroundings(new Map([['blade', surface]]))), piece);
  const [part] = build.parts;
  if (part?.kind !== 'mesh') throw new Error('A cable is a mesh');
  let deepest = 0;
  const { position } = part.mesh;
  const lean = Math.cos((degrees * Math.PI) / 180);
  for (let i = 0; i < position.length; i += 3)
    deepest = Math.max(deepest, Math.min(position[i + 1], (top(position[i]) - position[i + 1]) * lean));
  return { build, deepest };
}

it('a cable led over the edge of a blade bends round it and cuts nowhere in', () => {
  const number = (min: number, max: number) => evenly(min, max);
  fc.assert(
    fc.property(
      number(15, 60),
      number(0.05, 0.3),
      number(0.05, 0.3),
      number(-0.2, 0.2),
      fc.boolean(),
      (degrees, from, to, aside, onEdge) => {
        const { build, deepest } = overBlade(degrees, (top) => [
          [from, top(from), 0],
          ...(onEdge
            ? [[0, 0, aside / 2] as Place]
            : ([
                [0.03, top(0.03), 0.4 * aside],
                [0.03, 0, 0.6 * aside],
              ] as Place[])),
          [to, 0, aside],
        ]);
        expect(build.findings.filter(({ code }) => code === 'cuts-prop')).toEqual([]);
        // what the checks allow where one thing touches another
        expect(deepest).toBeLessThan(0.001);
      },
    ),
    { numRuns: 60 },
  );
});

it('a line drawn just under the edge of a blade stays on its underside', () => {
  for (const x of [0.001, 0.01, 0.1]) {
    const { build } = overBlade(20, () => [
      [x, -0.002, -0.8],
      [x, -0.002, 0],
      [x, -0.002, 0.8],
    ]);
    expect(build.findings).toEqual([]);
    expect(Math.max(...build.guide.position.filter((_, i) => i % 3 === 1))).toBeLessThan(-0.0115);
  }
});

/** What is reported a round cable of 10 mm radius that runs through itself. */
function selfCutsOf(path: { unit: string; parameters: ParameterValues } | readonly Place[], radius: AlongValue = 0.01) {
  const { document, piece } = alongPoints('unit' in path ? [] : path, ({ make }) => {
    make.parameters['radius'] = radius;
  });
  if ('unit' in path) {
    const use = newUse('path', path.unit);
    piece.path = { ...use, parameters: { ...use.parameters, ...path.parameters } };
  }
  const world = new World(document, new Surroundings(new Map()));
  return evaluatePiece(world, piece).findings.filter(({ code }) => code === 'cuts-itself');
}

it('a cable through itself is reported once a crossing, with how deep', () => {
  const loop: Place[] = [
    [-1, 0, 0],
    [0, 0, 0],
    [0.8, 0, 0.4],
    [0.8, 0.012, -0.4],
    [0, 0.012, 0],
    [-1, 0.012, 0.4],
  ];
  const reported = selfCutsOf(loop);
  expect(reported).toHaveLength(1);
  // it passes 12 mm over itself, where 20 are needed
  expect(reported[0].size?.value).toBeCloseTo(0.008, 3);
  const over = loop.map(([x, y, z]): Place => [x, y > 0 ? 0.021 : y, z]);
  expect(selfCutsOf(over)).toEqual([]);
});

it('lines that are fastened together at their ends do not cut there; those that cross on their way do, once', () => {
  const strung = (...places: Place[]) =>
    selfCutsOf({
      unit: 'strung',
      parameters: {
        anchors: places.map((position, k) => ({ on: 'place' as const, id: `p${k}`, position })),
        slack: { least: 0, most: 0 },
      },
    });
  const [a, b, c, d]: Place[] = [
    [0, 0, 0],
    [1, 1, 0],
    [1, 0, 0],
    [0, 1, 0],
  ];
  expect(strung(a, b, c)).toEqual([]);
  const reported = strung(a, b, c, d);
  expect(reported).toHaveLength(1);
  expect(reported[0].place?.map((value) => Math.round(10 * value))).toEqual([5, 5, 0]);
  // two that run into one another beside their ends are not joined
  expect(strung(a, [1, 0.012, 0], [0, 0.012, 0])).not.toEqual([]);
});

it('what tapers to nothing does not run through itself at its tip', () => {
  const to = (value: number): AlongValue => ({
    knots: [
      { at: 0, value: 0.02 },
      { at: 1, value },
    ],
    ease: 'straight',
  });
  const bend: Place[] = [
    [0, 0, 0],
    [0.3, 0.1, 0],
    [0.6, 0, 0.1],
  ];
  for (const tip of [0.001, 1e-5]) expect(selfCutsOf(bend, to(tip))).toEqual([]);
});

it('legs that overlap beside each other are reported as one stretch; a coil that touches is none, one too tight is', () => {
  const hairpin: Place[] = [
    [0, 0, 0],
    [1, 0, 0],
    [1.3, 0, 0.15],
    [1.3, 0, -0.15],
    [1, 0, 0.012],
    [0, 0, 0.012],
  ];
  expect(selfCutsOf(hairpin).length).toBeGreaterThanOrEqual(1);
  // ten turns on a radius of 0.2 m: 20 mm from turn to turn touch, 15 run into each other
  const coil = (height: number) =>
    selfCutsOf({ unit: 'helix', parameters: { turns: 10, height, radius: 0.2, taper: 1 } });
  expect(coil(0.2)).toEqual([]);
  expect(coil(0.15)).toHaveLength(1);
});
