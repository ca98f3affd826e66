import { joinCurves } from '../curve/carry.js';
import { curveCount } from '../curve/curve-set.js';
import type { Track } from '../motion/track.js';
import type { Made, Mark, Measure, Part } from './carriers.js';

/** Figures that are summed; of others the first stands. */
const SUMMED = new Set(['length', 'area', 'volume', 'mass', 'count']);

/** What was made of several lines, some at a time, as one: parts and bodies keep their names, distinguished by a number. */
export function joinMade(all: Made[]): Made {
  const named = (id: string, n: number) => (n === 0 ? id : `${id} ${n + 1}`);
  // the lines of each begin after those of the ones before
  const first = [0];
  for (const { guide } of all) first.push(first[first.length - 1] + curveCount(guide));
  return {
    guide: joinCurves(all.map(({ guide }) => guide)),
    parts: all.flatMap(({ parts }, n) => parts.map((part): Part => ({ ...part, id: named(part.id, n) }))),
    bodies: all.flatMap(({ bodies }, n) => bodies.map((body) => ({ ...body, id: named(body.id, n) }))),
    marks: all.flatMap(({ marks }, n) =>
      marks.map((mark): Mark => ({ ...mark, curve: mark.curve.map((curve) => curve + first[n]) })),
    ),
    rims: all.flatMap(({ rims }, n) =>
      rims.map((rim) => ({ ...rim, id: named(rim.id, n), curve: rim.curve + first[n] })),
    ),
    measures: summed(all.flatMap(({ measures }) => measures)),
    tables: all.flatMap(({ tables }) => tables),
    motion: all.flatMap(({ motion }, n) => motion.map((track): Track => ({ ...track, part: named(track.part, n) }))),
  };
}

function summed(measures: readonly Measure[]): Measure[] {
  const out = new Map<string, Measure>();
  for (const measure of measures) {
    const before = out.get(measure.id);
    if (!before) out.set(measure.id, measure);
    else if (SUMMED.has(measure.quantity)) out.set(measure.id, { ...before, value: before.value + measure.value });
  }
  return [...out.values()];
}
