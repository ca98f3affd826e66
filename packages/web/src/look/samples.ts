import {
  type DrawnCurve,
  emptyDocument,
  evaluatePiece,
  HOME,
  type KelpDocument,
  type Mesh,
  newPiece,
  newShape,
  newUse,
  type ParameterValues,
  type Piece,
  polygonSection,
  type Stage,
  SurfaceStore,
  singleCurve,
  sweep,
} from '@kelp/core';
import type { Sitter } from './photograph.js';

type Point = readonly [number, number, number];

const line = (id: string, points: readonly Point[], corner = false): DrawnCurve => ({
  id,
  name: id,
  closed: false,
  points: points.map(([x, y, z]) => ({ position: [x, y, z], corner, radius: 1 })),
});

/** About a third of a metre of line with a bend or two, and others for units that need more than one. */
const LINES = {
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
};

/** A bar to lie on, to be sliced and to have edges. */
const bar = (): Mesh => sweep(singleCurve([-0.2, -0.06, 0, 0.2, -0.06, 0]), polygonSection(4), { radius: 0.07 });

interface Setting {
  lines?: readonly (keyof typeof LINES)[];
  /** Units that come before the one that is shown. */
  before?: readonly (readonly [string, ParameterValues])[];
  parameters?: ParameterValues;
  bar?: boolean;
}

/** What a unit is shown on, where that is not one bent line. */
const SETTINGS: Record<string, Setting> = {
  helix: { parameters: { radius: 0.06, height: 0.2 } },
  figure: { parameters: { radius: 0.12 } },
  edges: { parameters: { prop: 'bar' }, bar: true },
  contours: { parameters: { prop: 'bar', axis: 'x', spacing: 0.06, off: 0.01 }, bar: true },
  carried: { parameters: { piece: 'other' } },
  cling: { lines: ['over'], bar: true },
  sag: { lines: ['posts'], parameters: { by: 'drop', drop: 0.09 } },
  smooth: { lines: ['zigzag'], parameters: { over: 8 } },
  resample: { parameters: { spacing: 0.07 } },
  wobble: { parameters: { strength: 2, waves: 7 } },
  trim: { parameters: { by: 'length', offStart: 0.08, offEnd: 0.05 } },
  slide: { lines: ['posts'], parameters: { along: 'other', shape: 1 } },
  mirror: { parameters: { at: [0.17, 0, 0] } },
  repeat: { parameters: { count: 5, step: [0, 0, 0.05] } },
  vary: {
    before: [['repeat', { count: 7, step: [0, 0, 0.04] }]],
    parameters: { thickness: { least: 0.4, most: 1.8 } },
  },
  'keep-apart': { lines: ['bent', 'crossing'] },
};

const RADIUS = 0.008;

/** A unit at work on a small sample: what it makes, and for a shape the line as it was, pale. */
export function sampleOf(stage: Stage, unit: string, preset?: string): Sitter[] {
  const { lines = ['bent'], before = [], parameters = {}, bar: onBar } = SETTINGS[unit] ?? {};
  const document: KelpDocument = { ...emptyDocument('Sample'), curves: Object.values(LINES) };
  const plain = (id: string, curves: readonly string[]): Piece => {
    const piece = newPiece(id, id, curves, false);
    return { ...piece, make: { ...piece.make, parameters: { ...piece.make.parameters, radius: RADIUS } } };
  };
  const use = newUse(stage, unit, preset);
  const set = { ...use, parameters: { ...use.parameters, ...parameters } };
  const piece = plain('sample', lines);
  if (stage === 'shape') piece.shape = [...before.map(([id, given]) => newShape(id, given)), { ...set, enabled: true }];
  else if (stage === 'path') piece.path = 'curves' in set.parameters ? piece.path : set;
  else if (stage === 'make') piece.make = set;
  else {
    piece.dress = set;
    piece.make = newUse('make', 'cable');
  }
  const surfaces = new SurfaceStore();
  const sitters: Sitter[] = [];
  if (onBar) {
    const mesh = bar();
    surfaces.add('bar', mesh);
    document.props.push({ id: 'bar', name: 'Bar', mesh: 'bar', placement: HOME, visible: true, colour: '#cfcdc2' });
    sitters.push({ mesh, material: { name: 'Bar', colour: '#cfcdc2', roughness: 0.8, metalness: 0 } });
  }
  document.pieces = [piece, plain('other', ['bent'])];
  const { surroundings, key } = surfaces.surroundings(document);
  const made = (which: Piece, colour?: string): Sitter[] => {
    const { parts, materials } = evaluatePiece(document, which, surroundings, key);
    return parts.map(({ mesh, slot }) => ({ mesh, material: { ...materials[slot], ...(colour ? { colour } : {}) } }));
  };
  if (stage === 'shape') {
    const old = { ...piece, shape: [], make: newUse('make', 'cable') };
    old.make.parameters['radius'] = RADIUS / 3;
    sitters.push(...made(old, '#c9d2c6'));
  }
  return [...sitters, ...made(piece, stage === 'dress' || stage === 'make' ? undefined : '#2f6e92')];
}
