import type { Measure, Table } from '../../unit/carriers.js';
import type { BeltChoice } from './belt.js';
import type { BeltRail } from './rails.js';
import { type BeltSteps, isStepped } from './steps.js';
import { teethOf } from './wheels.js';

/**
 * The diameter that a wheel of this many teeth is called by: of a sprocket the circle on which its rollers' middles lie
 * (ISO 606: p / sin(π / z)), of a pulley that of the belt's pitch line (ISO 5296: z p / π). 0 without teeth.
 */
export const pitchDiameter = (teeth: number, pitch: number, kind: string): number =>
  teeth === 0 ? 0 : kind === 'roller' ? pitch / Math.sin(Math.PI / teeth) : (teeth * pitch) / Math.PI;

/** Length and steps of the belt; and each wheel with how far the belt is led round it, and how it turns. */
export function figuresOf(
  rails: readonly BeltRail[],
  steps: readonly BeltSteps[],
  p: BeltChoice,
): { measures: Measure[]; tables: Table[] } {
  const sum = (of: (one: BeltSteps) => number) => steps.reduce((all, one) => all + of(one), 0);
  const measures: Measure[] = [
    { id: 'belt-length', label: 'Belt length', quantity: 'length', value: sum(({ length }) => length) },
  ];
  if (isStepped(p.kind)) {
    const [first] = steps;
    measures.push({ id: 'steps', label: 'Pitches', quantity: 'count', value: sum(({ count }) => count) });
    if (first)
      measures.push({ id: 'pitch', label: 'Fitted pitch', quantity: 'length', value: first.length / first.count });
  }
  if (p.riders === 'some')
    measures.push({ id: 'riders', label: 'Riders', quantity: 'count', value: sum(({ riders }) => riders) });
  const rows = rails.flatMap((rail, c) =>
    rail.arcs.map((arc): (string | number)[] => [
      `Wheel ${arc.number + 1}`,
      arc.radius,
      teethOf(arc, rail, steps[c], p),
      pitchDiameter(teethOf(arc, rail, steps[c], p), steps[c].length / (steps[c].count || 1), p.kind) || 2 * arc.radius,
      arc.turn,
      steps[c].travel / (2 * Math.PI * arc.radius),
    ]),
  );
  if (rows.length === 0) return { measures, tables: [] };
  return {
    measures: [...measures, { id: 'wheels', label: 'Wheels', quantity: 'count', value: rows.length }],
    tables: [
      {
        id: 'wheels',
        label: 'Wheels',
        columns: [
          { label: 'Wheel', quantity: 'text' },
          { label: 'Radius to belt centre', quantity: 'length' },
          { label: 'Teeth', quantity: 'count' },
          { label: 'Pitch ⌀', quantity: 'length' },
          { label: 'Wrap angle', quantity: 'angle' },
          { label: 'Turns per loop', quantity: 'share' },
        ],
        rows,
      },
    ],
  };
}
