import { newShape, newUse, type UnitUse } from '@kelp/core';
import { type Farm, free } from '../farm.js';
import { coat, lines } from './coats.js';
import { HEAD, hairline, overHead, SHELLS } from './things.js';

const across = (parameters: UnitUse['parameters']): UnitUse => {
  const use = newUse('path', 'across');
  Object.assign(use.parameters, parameters);
  return use;
};

/** Places along the hairline of one shell: the line that marks its root edge. */
const mark = ({ from, to }: (typeof SHELLS)[number]) =>
  [0, 0.25, 0.5, 0.75, 1].map((t) => {
    const turn = from + (to - from) * t;
    return overHead(turn, hairline(turn), 0.005);
  });

/** The doll's hair: over its head to the tie, a curled tail, and loose strands drawn by hand and mirrored. */
export function dollHair(farm: Farm): void {
  const dress = ['chestnut'] as const;
  coat(
    farm,
    'Doll hair',
    across({
      shells: ['front-shell', 'left-shell', 'right-shell'],
      strands: 260,
      points: 12,
      marked: 'line',
      roots: lines(farm, 'Root edge', SHELLS.map(mark)),
      height: { least: -0.001, most: 0.005 },
      own: [{ shell: 1, strands: 320, points: 12, spacing: 'filled' }],
    }),
    [
      newShape('clump', {
        by: 'length',
        size: 0.006,
        tightness: {
          ease: 'smooth',
          knots: [
            { at: 0, value: 0.1 },
            { at: 1, value: 0.6 },
          ],
        },
      }),
      newShape('frizz', { amount: 0.012, waves: 3 }),
    ],
    { radius: 0.0009, tip: 0.6, sides: 4 },
    dress,
  );
  coat(
    farm,
    'Curled tail',
    across({ shells: ['tail-shell'], strands: 190, points: 14, height: { least: -0.012, most: 0.003 } }),
    [
      newShape('cut', { share: { least: 0.85, most: 1 } }),
      newShape('clump', {
        by: 'length',
        size: 0.0055,
        tightness: {
          ease: 'smooth',
          knots: [
            { at: 0, value: 0.2 },
            { at: 0.5, value: 0.85 },
            { at: 1, value: 0.9 },
          ],
        },
      }),
      newShape('curl', {
        turns: 3.2,
        radius: {
          ease: 'smooth',
          knots: [
            { at: 0, value: 0.02 },
            { at: 1, value: 0.05 },
          ],
        },
        begins: 0.25,
        pointsATurn: 9,
      }),
    ],
    { radius: 0.0009, tip: 0.4, sides: 4 },
    dress,
  );
  const path = newUse('path', 'drawn');
  path.parameters['curves'] = lines(
    farm,
    'Loose strand',
    [0, 1, 2].map((k) => [
      overHead(1.0 + 0.08 * k, 1.5, 0.004),
      overHead(1.1 + 0.08 * k, 1.75, 0.014 + 0.002 * k),
      overHead(1.2 + 0.06 * k, 2.1, 0.012),
      overHead(1.15 + 0.05 * k, 2.4, 0.02 + 0.004 * k),
    ]),
  );
  coat(
    farm,
    'Loose strands',
    path,
    [newShape('mirror', { across: 'x', at: [...HEAD.center], seam: false })],
    { radius: 0.0009, tip: 0.2, sides: 4 },
    dress,
  );
  const ring = Array.from({ length: 10 }, (_, k) => free(...overHead((2 * Math.PI * k) / 10, 0.2, 0.012)));
  farm.many('Hair tie', [ring], true, Object.assign(newUse('make', 'cable', 'plain-cable')), {
    colour: '#b23a3a',
    roughness: 0.7,
  });
  Object.assign(farm.document.pieces[farm.document.pieces.length - 1].make.parameters, { radius: 0.0035 });
}
