import { type AlongValue, greatest, isLane } from '../../numeric/lane.js';
import type { Form } from '../../section/forms.js';
import { boxReach } from '../steering.js';

/** How it lies about its line. */
export interface Placed {
  width: AlongValue;
  roll: AlongValue;
  twist: AlongValue;
  rise: AlongValue;
  aside: AlongValue;
}

/** Sections whose corners stand on an ellipse: they reach as far as that, not as the box round it. */
const ROUNDED: readonly Form[] = ['round', 'tube', 'polygon', 'star', 'gear'];

/**
 * How far it reaches towards what it lies on, or turned by `turn` from there, in radii.
 * @param forms all that it is along its way
 */
export function reachOf(p: Placed, forms: readonly string[], turn = 0): number {
  const width = greatest(p.width);
  const [rise, aside] = [ofMost(p.rise), width * ofMost(p.aside)];
  const { roll, twist } = p;
  const turns = isLane(roll) || isLane(twist) || twist !== 0;
  const own = forms.some((form) => !ROUNDED.includes(form as Form))
    ? boxReach(width, roll, twist, turn)
    : turns
      ? Math.max(1, width)
      : Math.hypot(Math.cos(roll + turn), width * Math.sin(roll + turn));
  if (rise === 0 && aside === 0) return own;
  // what stands off its line as it turns, and what is aside, may be on either side of it
  if (turns || turn !== 0 || isLane(p.rise) || isLane(p.aside)) return own + Math.hypot(rise, aside);
  return Math.max(0, own - rise * Math.cos(roll) + aside * Math.sin(roll));
}

/** The value that is furthest from 0. */
const ofMost = (value: AlongValue): number =>
  typeof value === 'number'
    ? value
    : value.knots.reduce((most, knot) => (Math.abs(knot.value) > Math.abs(most) ? knot.value : most), 0);
