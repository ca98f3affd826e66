import { type DrawnPoint, newShape, newUse, type ParameterValues } from '@kelp/core';
import type { Farm } from '../farm.js';
import { BAG, FORM } from './things.js';

const THREAD = 0.00085;

/** A place on the bag, seen from above: shares of its half breadth and depth. */
const onBag = (farm: Farm, x: number, z: number): DrawnPoint =>
  farm.near('net-bag', [BAG.center[0] + x * BAG.wide, 0.2, BAG.center[2] + z * BAG.deep]);

function stitched(
  farm: Farm,
  name: string,
  points: DrawnPoint[],
  preset: string,
  set: ParameterValues,
  colour: string,
  closed = false,
): void {
  const make = newUse('make', 'stitch', preset);
  Object.assign(make.parameters, { radius: THREAD, ...set });
  farm.many(name, [points], closed, make, { colour, roughness: 0.7 });
  const piece = farm.document.pieces[farm.document.pieces.length - 1];
  piece.shape = [newShape('cling', { reach: 0.03 })];
  piece.dress['cloth'] = dressed('#9db0a2', 0.9);
}

const dressed = (colour: string, roughness: number, metalness = 0) => {
  const use = newUse('dress', 'plain');
  return { ...use, parameters: { ...use.parameters, colour, roughness, metalness } };
};

/** Round the bag and over it: a pressed double seam with creases, crosses, zigzag, chain. */
export function bagSeams(farm: Farm): void {
  const round = Array.from({ length: 20 }, (_, k) => {
    const angle = (2 * Math.PI * k) / 20;
    const far = 0.86 * (Math.abs(Math.cos(angle)) ** 3.4 + Math.abs(Math.sin(angle)) ** 3.4) ** (-1 / 3.4);
    return onBag(farm, far * Math.cos(angle), far * Math.sin(angle));
  });
  stitched(
    farm,
    'Bag seam',
    round,
    'double-seam',
    { rowGap: 15, seam: 6, depth: 1.5, creases: 8, length: 13, gap: 8, plies: '1', sides: 6 },
    '#f1e7cf',
    true,
  );
  const across = (z: number, bow: number) =>
    [-0.62, -0.3, 0, 0.3, 0.62].map((x) => onBag(farm, x, z + bow * (1 - (x / 0.62) ** 2)));
  stitched(farm, 'Bag crosses', across(-0.42, 0.06), 'cross-stitch', { length: 8, gap: 2.5, breadth: 11 }, '#c2513b');
  stitched(farm, 'Bag zigzag', across(-0.12, 0.05), 'zigzag-stitch', { length: 5, breadth: 11 }, '#e2b13c');
  const wave = Array.from({ length: 9 }, (_, k) => onBag(farm, -0.62 + 0.155 * k, 0.24 + 0.1 * Math.sin(1.6 * k)));
  stitched(farm, 'Bag chain', wave, 'chain-stitch', { length: 12, breadth: 7 }, '#2f6e92');
  stitched(farm, 'Bag bars', across(0.56, -0.03), 'slanted-bars', { length: 2.2, gap: 1.6, breadth: 10 }, '#f1e7cf');
}

/** Over the rim of the patch. */
export function patchRim(farm: Farm): void {
  const make = newUse('make', 'stitch', 'whip-stitch');
  Object.assign(make.parameters, { radius: 0.0007, length: 6, gap: 3, breadth: 9, sides: 6 });
  const path = newUse('path', 'edges', 'rims');
  Object.assign(path.parameters, { prop: 'patch' });
  farm.along('Patch rim', path, [], {}, { colour: '#d9772b', roughness: 0.7 });
  farm.document.pieces[farm.document.pieces.length - 1].make = make;
}

/** Down the chest of the form, open to the breastbone. */
export function suitZip(farm: Farm): void {
  const make = newUse('make', 'zip', 'half-open-zip');
  Object.assign(make.parameters, {
    size: '8',
    tape: 4.2,
    pull: 'toggle',
    pullLength: 8,
    opening: {
      ease: 'smooth',
      knots: [
        { at: 0, value: 6 },
        { at: 0.08, value: 5.6 },
        { at: 0.46, value: 0 },
      ],
    },
  });
  const chest = [0.37, 0.33, 0.27, 0.2, 0.13, 0.07].map((y) =>
    farm.near('suit-form', [FORM.center[0], y, FORM.center[2] + 0.3]),
  );
  farm.many('Suit zip', [chest], false, make, { colour: '#23332f', roughness: 0.85 });
  farm.document.pieces[farm.document.pieces.length - 1].shape = [newShape('cling', { reach: 0.05 })];
}

/** A belt of webbing round the form, sewn on both of its edges. */
export function suitBelt(farm: Farm): void {
  const around = (high: number, many: number) =>
    Array.from({ length: many }, (_, k) => {
      const angle = (2 * Math.PI * k) / many;
      return farm.near('suit-form', [
        FORM.center[0] + 0.3 * Math.cos(angle),
        high,
        FORM.center[2] + 0.2 * Math.sin(angle),
      ]);
    });
  stitched(
    farm,
    'Suit hem',
    around(0.052, 16),
    'running-stitch',
    { radius: 0.0008, rows: 2, rowGap: 9, length: 14, gap: 8, sides: 6 },
    '#e2b13c',
    true,
  );
}
