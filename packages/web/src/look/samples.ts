import {
  copyMesh,
  curvesParameter,
  type DrawnCurve,
  emptyDocument,
  emptyMesh,
  evaluatePiece,
  findUnit,
  HOME,
  type KelpDocument,
  MAIN_SLOT,
  type Mesh,
  mergeMeshes,
  newPiece,
  newShape,
  newUse,
  type Piece,
  polygonSection,
  roundedBoxSection,
  roundSection,
  type SampleLine,
  type Stage,
  SurfaceStore,
  singleCurve,
  sizeParameter,
  sweep,
  type UnitUse,
  World,
  withComputedNormals,
} from '@kelp/core';
import { ready } from '../evaluation/ready.js';
import type { Sitter } from './photograph.js';
import { sittersOf } from './sitters.js';

type Point = readonly [number, number, number];

const line = (id: string, points: readonly Point[], corner = false): DrawnCurve => ({
  id,
  name: id,
  closed: false,
  points: points.map(([x, y, z]) => ({ position: [x, y, z], corner, radius: 1 })),
});

/** About a third of a metre of line each. */
const LINES: Record<SampleLine, DrawnCurve> = {
  bent: line('bent', [
    [-0.15, 0, 0.05],
    [-0.07, 0.015, -0.03],
    [0.02, 0.03, 0.025],
    [0.09, 0.02, -0.02],
    [0.16, 0.05, 0.01],
  ]),
  zigzag: line(
    'zigzag',
    [
      [-0.16, 0, 0.04],
      [-0.08, 0, -0.05],
      [0, 0, 0.05],
      [0.08, 0, -0.05],
      [0.16, 0, 0.04],
    ],
    true,
  ),
  crossing: line('crossing', [
    [-0.12, 0.012, -0.08],
    [0.12, 0.012, 0.08],
  ]),
  posts: line('posts', [
    [-0.17, 0.1, 0],
    [0, 0.1, 0.02],
    [0.17, 0.1, 0],
  ]),
  over: line('over', [
    [-0.2, 0.06, 0.05],
    [0, 0.06, -0.03],
    [0.2, 0.06, 0.05],
  ]),
  leaf: {
    ...line('leaf', [
      [-0.17, 0.02, 0.02],
      [-0.08, 0.02, -0.06],
      [0.06, 0.02, -0.065],
      [0.18, 0.02, 0.01],
      [0.07, 0.02, 0.075],
      [-0.09, 0.02, 0.065],
    ]),
    closed: true,
  },
  columns: line('columns', [
    [-0.11, 0, 0],
    [0.11, 0, 0],
  ]),
};

/** A bar to lie on, to be sliced and to have edges. */
const bar = (): Mesh => sweep(singleCurve([-0.2, -0.06, 0, 0.2, -0.06, 0]), polygonSection(4), { radius: 0.07 });

/** A board that lies flat, so that what is on it is seen from above. */
const board = (): Mesh =>
  sweep(singleCurve([-0.23, -0.012, 0.01, 0.23, -0.012, 0.01]), roundedBoxSection(11, 0.6, 4), { radius: 0.012 });

/** A bent sheet, for strands to run over from its upper edge. */
function shell(): Mesh {
  const [rows, columns] = [12, 16];
  const mesh = emptyMesh();
  const at: number[] = [];
  const index: number[] = [];
  for (let r = 0; r <= rows; r++)
    for (let c = 0; c <= columns; c++) {
      const turn = (0.62 * Math.PI * r) / rows;
      at.push(
        0.34 * (c / columns - 0.5) * (1 - (0.25 * r) / rows),
        0.12 * Math.cos(turn),
        0.17 * Math.sin(turn) - 0.08,
      );
      if (r === rows || c === columns) continue;
      const k = r * (columns + 1) + c;
      index.push(k, k + columns + 1, k + columns + 2, k, k + columns + 2, k + 1);
    }
  return withComputedNormals({
    ...mesh,
    position: Float32Array.from(at),
    uv: new Float32Array((2 * at.length) / 3),
    index: Uint32Array.from(index),
  });
}

/** Two short columns, thinner towards their tops, where the line from one to the other ends. */
const columns = (): Mesh =>
  mergeMeshes(
    [-0.11, 0.11].map((x) =>
      sweep(singleCurve([x, -0.09, 0, x, 0, 0]), roundSection(32), { radius: Float32Array.of(0.05, 0.03) }),
    ),
  );

const RADIUS = 0.008;

/** A make unit with its size set, whatever that is called. */
function sized(use: UnitUse, size: number): UnitUse {
  const name = sizeParameter(use.unit);
  return name ? { ...use, parameters: { ...use.parameters, [name]: size } } : use;
}

/** A unit at work on a small sample: what it makes, and for a shape the line as it was, pale. */
export async function sampleOf(stage: Stage, unit: string, preset?: string): Promise<Sitter[]> {
  const {
    lines = ['bent'],
    before = [],
    path,
    make,
    parameters = {},
    bar: onBar,
    columns: onColumns,
  } = findUnit(unit)?.presets.find(({ id }) => id === preset)?.sample ?? findUnit(unit)?.sample ?? {};
  const document: KelpDocument = { ...emptyDocument('Sample'), curves: Object.values(LINES) };
  const plain = (id: string, curves: readonly string[]): Piece => {
    const piece = newPiece(id, id, curves, false);
    return { ...piece, make: sized(piece.make, RADIUS) };
  };
  const use = newUse(stage, unit, preset);
  const set = { ...use, parameters: { ...use.parameters, ...parameters } };
  const piece = plain('sample', lines);
  piece.shape = before.map(([id, given]) => newShape(id, given));
  if (path) piece.path = { unit: path[0], parameters: { ...newUse('path', path[0]).parameters, ...path[1] } };
  if (make) piece.make = { unit: make[0], parameters: { ...newUse('make', make[0]).parameters, ...make[1] } };
  if (stage === 'shape') piece.shape.push({ ...set, enabled: true });
  else if (stage === 'path') piece.path = curvesParameter(unit) ? piece.path : set;
  else if (stage === 'make') piece.make = set;
  else {
    piece.dress = { [MAIN_SLOT]: set };
    if (!make) piece.make = newPiece('', '', [], false).make;
  }
  const surfaces = new SurfaceStore();
  const sitters: Sitter[] = [];
  if (onBar || onColumns) {
    const mesh = onBar === 'board' ? board() : onBar === 'shell' ? shell() : onBar ? bar() : columns();
    surfaces.add('bar', mesh);
    document.props.push({ id: 'bar', name: 'Bar', mesh: 'bar', placement: HOME, visible: true, colour: '#cfcdc2' });
    sitters.push({ mesh, material: { name: 'Bar', colour: '#cfcdc2', roughness: 0.8, metalness: 0 } });
  }
  document.pieces = [piece, plain('other', ['bent'])];
  await ready(document);
  const made = (which: Piece, colour?: string): Sitter[] =>
    sittersOf(evaluatePiece(new World(document, surfaces.surroundings(document)), which)).map(({ mesh, material }) => ({
      // a piece that is made again would write over what this one shows
      mesh: copyMesh(mesh),
      material: { ...material, ...(colour ? { colour } : {}) },
    }));
  // of very many lines the pale ones would hide the others
  if (stage === 'shape' && !path) {
    const old = { ...piece, shape: [], make: sized(piece.make, RADIUS / 3) };
    sitters.push(...made(old, '#c9d2c6'));
  }
  return [...sitters, ...made(piece, stage === 'dress' || stage === 'make' ? undefined : '#2f6e92')];
}
