import { newShape, newUse, type ParameterValues, type ShapeUse, type UnitUse } from '@kelp/core';
import { type Farm, free } from '../farm.js';

const lane = (...knots: [number, number][]) => ({
  ease: 'smooth' as const,
  knots: knots.map(([at, value]) => ({ at, value })),
});

/** Strands grown on a prop, in a dress of their own. */
export function coat(
  farm: Farm,
  name: string,
  path: UnitUse,
  shape: ShapeUse[],
  make: ParameterValues,
  [preset, dress]: readonly [preset: string, more?: ParameterValues],
): void {
  farm.along(name, path, shape, {}, {});
  const piece = farm.document.pieces[farm.document.pieces.length - 1];
  piece.make = newUse('make', 'strands');
  Object.assign(piece.make.parameters, make);
  const worn = newUse('dress', 'hair', preset);
  Object.assign(worn.parameters, dress);
  piece.dress = { main: worn };
}

export const grown = (parameters: ParameterValues): UnitUse => {
  const use = newUse('path', 'grown');
  Object.assign(use.parameters, parameters);
  return use;
};

/** Lines drawn in the view that no piece runs along: strokes, partings, marks. */
export function lines(
  farm: Farm,
  name: string,
  all: readonly (readonly (readonly [number, number, number])[])[],
): string[] {
  return all.map((points, k) => {
    const id = `${name.toLowerCase().replaceAll(' ', '-')}-${k + 1}`;
    farm.document.curves.push({
      id,
      name: `${name} ${k + 1}`,
      closed: false,
      points: points.map(([x, y, z]) => free(x, y, z)),
    });
    return id;
  });
}

/** The pup's first coat: combed from head to tail, in soft clumps, with guard hairs and strays. */
export function pupFur(farm: Farm): void {
  const strokes = lines(farm, 'Fur stroke', [
    [
      [0.42, 0.235, -0.1],
      [0.3, 0.3, -0.1],
      [0.15, 0.275, -0.1],
      [-0.1, 0.235, -0.1],
      [-0.36, 0.08, -0.1],
    ],
    [
      [0.41, 0.19, -0.06],
      [0.3, 0.2, -0.005],
      [0.1, 0.12, 0.045],
      [-0.15, 0.1, 0.03],
      [-0.37, 0.05, -0.07],
    ],
    [
      [0.41, 0.19, -0.14],
      [0.3, 0.2, -0.195],
      [0.1, 0.12, -0.245],
      [-0.15, 0.1, -0.23],
      [-0.37, 0.05, -0.13],
    ],
  ]);
  coat(
    farm,
    'Pup fur',
    grown({ prop: 'pup', count: 12_000, length: 0.025, points: 5, evenness: 0.8, seed: 3 }),
    [
      newShape('layers', {
        others: [
          { layer: 'guard', share: 0.1, width: 1.5, length: 1.35, frizz: 0, colour: '#fffaf0' },
          { layer: 'stray', share: 0.03, width: 0.7, length: 1.25, frizz: 2, colour: '#ffffff' },
        ],
      }),
      newShape('cut', { share: { least: 0.75, most: 1 } }),
      newShape('comb', { strokes, reach: 0.2, lift: 0.3, amount: lane([0, 0.55], [1, 0.95]) }),
      newShape('clump', { share: 0.75, tightness: lane([0, 0], [1, 0.55]) }),
      newShape('frizz', { amount: lane([0, 0], [1, 0.09]), waves: 2 }),
    ],
    { radius: 0.001, tip: 0.1, taper: 0.85, bakedAs: 'flat' },
    ['pup-white'],
  );
  // whiskers by hand on one side, the other follows
  const [pole, ...rest] = [0, 1, 2, 3].map((k): [number, number, number][] => {
    const [y, z] = [0.186 - 0.006 * k, -0.078 + 0.004 * k];
    return [
      [0.428 - 0.004 * k, y, z],
      [0.43, y + 0.012 - 0.004 * k, z + 0.035],
      [0.41, y + 0.002 - 0.009 * k, z + 0.075],
    ];
  });
  const path = newUse('path', 'drawn');
  path.parameters['curves'] = lines(farm, 'Whisker', [pole, ...rest]);
  coat(
    farm,
    'Whiskers',
    path,
    [newShape('mirror', { across: 'z', at: [0, 0, -0.1], seam: false })],
    { radius: 0.0006, tip: 0.2, sides: 5 },
    ['pup-white'],
  );
}

/** A scrub brush with its bristles in tufts, and a bottle brush. */
export function brushes(farm: Farm): void {
  coat(
    farm,
    'Scrub bristle',
    grown({ prop: 'scrub-brush', count: 1500, length: 0.03, points: 3, to: 0.2, edges: 0.005, seed: 2 }),
    [
      newShape('cut', { share: { least: 0.94, most: 1 } }),
      newShape('clump', { by: 'length', size: 0.0095, tightness: lane([0, 0.75], [1, 0.25]) }),
    ],
    { radius: 0.0005, tip: 0.85, taper: 0.2, sides: 4 },
    ['straw-blond'],
  );
  coat(
    farm,
    'Bottle bristle',
    grown({ prop: 'bottle-brush-wire', count: 2400, length: 0.03, points: 3, edges: 0.012, evenness: 0.5, seed: 4 }),
    [newShape('cut', { share: { least: 0.9, most: 1 } })],
    { radius: 0.0003, tip: 0.9, taper: 0.2, sides: 3 },
    ['pup-white', { root: '#8fb0b8', tip: '#dfeef0' }],
  );
}

/** The coir of the mat: stiff, tangled, kept out of who lies on it. */
export function coir(farm: Farm): void {
  coat(
    farm,
    'Coir',
    grown({ prop: 'mat', count: 5200, length: 0.02, points: 4, to: 0.3, evenness: 0.6, seed: 5 }),
    [
      newShape('cut', { share: { least: 0.6, most: 1 } }),
      newShape('frizz', { amount: lane([0, 0.05], [1, 0.4]), waves: 1.5 }),
    ],
    { radius: 0.0006, tip: 0.7, sides: 3 },
    ['coconut'],
  );
}

/** A bed of eelgrass that leans with the water. */
export function eelgrass(farm: Farm): void {
  farm.along(
    'Eelgrass',
    grown({ prop: 'sand', count: 150, length: 0.3, points: 26, upright: 0.9, evenness: 0.8, edges: 0.02, seed: 7 }),
    [
      newShape('cut', { share: { least: 0.45, most: 1 } }),
      newShape('droop', { amount: lane([0, 0], [0.4, 0.1], [1, 0.66]), towards: [0.86, -0.4, 0.32] }),
      newShape('frizz', { amount: lane([0, 0], [1, 0.06]), waves: 1.2 }),
    ],
    {},
    { colour: '#4e7a35', roughness: 0.5 },
  );
  const piece = farm.document.pieces[farm.document.pieces.length - 1];
  piece.make = newUse('make', 'ribbon', 'eelgrass');
  Object.assign(piece.make.parameters, { radius: 0.0035, cuts: 90, across: 2 });
}
