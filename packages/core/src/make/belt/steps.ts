import { greatestCommonDivisor } from '../../numeric/whole.js';
import type { BeltChoice } from './belt.js';
import type { BeltRail } from './rails.js';

/** How a loop is divided, and how far it goes on in a loop of the clock. */
export interface BeltSteps {
  length: number;
  /** Teeth, links, shoes or slats; 0 where it has none. */
  count: number;
  /** What moves on it; 0 for nothing. */
  riders: number;
  /** Metres in a loop of the clock. */
  travel: number;
  /** How many steps came out before they were rounded. */
  asked: { count: number; riders: number };
}

/** Steps of one loop at most. */
export const MAX_STEPS = 100_000;
/** A bare band goes on by shares of a turn of its first wheel. */
const SHARES = 12;

export const isStepped = (kind: string): boolean => kind !== 'flat' && kind !== 'vee';

/** A loop cut into whole steps; a chain's inner and outer links take turns, so their number is even. */
export function stepsOf({ rail, arcs, closed }: BeltRail, p: BeltChoice): BeltSteps {
  const length = rail.along[rail.along.length - 1];
  const whole = (asked: number, of: number) =>
    of * Math.max(1, Math.min(Math.floor(MAX_STEPS / of), Math.round(asked / of)));
  const asked = { count: isStepped(p.kind) ? length / p.pitch : 0, riders: p.riders === 'some' ? length / p.apart : 0 };
  const riders = asked.riders > 0 ? whole(asked.riders, 1) : 0;
  // what moves on teeth stands on each this many of them, where there are enough
  const unit = p.kind === 'roller' ? 2 : 1;
  const count =
    asked.count > 0
      ? riders > 0 && asked.count >= riders
        ? whole(asked.count, unit * riders)
        : whole(asked.count, unit)
      : 0;
  const step =
    riders > 0
      ? length / riders
      : count > 0
        ? length / count
        : arcs.length > 0
          ? (2 * Math.PI * arcs[0].radius) / SHARES
          : length;
  return { length, count, riders, travel: closed ? p.run * step : 0, asked };
}

/** Whether a wheel looks at the end of the loop as it did at its beginning. @param alike by this many parts of a turn it looks the same */
export const closes = (travel: number, radius: number, alike: number): boolean => {
  const parts = (alike * travel) / (2 * Math.PI * radius);
  return Math.abs(parts - Math.round(parts)) < 1e-6;
};

/** By how many parts of a turn a wheel with spokes and teeth looks the same; none: by any. */
export const alikeParts = (spokes: number, teeth: number): number =>
  spokes === 0 ? teeth : teeth === 0 ? spokes : greatestCommonDivisor(spokes, teeth);
