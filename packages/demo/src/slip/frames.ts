import { type DrawnPoint, newUse, type ParameterValues, type UnitUse } from '@kelp/core';
import { type Farm, free } from '../farm.js';
import { QUAY } from './things.js';

const truss = (preset: string, more: ParameterValues): UnitUse => {
  const use = newUse('make', 'truss', preset);
  Object.assign(use.parameters, more);
  return use;
};
const steel = { colour: '#8d979c', roughness: 0.42, metalness: 0.85 };
const painted = (colour: string) => ({ colour, roughness: 0.5, metalness: 0.2 });

/** One truss under each slice of the roof, hung entirely below it. */
export function roofTrusses(farm: Farm): void {
  const path = newUse('path', 'contours');
  Object.assign(path.parameters, { prop: 'roof', axis: 'z', spacing: 2.7, first: 0.5, off: -0.012 });
  farm.along('Roof trusses', path, [], {}, painted('#b8523a'));
  farm.document.pieces[farm.document.pieces.length - 1].make = truss('triangle-truss', {
    depth: 0.55,
    width: 0.7,
    lineAt: 'top',
    on: 'edge',
    chord: 0.13,
    web: 0.06,
    frame: 0.06,
    bay: 1.15,
    topWebs: 'none',
    ties: 'braced',
    tieEvery: 2,
    tie: 0.075,
  });
}

/** From the quay down to the pontoon, a little curved. */
export function gangway(farm: Farm): void {
  const way: [number, number, number][] = [
    [1.7, QUAY.top + 0.02, 3.2],
    [1.9, 0.68, 5.2],
    [2.25, 0.59, 7.2],
    [2.6, 0.47, 9.2],
  ];
  const line = (lift: number): DrawnPoint[] => way.map(([x, y, z]) => free(x, y + lift, z));
  farm.made(
    'Gangway',
    line(0),
    [],
    truss('gangway', { depth: 1, width: 1, bay: 0.75, chord: 0.06, web: 0.032, frame: 0.04, endCut: 'plumb' }),
    steel,
  );
  const deck = newUse('make', 'sweep');
  Object.assign(deck.parameters, { form: 'box', radius: 0.014, width: 30, facing: 'up' });
  farm.made('Gangway deck', line(0.105), [], deck, { colour: '#8a6b49', roughness: 0.8, metalness: 0 });
}

/** A ladder down the quay, a rail along its edge, a mast for the lamp, and a gate of balls and rods. */
export function aroundTheQuay(farm: Farm): void {
  const { top, edge } = QUAY;
  farm.made(
    'Ladder',
    [free(-2.6, -0.5, edge + 0.1), free(-2.6, top + 0.95, edge + 0.1)],
    [],
    truss('ladder', { depth: 0.46, bay: 0.6 }),
    steel,
  );
  farm.made(
    'Rail',
    [free(-5.2, top, edge - 0.12), free(-3.1, top, edge - 0.12)],
    [],
    truss('hand-rail', { depth: 1, bay: 1 }),
    painted('#e0b23c'),
  );
  farm.made(
    'Quay rail',
    [free(-2.1, top, edge - 0.12), free(1.0, top, edge - 0.12)],
    [],
    truss('hand-rail', { depth: 1, bay: 1, joint: 'welded', cell: 0.7 }),
    painted('#e0b23c'),
  );
  farm.made(
    'Lamp mast',
    [free(4.9, top, 2.7), free(4.9, top + 5.6, 2.7)],
    [],
    truss('tower', {
      depth: {
        ease: 'straight',
        knots: [
          { at: 0, value: 0.62 },
          { at: 1, value: 0.26 },
        ],
      },
      chord: 0.09,
      closed: 'plate',
      joint: 'plate',
      plate: 2.4,
    }),
    steel,
  );
  const arch = Array.from({ length: 9 }, (_, k) => {
    const angle = Math.PI * (1 - k / 8);
    return free(1.75 + 1.25 * Math.cos(angle), top + 0.14 + 2.3 * Math.sin(angle) ** 0.8, 2.75);
  });
  farm.made('Gate', arch, [], truss('ball-lattice', { depth: 0.26, bay: 1 }), painted('#2f6272'));
}
