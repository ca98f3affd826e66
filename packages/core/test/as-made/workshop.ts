import {
  emptyDocument,
  evaluatePiece,
  HOME,
  newPiece,
  newUse,
  type ParameterValues,
  type Profile,
  Surface,
  Surroundings,
  type Unit,
  type UnitUse,
  World,
} from '../../src/index.js';
import { greatest } from '../../src/numeric/lane.js';
import type { BuildContext } from '../../src/unit/unit.js';
import { lineFor, sheet } from '../helpers.js';

// One project with all that a recipe can ask for: lines of every sort, props, another piece, a profile.

type Place = readonly [number, number, number];
interface Line {
  curves: readonly {
    points: readonly Place[];
    closed?: boolean;
    corners?: boolean /** Not at its first point. */;
    but?: boolean;
    lanes?: boolean;
  }[];
  /** What makes the lines, where they are not drawn. */
  path?: UnitUse;
}

const side = (points: readonly Place[], by: number): Place[] => points.map(([x, y, z]) => [x, y + by / 3, z + by]);
const BENT: Place[] = [
  [0, 0, 0],
  [0.3, 0.06, 0.08],
  [0.6, 0, -0.05],
  [0.9, 0.1, 0],
];
/** The ring made smaller about its middle, and put aside. */
const within = (share: number, aside: number): Place[] =>
  RING.map(([x, y, z]) => [share * x + aside, share * y, share * z]);
const RING: Place[] = [
  [0.4, 0, 0],
  [0.28, 0.02, 0.3],
  [-0.1, 0, 0.4],
  [-0.4, 0.03, 0.05],
  [0, 0, -0.42],
];
const wheels = (change: ParameterValues): UnitUse => ({
  ...newUse('path', 'wheels'),
  parameters: {
    ...newUse('path', 'wheels').parameters,
    radius: 0.1,
    ...change,
    wheels: [
      { id: 'a', position: [0, 0, 0] },
      { id: 'b', position: [0.6, 0, 0], radius: 0.07 },
      { id: 'c', position: [0.3, 0.12, 0], outside: true, radius: 0.05 },
      { id: 'd', position: [0.3, 0.4, 0] },
    ],
  },
});

export const LINES: Readonly<Record<string, Line>> = {
  bent: { curves: [{ points: BENT }] },
  drawn: { curves: [{ points: BENT, lanes: true }] },
  cornered: {
    curves: [
      {
        points: [
          [0, 0, 0],
          [0.5, 0, 0],
          [0.5, 0, 0.5],
          [0.5, 0.4, 0.5],
        ],
        corners: true,
      },
    ],
  },
  ring: { curves: [{ points: RING, closed: true }] },
  square: {
    curves: [
      {
        points: [
          [0.2, 0, 0],
          [0.6, 0, 0],
          [0.6, 0, 0.6],
          [0, 0, 0.6],
          [0, 0, 0],
        ],
        closed: true,
        corners: true,
        but: true,
        lanes: true,
      },
    ],
  },
  rings: {
    curves: [
      { points: RING, closed: true },
      { points: within(0.4, 0), closed: true },
      { points: within(0.15, 0), closed: true },
      { points: within(0.5, 1), closed: true },
    ],
  },
  eight: {
    curves: [
      {
        points: [
          [0, 0, 0],
          [0.7, 0, 0.6],
          [0.6, 0, 0],
          [0, 0, 0.25],
        ],
        closed: true,
        corners: true,
      },
      {
        points: [
          [1, 0, 0],
          [1.3, 0.5, 0.4],
          [1.4, 0.1, 0],
          [1, 0.3, 0.3],
        ],
        closed: true,
        corners: true,
      },
    ],
  },
  upright: {
    curves: [
      {
        points: [
          [0, 0, 0],
          [0.02, 0.5, 0.01],
          [0.3, 0.8, 0],
          [0.32, 0.3, 0.1],
        ],
      },
    ],
  },
  several: { curves: [{ points: BENT }, { points: side(BENT, 0.12) }, { points: side(BENT, -0.15), lanes: true }] },
  wheels: { curves: [], path: wheels({}) },
  'tilted wheels': { curves: [], path: wheels({ tilt: 0.15, crossed: true }) },
};

