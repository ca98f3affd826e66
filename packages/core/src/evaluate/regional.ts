import { curveLengths } from '../curve/arc-length.js';
import { blockOf } from '../curve/blocks.js';
import { type CurveSet, curveCount } from '../curve/curve-set.js';
import type { Region } from '../document/document.js';
import { weightIn } from '../document/region-weight.js';
import { type AlongValue, greatest, isLane, type Lane, valueAt } from '../numeric/lane.js';
import { distanceAt } from '../numeric/vector.js';
import type { ParameterSet, ParameterValues } from '../unit/parameters.js';
import type { Unit } from '../unit/unit.js';

/** Knots of a lane that a region drives; where it begins to act there are as many again. */
const KNOTS = 96;

/** Whether any of these numbers is driven by a region. */
export const isRegional = (set: ParameterSet, values: ParameterValues): boolean =>
  Object.keys(set).some((name) => regionOf(values[name]) !== undefined);

const regionOf = (value: unknown): string | undefined => (isLane(value) ? value.region : undefined);

/**
 * Builds with the numbers as they are along each line: those that a region drives become lanes over its length. Several lines
 * are then built one by one, for each meets the region elsewhere, unless they belong together. A region that is not there is
 * nowhere.
 */
export function builtAlong<T>(
  { parameters: set, together, ownRegions }: Pick<Unit, 'parameters' | 'together' | 'ownRegions'>,
  values: ParameterValues,
  lines: CurveSet,
  region: (id: string) => Region | undefined,
  build: (lines: CurveSet, values: ParameterValues) => T,
  join: (all: T[]) => T,
): T {
  if (ownRegions || !isRegional(set, values)) return build(lines, values);
  if (together || curveCount(lines) <= 1) return build(lines, alongLine(set, values, lines, region));
  // lines beside each other that meet it in the same way, or not at all, are built in one go
  const all: T[] = [];
  let first = 0;
  let own = alongLine(set, values, blockOf(lines, 0, 1), region);
  for (let c = 1; c <= curveCount(lines); c++) {
    const next = c < curveCount(lines) ? alongLine(set, values, blockOf(lines, c, c + 1), region) : undefined;
    if (next && areAlike(own, next)) continue;
    all.push(build(blockOf(lines, first, c), own));
    if (next) [first, own] = [c, next];
  }
  return join(all);
}

/** Whether all numbers are the same for two lines; lanes of their own never are. */
const areAlike = (a: ParameterValues, b: ParameterValues): boolean =>
  Object.keys(a).every((name) => a[name] === b[name]);

function alongLine(
  set: ParameterSet,
  values: ParameterValues,
  line: CurveSet,
  region: (id: string) => Region | undefined,
): ParameterValues {
  const out = { ...values };
  for (const name of Object.keys(set)) {
    const value = values[name];
    const id = regionOf(value);
    if (id === undefined) continue;
    const found = region(id);
    out[name] = found ? drivenValue(value as Lane, line, found) : valueAt(value as Lane, 0);
  }
  return out;
}

/** The same where no line is known yet: what is greatest inside or out. */
export function atMost(set: ParameterSet, values: ParameterValues): ParameterValues {
  const out = { ...values };
  for (const name of Object.keys(set))
    if (regionOf(values[name]) !== undefined) out[name] = greatest(values[name] as Lane);
  return out;
}

/** A lane over the length; where it is the same all along, that number. */
function drivenValue(lane: Lane, line: CurveSet, region: Region): AlongValue {
  if (curveCount(line) === 0) return valueAt(lane, 0);
  const { position, start } = line;
  const total = curveLengths(line)[0];
  const last = start[1] - 1;
  const knots: Lane['knots'] = [];
  const at = (p: number, q: number, t: number) =>
    weightIn(
      region,
      position[3 * p] * (1 - t) + position[3 * q] * t,
      position[3 * p + 1] * (1 - t) + position[3 * q + 1] * t,
      position[3 * p + 2] * (1 - t) + position[3 * q + 2] * t,
    );
  // evenly by length, and at least this often over each soft edge as it is wide
  const step = Math.max(total / 2000, Math.min(total / KNOTS, (region.edge || total) / 12));
  let walked = 0;
  let next = 0;
  for (let p = 0; p < last + line.closed[0]; p++) {
    const q = p === last ? 0 : p + 1;
    const size = distanceAt(position, p, q);
    for (; next <= walked + size; next += step)
      knots.push({
        at: Math.min(1, next / total),
        value: valueAt(lane, at(p, q, size > 0 ? (next - walked) / size : 0)),
      });
    walked += size;
  }
  const end = line.closed[0] ? 0 : last;
  knots.push({ at: 1, value: valueAt(lane, at(end, end, 0)) });
  const [{ value }] = knots;
  return knots.every((knot) => knot.value === value) ? value : { ease: 'straight', knots };
}
