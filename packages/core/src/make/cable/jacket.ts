import { greatest, mapAlong } from '../../numeric/lane.js';
import {
  polygonSection,
  roundedBoxSection,
  roundSection,
  type Section,
  sectionFromOutline,
} from '../../section/section.js';
import type { BuildContext } from '../../unit/unit.js';
import { MIN_SEGMENTS_PER_RIB, type Steering, type SweepSpec } from '../steering.js';
import { leastBendBy } from './bend-rule.js';
import type { Cable } from './course.js';

/** Made coarser than this share, ribs would be mush: the jacket is smooth. */
const MIN_DENSITY = 0.45;
/** What is nearly round may turn further from ring to ring than what is flat: by this much of the usual the less. */
const WOUND_STEPS = 0.4;
/** Faces round a jacket with a winding rib, at least. */
const WOUND_SIDES = 24;

/** What a cable's jacket is swept with, and how that is turned. */
export function jacketOf(p: Cable, density: number): { steered: SweepSpec; steering: Steering } {
  const { section: kind, width, rounding, sides } = p;
  const plain: SweepSpec = {
    section: sectionOf(kind, sides, width, rounding, density),
    size: p.radius,
    flatness: kind === 'box' ? Math.max(width, 1 / width) : 1,
    isRound: kind === 'round',
    least: kind === 'box' ? Math.min(1, width) : kind === 'polygon' ? Math.cos(Math.PI / sides) : 1,
  };
  const leastBend = leastBendBy(p.bendRule, p.leastBend, 2 * greatest(p.radius));
  const ribs = ribsAt(p, density);
  if (ribs === 'rings') plain.ripple = { wave: p.wave * greatest(p.radius), depth: p.depth };
  if (ribs === 'screw' && kind === 'round') {
    const section = woundSection(Math.max(WOUND_SIDES, 2 * Math.round((sides * density) / 2)), p.depth);
    const turns = 1 / (p.wave * greatest(p.radius));
    return {
      steered: {
        ...plain,
        section,
        isRound: false,
        flatness: WOUND_STEPS,
        least: 1 - p.depth,
        outline: { x: section.x, y: section.y },
      },
      // one rib goes once round in each wave
      steering: { ...p, leastBend, twist: mapAlong(p.twist, (twist) => twist + turns) },
    };
  }
  return {
    steered: { ...plain, outline: plain.isRound ? undefined : { x: plain.section.x, y: plain.section.y } },
    steering: { ...p, leastBend },
  };
}

/** The ribs that can be made at a density. */
export const ribsAt = ({ ribs, depth }: Pick<Cable, 'ribs' | 'depth'>, density: number): string =>
  depth === 0 || density < MIN_DENSITY ? 'none' : ribs;

/** Reports where a jacket has fewer ribs than it was asked for. */
export function reportRibs(p: Cable, { density, report }: BuildContext): void {
  if (p.ribs !== 'none' && p.depth > 0 && ribsAt(p, density) === 'none')
    report({
      code: 'ribs-smooth',
      severity: 'warning',
      message: `Too many ribs for ${MIN_SEGMENTS_PER_RIB} segments each: the jacket is smooth. Increase the rib spacing, or shorten the line.`,
    });
  if (p.ribs === 'screw' && p.section !== 'round')
    report({
      code: 'ribs-round',
      severity: 'note',
      message: 'A winding rib needs a round section: the jacket is smooth. Choose the round section, or rings.',
    });
}

function sectionOf(kind: string, sides: number, width: number, rounding: number, density: number): Section {
  if (kind === 'polygon') return polygonSection(sides);
  if (kind === 'box') return roundedBoxSection(width, rounding, Math.max(1, Math.round(3 * density)));
  // an even number keeps its mirror when it is made finer or coarser
  return roundSection(density === 1 ? sides : Math.max(3, 2 * Math.round((sides * density) / 2)));
}

/** Round, but for a valley on one side: turned along the line it is a rib that winds. */
function woundSection(sides: number, depth: number): Section {
  const far = Float64Array.from(
    { length: sides },
    (_, k) => 1 - depth * (0.5 - 0.5 * Math.cos((2 * Math.PI * k) / sides)) ** 1.6,
  );
  const x = far.map((r, k) => r * Math.cos((2 * Math.PI * k) / sides));
  const y = far.map((r, k) => r * Math.sin((2 * Math.PI * k) / sides));
  return sectionFromOutline(x, y, { hardAngle: Math.PI });
}
