import { curveLengths } from '../curve/arc-length.js';
import { type CurveSet, curveCount, POINT } from '../curve/curve-set.js';
import { turnsTowards } from '../curve/facing.js';
import { Walk } from '../curve/walk.js';
import { createHit } from '../surface/surface.js';
import type { ParameterSet } from '../unit/parameters.js';
import type { BuildContext } from '../unit/unit.js';
import type { Facing } from './steering.js';

// Where the top of a swept section looks.

export const FACING = {
  facing: {
    kind: 'choice',
    label: 'Up direction',
    help: 'Least twist follows the line; other choices fix the up direction and ignore the roll of points and surfaces.',
    default: 'line',
    options: [
      { value: 'line', label: 'Least twist' },
      { value: 'up', label: 'Up' },
      { value: 'prop', label: 'Off a prop' },
      { value: 'place', label: 'To a position' },
      { value: 'piece', label: 'To another line' },
    ],
    group: 'Up direction',
  },
  facingProp: {
    kind: 'prop',
    label: 'Up prop',
    help: 'Prop whose surface the top faces away from.',
    default: '',
    when: { parameter: 'facing', is: ['prop'] },
    group: 'Up direction',
  },
  facingPlace: {
    kind: 'point',
    label: 'Up position',
    help: 'Position that the top faces from everywhere.',
    default: [0, 2, 0],
    gauge: 'place',
    grip: { kind: 'place' },
    when: { parameter: 'facing', is: ['place'] },
    group: 'Up direction',
  },
  facingPiece: {
    kind: 'piece',
    label: 'Up piece',
    help: 'Piece whose line the top faces, at the same share of its length.',
    default: '',
    when: { parameter: 'facing', is: ['piece'] },
    group: 'Up direction',
  },
} as const satisfies ParameterSet;

export interface FacingChoice {
  facing: string;
  facingProp: string;
  facingPlace: readonly [number, number, number];
  facingPiece: string;
}

/** Where the top of the section looks; undefined along with the line, and where what it should look at is not there. */
export function facingOf(p: FacingChoice, context: BuildContext): Facing | undefined {
  const wanted = wantedOf(p, context);
  if (!wanted) return undefined;
  return (rails, frames) =>
    turnsTowards(rails, frames, wanted(rails), rails.pointData[POINT.along], curveLengths(rails));
}

/** Directions for all points of some rails, flat xyz. */
type Wanted = (rails: CurveSet) => Float64Array;

function wantedOf(
  { facing, facingProp, facingPlace, facingPiece }: FacingChoice,
  context: BuildContext,
): Wanted | undefined {
  if (facing === 'up') return ({ position }) => position.map((_, i) => (i % 3 === 1 ? 1 : 0));
  if (facing === 'place') return ({ position }) => position.map((value, i) => facingPlace[i % 3] - value);
  if (facing === 'prop') return awayFrom(context, facingProp || undefined);
  if (facing === 'piece') return towards(context.piece(facingPiece)?.line);
  return undefined;
}

function awayFrom({ surroundings }: BuildContext, only: string | undefined): Wanted {
  const hit = createHit();
  return ({ position }) => {
    const out = new Float64Array(position.length);
    for (let i = 0; i < position.length; i += 3) {
      const [x, y, z] = position.subarray(i, i + 3);
      if (surroundings.closest(x, y, z, hit, Infinity, only) === undefined) continue;
      // on the skin itself the way to it says nothing
      const off = [x - hit.point[0], y - hit.point[1], z - hit.point[2]];
      out.set(hit.distance > 1e-6 && dotOf(off, hit.normal) > 0 ? off : hit.normal, i);
    }
    return out;
  };
}

const dotOf = (a: readonly number[], b: ArrayLike<number>): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];

function towards(line: CurveSet | undefined): Wanted | undefined {
  if (!line || curveCount(line) === 0) return undefined;
  return (rails) => {
    const { position, start, pointData } = rails;
    const lengths = curveLengths(rails);
    const along = pointData[POINT.along];
    const out = new Float64Array(position.length);
    const place: [number, number, number] = [0, 0, 0];
    for (let c = 0; c < curveCount(rails); c++) {
      const walk = new Walk(line, Math.min(c, curveCount(line) - 1));
      for (let q = start[c]; q < start[c + 1]; q++) {
        walk.pointAt((walk.length * along[q]) / (lengths[c] || 1), place);
        for (let n = 0; n < 3; n++) out[3 * q + n] = place[n] - position[3 * q + n];
      }
    }
    return out;
  };
}

/** What of it cannot be looked at, in words. */
export function reportFacing({ facing, facingPiece }: FacingChoice, context: BuildContext): void {
  const missing =
    facing === 'piece' && !context.piece(facingPiece)
      ? 'another line, but none is chosen, or both refer to each other'
      : facing === 'prop' && context.surroundings.closest(0, 0, 0, createHit()) === undefined
        ? 'a prop, but none is chosen'
        : undefined;
  if (missing)
    context.report({
      code: 'facing-nothing',
      severity: 'warning',
      message: `The up direction needs ${missing}: least twist is used. Choose one.`,
    });
}
