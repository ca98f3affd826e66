import { curveLengths } from '../../curve/arc-length.js';
import { CURVE, type CurveSet, curveCount, POINT } from '../../curve/curve-set.js';
import { rotationMinimizingFrames } from '../../curve/frames.js';
import { measureLines } from '../../curve/kernel/lengths.js';
import { roundSection } from '../../section/section.js';
import type { EndKind } from '../../sweep/caps.js';
import type { Made, Measure, Part, SweptBody } from '../../unit/carriers.js';
import type { BuildContext } from '../../unit/unit.js';
import { sweptOn } from '../steering.js';
import { markStrands } from './attributes.js';
import { bindingsOf } from './ends/bindings.js';
import { frayEnd, loosened } from './ends/fray.js';
import { type BundleEnd, type EndChoice, endChoice } from './ends/parameters.js';
import { fuzzOf } from './life/fuzz.js';
import { wanderStrands } from './life/wander.js';
import type { BundleChoice } from './parameters.js';
import type { Course, Strands } from './strands.js';

/** What bundles wear beside their strands. */
export const BUNDLE_SLOTS = [
  { id: 'whipping', label: 'Whipping', wears: { unit: 'plain', preset: 'orange-jacket' } },
  { id: 'seal', label: 'Sealed ends' },
  { id: 'fuzz', label: 'Stray fibres' },
] as const;

/** How each strand of a bundle that ends so is closed. */
export const capOf = (kind: BundleEnd): EndKind =>
  kind === 'frayed' ? 'round' : kind === 'sealed' || kind === 'whipped' ? 'flat' : kind;

export const sidesOf = (sides: number, density: number): number =>
  Math.max(Math.min(sides, 4), Math.round(sides * density));

/** All that becomes of strands that have been laid or braided: they wander, come loose, get their skins, ends and fuzz. */
export function finishedBundle(
  course: Course,
  strands: Strands,
  p: BundleChoice,
  scale: number,
  context: BuildContext,
) {
  const size = course.radius.reduce((a, b) => Math.max(a, b), 0);
  const ends = { start: endChoice(p, 'start'), end: endChoice(p, 'end') };
  wanderStrands(course, strands, p, size);
  for (const which of ['start', 'end'] as const)
    if (ends[which].kind === 'frayed') frayEnd(course, strands, ends[which], which, p.seed);
  measureAnew(strands.lines);
  const skins = sweptStrands(strands, p, scale, context);
  for (const part of skins.parts)
    if (part.kind === 'mesh')
      markStrands(
        part.mesh,
        course,
        strands,
        {
          section: roundSection(sidesOf(p.sides, context.density)),
          start: capOf(ends.start.kind),
          end: capOf(ends.end.kind),
        },
        p,
      );
  const fuzz = fuzzOf(course, strands, p, context);
  const parts: Part[] = [
    ...skins.parts,
    ...bindingsOf(course, ends, { twine: p.twine, sides: sidesOf(p.sides, context.density) }),
    ...(fuzz ? [fuzz] : []),
  ];
  return { parts, bodies: [heldTogether(skins.bodies[0], course, strands, ends)] };
}

function measureAnew(lines: CurveSet): void {
  lines.curveData[CURVE.length] ??= new Float32Array(curveCount(lines));
  measureLines(lines);
}

/** The skin of every strand. */
function sweptStrands({ lines, radius }: Strands, p: BundleChoice, scale: number, context: BuildContext): Made {
  const size = radius.reduce((a, b) => Math.max(a, b), 0) || 1;
  const share = radius.map((value) => value / size);
  const rails: CurveSet = { ...lines, pointData: { ...lines.pointData, [POINT.radius]: share } };
  const steered = {
    section: roundSection(sidesOf(p.sides, context.density)),
    size: size * scale,
    flatness: 1,
    isRound: true,
    least: 1,
    soft: true,
  };
  const [start, end] = [p.start, p.end].map((kind) => capOf(kind as BundleEnd));
  const steering = { cuts: 0, bendStep: p.bendStep, roll: 0, twist: 0, start, end, leastBend: p.leastBend };
  return sweptOn({ rails, frames: rotationMinimizingFrames(rails) }, steered, steering, context, {
    id: 'strands',
    name: 'Strands',
  });
}