/** A profile of a project: a lug with a bulge, which has a hole. */
const LUG: Profile = {
  id: 'lug',
  name: 'Lug',
  paths: [
    {
      closed: true,
      points: [
        [-0.05, -0.03],
        [0.05, -0.03],
        [0.05, 0.02],
        [0, 0.05],
      ].map(([x, y], i) => ({ x, y, corner: i !== 3, ...(i === 0 && { bulge: -0.3 }) })),
    },
    {
      closed: true,
      points: [
        [-0.02, -0.01],
        [0.02, -0.01],
        [0, 0.015],
      ].map(([x, y]) => ({ x, y, corner: true })),
    },
  ],
};

/** A floor close below the lines, and two tubes that are open towards each other at the ends of the bent one. */
const PROPS: Readonly<Record<string, Surface>> = {
  cloth: sheet(12, 12, (s, t) => [2 * s - 0.8, -0.02 + 0.01 * Math.sin(9 * s + 4 * t), 2 * t - 1]),
  near: tube(-0.3, 0, 0, 0.04),
  far: tube(1.2, 0.9, 0.1, 0.05),
};

/** A tube along x, open at both ends. */
function tube(from: number, to: number, y: number, radius: number): Surface {
  const sides = 14;
  const place = (i: number) => [
    Math.floor(i / sides) === 0 ? from : to,
    y + radius * Math.cos((2 * Math.PI * i) / sides),
    radius * Math.sin((2 * Math.PI * i) / sides),
  ];
  const face = (k: number) => [k, (k + 1) % sides, sides + k, (k + 1) % sides, sides + ((k + 1) % sides), sides + k];
  const all = (count: number) => Array.from({ length: count }, (_, i) => i);
  return Surface.of({
    position: Float32Array.from(all(2 * sides).flatMap(place)),
    index: Uint32Array.from(all(sides).flatMap(face)),
  });
}

/** Lines of what is fine, or consists of many, need not be long for all to be seen. */
function sizeFor({ id, shelf }: Unit<'make'>, parameters: ParameterValues): number {
  return shelf === 'strands' ? 5 * greatest(parameters['radius'] as number) : id === 'coil' ? 0.3 : lineFor(id);
}

/** What a make unit makes along one of the lines, and what it says of that without making it. */
export function builtOn(line: keyof typeof LINES, unit: Unit<'make'>, parameters: ParameterValues) {
  const document = emptyDocument('Workshop');
  const size = sizeFor(unit, parameters);
  const { curves, path } = LINES[line];
  document.curves = [
    ...curves,
    {
      points: [
        [0, 0.4, 0.4],
        [0.9, 0.3, 0.4],
      ] as Place[],
    },
  ].map((one, k) => {
    const { points, closed = false, corners = false, but = false, lanes = false } = one as Line['curves'][number];
    return {
      id: `line ${k}`,
      name: `Line ${k}`,
      closed,
      points: points.map(([x, y, z], i) => ({
        position: [size * x, size * y, size * z] as [number, number, number],
        corner: corners && !(but && i === 0),
        radius: lanes ? 1 - 0.2 * (i % 2) : 1,
        ...(lanes && { roll: 0.25 * i }),
      })),
    };
  });
  const ids = document.curves.map(({ id }) => id);
  const piece = newPiece('piece', 'Piece', ids.slice(0, -1), false);
  if (path) piece.path = path;
  piece.make = { ...piece.make, unit: unit.id, parameters };
  document.pieces = [piece, newPiece('other', 'Other', ids.slice(-1), false)];
  document.profiles = [LUG];
  document.props = Object.keys(PROPS).map((id) => ({
    id,
    name: id,
    mesh: id,
    placement: { ...HOME, scale: size },
    visible: true,
    colour: '#cccccc',
  }));
  const surroundings = propsAt(size);
  const build = evaluatePiece(new World(document, surroundings), piece, { density: 0.5 });
  const context = { density: 0.5, surroundings, profile: () => LUG, piece: () => undefined } as unknown as BuildContext;
  const said = {
    cost: unit.cost?.(build.guide, parameters, context),
    described: unit.describe(parameters, (metres) => metres.toFixed(6)),
    thick: greatest(unit.thickness?.(parameters) ?? 0),
    broad: greatest(unit.breadth?.(parameters) ?? 0),
  };
  return { ...build, said };
}

const placed = new Map<number, Surroundings>();

/** The props at some size, made once. */
function propsAt(size: number): Surroundings {
  const at = (): Surroundings =>
    new Surroundings(new Map(Object.entries(PROPS).map(([id, one]) => [id, one.at({ ...HOME, scale: size })])));
  if (!placed.has(size)) placed.set(size, at());
  return placed.get(size)!;
}
