import { curveLengths } from '../curve/arc-length.js';
import { type CurveSet, curveCount, POINT } from '../curve/curve-set.js';
import { type AlongValue, isLane, valueAt } from '../numeric/lane.js';
import type { Steering, SweepSpec } from './steering.js';

/** What the section is at every point of its rails, metres and radians. */
interface LanesAlong {
  radius: Float32Array;
  roll: Float32Array;
  /** It is one size and is not turned, all along. */
  plain: boolean;
  /** Where it is broader than its outline says, or stands beside the line. */
  width?: Float32Array;
  shift?: { x: Float32Array; y: Float32Array };
  /** How far over its sections it has come, 0…1. */
  share?: Float32Array;
}

/** Size, place and turn of the section at every rail point; on a closed curve the twist is rounded to whole turns. */
export function lanesAlong(
  rails: CurveSet,
  { section, size, broad = 1, rise = 0, aside = 0, becomes, ripple }: SweepSpec,
  { roll, twist }: Steering,
  turns?: Float64Array,
): LanesAlong {
  const along = rails.pointData[POINT.along];
  const share = rails.pointData[POINT.radius];
  // where it looks somewhere, the turns of its points would turn it away again
  const own = turns ? undefined : rails.pointData[POINT.roll];
  const lengths = curveLengths(rails);
  const room = () => new Float32Array(along.length);
  const out: LanesAlong = { radius: room(), roll: room(), plain: false };
  if (broad !== 1) out.width = room();
  if (rise !== 0 || aside !== 0) out.shift = { x: room(), y: room() };
  if (becomes) out.share = room();
  const [high, wide] = [extent(section.x), extent(section.y)];
  // very many even lines: nothing to walk along them for
  if (
    typeof size === 'number' &&
    typeof roll === 'number' &&
    twist === 0 &&
    !share &&
    !own &&
    !turns &&
    !ripple &&
    !out.width &&
    !out.shift &&
    !becomes
  ) {
    out.radius.fill(size);
    out.roll.fill(roll);
    return { ...out, plain: roll === 0 };
  }
  for (let c = 0; c < curveCount(rails); c++) {
    const [first, end] = [rails.start[c], rails.start[c + 1]];
    const length = lengths[c] || 1;
    let twisted = 0;
    for (let p = first; p < end; p++) {
      const t = along[p] / length;
      // trapezoid over each step: exact for straight lanes between rings
      if (p > first)
        twisted += ((valueAt(twist, t) + valueAt(twist, along[p - 1] / length)) / 2) * (along[p] - along[p - 1]);
      const radius =
        valueAt(size, t) * (share?.[p] ?? 1) * (ripple ? ribbed(ripple, along[p], length, rails.closed[c] === 1) : 1);
      out.radius[p] = radius;
      out.roll[p] = valueAt(roll, t) + 2 * Math.PI * twisted + (own?.[p] ?? 0) + (turns?.[p] ?? 0);
      const width = radius * valueAt(broad, t);
      if (out.width) out.width[p] = width;
      if (out.share && becomes) out.share[p] = becoming(becomes.share, t, rails.closed[c] === 1);
      if (!out.shift) continue;
      out.shift.x[p] = radius * standOff(high, valueAt(rise, t));
      out.shift.y[p] = width * standOff(wide, valueAt(aside, t));
    }
    if (!rails.closed[c]) continue;
    const all = twisted + valueAt(twist, 1) * (length - along[end - 1]);
    const surplus = 2 * Math.PI * (Math.round(all) - all);
    for (let p = first; p < end; p++) out.roll[p] += (surplus * along[p]) / length;
  }
  return out;
}

/** What rings round it leave of its size: broad crests, narrower valleys; on a closed line whole ones. */
function ribbed(
  { wave, depth }: NonNullable<SweepSpec['ripple']>,
  along: number,
  length: number,
  closed: boolean,
): number {
  const turns = closed ? (Math.max(1, Math.round(length / wave)) * along) / length : along / wave;
  return 1 - depth * (0.5 - 0.5 * Math.cos(2 * Math.PI * turns)) ** 1.6;
}

/**
 * How far over its sections it has come at a share of its length: what a lane says; a number is reached evenly at the end, on a
 * closed line halfway round, so that it ends as it begins.
 */
function becoming(share: AlongValue, t: number, closed: boolean): number {
  const value = isLane(share) ? valueAt(share, t) : share * (closed ? 1 - Math.abs(2 * t - 1) : t);
  return Math.max(0, Math.min(1, value));
}

const extent = (values: Float64Array): readonly [number, number] => [
  values.reduce((a, b) => Math.min(a, b), 0),
  values.reduce((a, b) => Math.max(a, b), 0),
];

/** How far something between two bounds is moved so that at 1 its lower one is where its middle was, at −1 its upper one. */
const standOff = ([low, high]: readonly [number, number], share: number): number => share * (share > 0 ? -low : high);
