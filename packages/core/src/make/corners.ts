import type { CurveSet } from '../curve/curve-set.js';
import { type Bend, type Rounded, roundCorners } from '../curve/round-corners.js';
import type { ParameterSet } from '../unit/parameters.js';
import type { BuildContext } from '../unit/unit.js';

// How a swept section takes the corners of straight legs.

/** Greatest turn over a step of an arc before it is divided as the section asks: this fine, the arc is true. */
const ARC_STEP = Math.PI / 90;

export const CORNERS = {
  corners: {
    kind: 'choice',
    label: 'Corners',
    help: 'Mitre the corner, bend it around an arc, or step it in several mitres.',
    default: 'mitre',
    options: [
      { value: 'mitre', label: 'Mitred' },
      { value: 'arc', label: 'Bent' },
      { value: 'cuts', label: 'Stepped' },
    ],
    group: 'Corners',
  },
  bendRadius: {
    kind: 'ratio',
    of: 'section height',
    label: 'Bend radius',
    help: 'Radius of the centre line, relative to the section height.',
    default: 1.5,
    min: 0.01,
    max: 1000,
    comfortable: [0.5, 10],
    gauge: { kind: 'across', size: 'radius' },
    when: { parameter: 'corners', is: ['arc', 'cuts'] },
    group: 'Corners',
  },
  cornerCuts: {
    kind: 'count',
    label: 'Mitre count',
    help: 'Number of equal mitres in a stepped corner.',
    default: 3,
    min: 2,
    max: 64,
    comfortable: [2, 8],
    gauge: 'figure',
    when: { parameter: 'corners', is: ['cuts'] },
    group: 'Corners',
  },
} as const satisfies ParameterSet;

interface CornersChoice {
  corners: string;
  bendRadius: number;
  cornerCuts: number;
}

/** The lines with their corners as they are asked for. @param height of the section, metres */
export const cornered = (
  input: CurveSet,
  { corners, bendRadius, cornerCuts }: CornersChoice,
  height: number,
): Rounded =>
  corners === 'mitre'
    ? { curves: input, bends: [] }
    : roundCorners(
        input,
        bendRadius * height,
        corners === 'arc' ? { by: 'arc', step: ARC_STEP } : { by: 'cuts', cuts: cornerCuts },
      );

/** What was asked of a bend, metres. `given`: its radius comes from a table, no number of the unit changes it. */
export interface BendSize {
  radius: number;
  diameter: number;
  given?: boolean;
}

/** Bends for which a leg is too short, with the radius that fits everywhere. */
export function reportBends(
  bends: readonly Bend[],
  { radius, diameter, given }: BendSize,
  { report }: BuildContext,
): void {
  const short = bends.filter((bend) => bend.radius < 0.99 * radius);
  if (short.length === 0) return;
  const worst = short.reduce((a, b) => (b.radius < a.radius ? b : a));
  report({
    code: 'bend-short',
    severity: 'warning',
    message: `${short.length === 1 ? 'A corner is' : `${short.length} corners are`} too close to the next for its bend: bend radius {value} (limit {limit}). Reduce the bend radius, or move the corners apart.`,
    place: worst.corner,
    along: worst.at,
    size: { value: worst.radius, limit: radius, kind: 'length' },
    fix: given
      ? undefined
      : {
          label: 'Set the bend radius that fits',
          kind: 'set',
          stage: 'make',
          parameter: 'bendRadius',
          value: +((0.999 * worst.radius) / diameter).toPrecision(4),
        },
  });
}
