import { curveCount } from '../curve/curve-set.js';
import type { Piece } from '../document/document.js';
import { isLane, type Lane, valueAt } from '../numeric/lane.js';
import { pointOf } from '../numeric/vector.js';
import type { Made } from '../unit/carriers.js';
import type { Finding } from '../unit/finding.js';
import { knownUnit } from '../unit/registry.js';

/** A step at the seam below this nobody sees: a hundredth of the value, half a degree. */
const SEEN = { share: 0.01, angle: Math.PI / 360 };

/** Lanes of the make unit that end elsewhere than they begin, where the line is closed: a step in the surface. */
export function seamJumps(piece: Piece, { guide }: Made): Finding[] {
  let ring = 0;
  while (ring < curveCount(guide) && !guide.closed[ring]) ring++;
  const unit = knownUnit('make', piece.make.unit);
  if (ring === curveCount(guide) || !unit) return [];
  return Object.entries(unit.parameters).flatMap(([id, parameter]): Finding[] => {
    const lane = piece.make.parameters[id];
    // of a rate only the sum shows, and that comes round in whole turns
    if (!isLane(lane) || lane.region || parameter.kind === 'rate') return [];
    const turns = parameter.kind === 'angle';
    const [first, last] = [valueAt(lane, 0), valueAt(lane, 1)];
    const round = turns ? 2 * Math.PI * Math.round((last - first) / (2 * Math.PI)) : 0;
    const step = Math.abs(last - first - round);
    const seen = turns ? SEEN.angle : SEEN.share * Math.max(Math.abs(first), Math.abs(last));
    if (step <= seen) return [];
    return [
      {
        code: 'jumps-at-seam',
        severity: 'warning',
        message: `The line is closed, but ${parameter.label} differs between start and end, which leaves a step. Set both to the same value.`,
        place: pointOf(guide.position, guide.start[ring]),
        along: 0,
        ...(turns || parameter.kind === 'length'
          ? { size: { value: step, limit: seen, kind: turns ? ('angle' as const) : ('length' as const) } }
          : {}),
        fix: {
          label: 'Match the end to the start',
          kind: 'set',
          stage: 'make',
          parameter: id,
          value: endingAt(lane, first + round),
        },
      },
    ];
  });
}

/** The same course up to its end, which is `value`. */
function endingAt(lane: Lane, value: number): Lane {
  return { ...lane, knots: [...lane.knots.filter(({ at }) => at < 1), { at: 1, value }] };
}
