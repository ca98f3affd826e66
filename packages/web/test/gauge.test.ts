import {
  evaluatePiece,
  isNumberParameter,
  type KelpDocument,
  newShape,
  newUse,
  type Parameter,
  type Piece,
  Surroundings,
  unitsOf,
  World,
  whyUnmeasured,
  withParameter,
} from '@kelp/core';
import { demoProject } from '@kelp/demo';
import { describe, expect, it } from 'vitest';
import { isPulled, measured } from '../src/gauge/measure.js';
import { alongGuide, spotAt, stretch } from '../src/lines/spot.js';

const { document: demo } = await demoProject();
const nothing = new Surroundings(new Map());
const build = (document: KelpDocument, piece: Piece) =>
  evaluatePiece(new World({ ...document, pieces: [piece] }, nothing), piece);
const lamp = demo.pieces.find(({ id }) => id === 'lamp-line')!;

/** The piece with one unit of each kind put in, and where it is. */
function withUnit(stage: 'path' | 'shape' | 'make' | 'dress', id: string) {
  const use = newUse(stage, id);
  if (stage === 'shape') return { piece: { ...lamp, shape: [newShape(id)] }, use };
  if (stage === 'path' && 'curves' in use.parameters) use.parameters = { ...use.parameters, ...lamp.path.parameters };
  return { piece: { ...lamp, shape: [], [stage]: use } as Piece, use };
}

const everything = (['path', 'shape', 'make', 'dress'] as const).flatMap((stage) =>
  unitsOf(stage).flatMap((unit) =>
    Object.entries(unit.parameters as Record<string, Parameter>).map(([name, parameter]) => ({
      stage,
      id: unit.id,
      name,
      parameter,
    })),
  ),
);

describe('every control of every unit', () => {
  it('draws what it measures, or says why there is nothing to measure', () => {
    const built = new Map<string, ReturnType<typeof build>>();
    for (const { stage, id, name, parameter } of everything) {
      const { piece, use } = withUnit(stage, id);
      const made = built.get(id) ?? build(demo, piece);
      built.set(id, made);
      // a path that has nothing to run along is measured on another line
      const line = made.guide.position.length > 0 ? made : build(demo, lamp);
      const gauge = measured({ piece, build: line, use, name, parameter, display: 'mm' });
      const where = `${id}.${name}`;
      expect(gauge === null, where).toBe(whyUnmeasured(parameter) !== undefined);
      if (!gauge) continue;
      expect(gauge.text, where).not.toMatch(/NaN|undefined|Infinity/);
      for (const place of [gauge.at, ...gauge.lines.flat(), ...gauge.dots])
        for (const value of place) expect(Number.isFinite(value), where).toBe(true);
      expect(isPulled(parameter) || gauge.pull === undefined, where).toBe(true);
    }
  });

  it('pulled to where it is stays what it is, and pulled twice as far is twice as much', () => {
    for (const { stage, id, name, parameter } of everything.filter((one) => isPulled(one.parameter))) {
      if (!isNumberParameter(parameter)) continue;
      const { piece: bare, use: first } = withUnit(stage, id);
      const value = parameter.default === 0 ? 0.05 : parameter.default;
      const place = stage === 'shape' ? { stage, index: 0 } : { stage };
      const piece = withParameter(bare, place, name, value);
      const use = { ...first, parameters: { ...first.parameters, [name]: value } };
      const gauge = measured({ piece, build: build(demo, lamp), use, name, parameter, display: 'mm' });
      const pull = gauge?.pull;
      // the drop of a line that is set by its slack is shown, not pulled; that of the demo's line is its own
      if (!pull || parameter.gauge === 'drop') continue;
      const far = Math.hypot(...pull.grip.map((at, k) => at - pull.from[k]));
      expect(pull.value(far), `${id}.${name}`).toBeCloseTo(value, 9);
      expect(pull.value(2 * far), `${id}.${name}`).toBeCloseTo(2 * value, 9);
    }
  });
});

it('spots and stretches lie on the line, at their distance along it', () => {
  const { guide } = build(demo, lamp);
  const { length } = alongGuide(guide, 0);
  const half = stretch(guide, length / 4, (3 * length) / 4);
  let sum = 0;
  for (let i = 1; i < half.length; i++) sum += Math.hypot(...half[i].map((at, k) => at - half[i - 1][k]));
  expect(sum).toBeGreaterThan(0.49 * length);
  expect(sum).toBeLessThan(0.5 * length + 1e-9);
  const { tangent, side, up } = spotAt(guide, 0.3);
  const dot = (a: readonly number[], b: readonly number[]) => a.reduce((total, value, k) => total + value * b[k], 0);
  expect([dot(tangent, side), dot(tangent, up), dot(side, up), side[1]].map((value) => +value.toFixed(9) + 0)).toEqual([
    0, 0, 0, 0,
  ]);
});