/** What the checks look at: strands as far as they are held together, for loose ends lie across each other. */
function heldTogether(
  body: SweptBody,
  { rails, radius }: Course,
  { lines, each }: Strands,
  ends: Readonly<Record<'start' | 'end', EndChoice>>,
): SweptBody {
  const bundle: SweptBody = { ...body, ofStrands: true };
  if (ends.start.kind !== 'frayed' && ends.end.kind !== 'frayed') return bundle;
  const along = rails.pointData[POINT.along];
  const lengths = curveLengths(rails);
  const kept: number[] = [];
  const start = new Uint32Array(curveCount(lines) + 1);
  for (let c = 0; c < curveCount(lines); c++) {
    const rail = Math.floor(c / each);
    const [first, last] = [rails.start[rail], rails.start[rail + 1] - 1];
    const loose = (which: 'start' | 'end', p: number) =>
      ends[which].kind === 'frayed' && !rails.closed[rail] ? loosened(lengths[rail], radius[p], ends[which]) : 0;
    const [from, to] = [loose('start', first), lengths[rail] - loose('end', last)];
    for (let k = 0; k <= last - first; k++)
      if (along[first + k] >= from && along[first + k] <= to) kept.push(lines.start[c] + k);
    start[c + 1] = kept.length;
  }
  // of a line that is nothing but loose ends there is nothing to hold
  if (start.some((end, c) => c > 0 && end - start[c - 1] < 2)) return { ...bundle, curves: NONE };
  const curves: CurveSet = {
    start,
    closed: lines.closed,
    id: lines.id,
    position: Float64Array.from(
      { length: 3 * kept.length },
      (_, i) => lines.position[3 * kept[Math.floor(i / 3)] + (i % 3)],
    ),
    pointData: { [POINT.along]: new Float32Array(kept.length) },
    curveData: {},
  };
  measureAnew(curves);
  return {
    ...bundle,
    curves,
    section: { ...body.section, radius: Float32Array.from(kept, (q) => body.section.radius[q]) },
  };
}

const NONE: CurveSet = {
  start: new Uint32Array(1),
  closed: new Uint8Array(0),
  id: new Uint32Array(0),
  position: new Float64Array(0),
  pointData: {},
  curveData: {},
};

/** Kilogrammes of a cubic metre of water. */
const WATER = 1000;

/**
 * Figures of strands: how many, how long, how heavy, and what share of the bundle they fill.
 * @param area of a bundle's cross-section at radius 1
 */
export function measuresOf(
  course: Course,
  { lines, radius }: Strands,
  { scale, density, area }: { scale: number; density: number; area: number },
): Measure[] {
  const lengths = curveLengths(lines);
  const volume = volumeOf(lines, radius) * scale ** 2;
  const whole = volumeOf(course.rails, course.radius) * (area / Math.PI);
  const all = lengths.reduce((a, b) => a + b, 0);
  const line = curveLengths(course.rails).reduce((a, b) => a + b, 0);
  return [
    { id: 'strands', label: 'Strands', quantity: 'count', value: curveCount(lines) },
    { id: 'strand-length', label: 'Strand length', quantity: 'length', value: all },
    {
      id: 'strand-share',
      label: 'Strand per metre of line',
      quantity: 'length',
      value: line > 0 ? all / curveCount(lines) / (line / curveCount(course.rails)) : 0,
    },
    { id: 'filled', label: 'Fill share', quantity: 'share', value: whole > 0 ? volume / whole : 0 },
    { id: 'mass', label: 'Mass', quantity: 'mass', value: volume * density * WATER },
  ];
}

/** Volume of round lines, m³. */
function volumeOf(lines: CurveSet, radius: Float32Array): number {
  const lengths = curveLengths(lines);
  const along = lines.pointData[POINT.along];
  let volume = 0;
  for (let c = 0; c < curveCount(lines); c++)
    for (let q = lines.start[c]; q < lines.start[c + 1]; q++) {
      const next = q + 1 < lines.start[c + 1] ? along[q + 1] : lines.closed[c] ? lengths[c] : along[q];
      volume += Math.PI * radius[q] ** 2 * (next - along[q]);
    }
  return volume;
}
