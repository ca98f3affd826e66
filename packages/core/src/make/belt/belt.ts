import { curveCount } from '../../curve/curve-set.js';
import { vertexCount } from '../../mesh/mesh.js';
import { type Made, madeOf, type SweptBody } from '../../unit/carriers.js';
import type { ValuesOf } from '../../unit/parameters.js';
import { defineUnit } from '../../unit/unit.js';
import { figuresOf } from './figures.js';
import { reportExact, reportJumps, reportMet, reportOpen, reportTeeth } from './findings.js';
import { BELT } from './parameters.js';
import { partsOf } from './parts.js';
import { BELT_PRESETS } from './presets.js';
import { type BeltLines, beltLines } from './rails.js';
import { broadOf, halfOf, reachOf } from './sizes.js';
import { stepsOf } from './steps.js';

export type BeltChoice = ValuesOf<typeof BELT>;

/** A vertex with its share of the faces. */
const VERTEX_BYTES = 56;

export const belt = defineUnit({
  stage: 'make',
  id: 'belt',
  label: 'Belt',
  purpose: 'Belts, chains, tracks and conveyors that run around wheels, with parts that ride on them.',
  synonyms: ['conveyor', 'track', 'tread', 'caterpillar', 'pulley', 'drive', 'timing belt', 'fan belt', 'roller chain'],
  shelf: 'elements',
  outfits: [
    {
      id: 'conveyor',
      label: 'Conveyor',
      wears: {
        main: { unit: 'patterned', preset: 'grained-rubber' },
        wheels: { unit: 'patterned', preset: 'brushed-steel' },
        panel: { unit: 'plain', preset: 'green-paint' },
      },
    },
    {
      id: 'canvas',
      label: 'Canvas',
      wears: {
        main: { unit: 'patterned', preset: 'webbing' },
        wheels: { unit: 'plain', preset: 'timber' },
        slats: { unit: 'plain', preset: 'timber' },
      },
    },
    {
      id: 'drive',
      label: 'Drive belt',
      wears: {
        main: { unit: 'patterned', preset: 'ribbed-hose' },
        wheels: { unit: 'plain', preset: 'steel' },
        panel: { unit: 'plain', preset: 'orange-jacket' },
      },
    },
  ],
  parameters: BELT,
  presets: BELT_PRESETS,
  slots: [
    { id: 'wheels', label: 'Wheels', wears: { unit: 'plain', preset: 'steel' } },
    { id: 'slats', label: 'Slats', wears: { unit: 'plain', preset: 'timber' } },
    { id: 'panel', label: 'Panel', wears: { unit: 'plain', preset: 'green-paint' } },
    { id: 'riders', label: 'Riders' },
  ],
  sample: {
    path: [
      'wheels',
      {
        wheels: [
          { id: 'a', position: [-0.1, 0.06, 0] },
          { id: 'b', position: [0.1, 0.06, 0], radius: 0.035 },
        ],
        radius: 0.055,
      },
    ],
    parameters: { width: 0.03, thickness: 0.004 },
  },
  // how far it keeps its line off the wheels: all of it that is on their side
  thickness: (p) => reachOf(p).below,
  breadth: (p) => Math.max(reachOf(p).below, broadOf(p) / 2),
  cost(input, p, context) {
    const lines = beltLines(input, context.density);
    let vertices = 0;
    for (const part of partsOf(lines, p, context).parts)
      vertices +=
        part.kind === 'placed'
          ? part.places.id.length * vertexCount(part.mesh)
          : part.kind === 'mesh'
            ? vertexCount(part.mesh)
            : 0;
    return { vertices, bytes: VERTEX_BYTES * vertices };
  },
  describe: ({ kind, width }, length) => `${KIND_NAMES[kind] ?? kind}, ${length(width)} wide`,
  build(input, p, context): Made {
    const lines = beltLines(input, context.density);
    const { rails } = lines;
    const steps = rails.map((rail) => stepsOf(rail, p));
    reportOpen(rails, p, context);
    reportExact(steps, p, context);
    reportTeeth(rails, steps, p, context);
    reportJumps(rails, steps, p, context);
    reportMet(rails, p, context);
    const { parts, motion, marks } = partsOf(lines, p, context);
    return madeOf(lines.lines, { parts, motion, marks, bodies: bodiesOf(lines, p), ...figuresOf(rails, steps, p) });
  },
});

const KIND_NAMES: Record<string, string> = Object.fromEntries(
  BELT.kind.options.map(({ value, label }) => [value, label]),
);

function bodiesOf({ lines, frames }: BeltLines, p: BeltChoice): SweptBody[] {
  const points = lines.position.length / 3;
  if (curveCount(lines) === 0) return [];
  const half = halfOf(p);
  const wide = p.width / 2 / half;
  const outline = { x: [1, 1, -1, -1], y: [-wide, wide, wide, -wide], ...frames, roll: new Float32Array(points) };
  return [
    {
      id: 'belt',
      curves: lines,
      section: { radius: new Float32Array(points).fill(half), least: Math.min(1, wide), outline },
      leastBend: 1,
      limited: true,
    },
  ];
}
