import { type CurveSet, copyMesh, roundSection, singleCurve, sweep, unitOf } from '@kelp/core';
import { rotationMinimizingFrames } from '../packages/core/src/curve/frames.js';
import { resample } from '../packages/core/src/curve/resample.js';
import { layLevel, solveLevel } from '../packages/core/src/make/laid/levels.js';
import { bareContext } from './context.js';
import { fastest, fastestPair, type Result } from './measure.js';

const STRANDS = 1000;
const SAMPLES = 500;
const RADIUS = 0.02;
const LEVEL = { count: STRANDS, filling: 'filled', hand: 'z', lay: 12, by: 'thickness' };

/** A gentle line of this many points. */
function line(samples: number): CurveSet {
  const fine = singleCurve(
    Float64Array.from({ length: 3 * 400 }, (_, i) => {
      const t = Math.floor(i / 3) / 399;
      return [2 * t, 0.1 * Math.sin(5 * t), 0.1 * Math.cos(3 * t)][i % 3];
    }),
  );
  return resample(fine, { steps: samples - 1 });
}

/** Strands laid about it, as lines. */
function laidLines(strands: number, samples: number): () => CurveSet {
  const rails = line(samples);
  const laid = {
    lines: rails,
    frames: rotationMinimizingFrames(rails),
    radius: new Float32Array(samples).fill(RADIUS),
  };
  const turns = () => 1 / (2 * LEVEL.lay * RADIUS);
  return () => layLevel(laid, { ...LEVEL, count: strands }, 'least', turns, () => 0).laid.lines;
}

const copyLines = ({ position, start, closed, id, pointData, curveData }: CurveSet) =>
  [position, start, closed, id, ...Object.values(pointData), ...Object.values(curveData)].map((array) => array.slice());

/** 1,000 strands of 500 points: to lines, to a mesh, as a hull; the solve of their thickness; how it grows. */
export function bundleBench(): Result[] {
  const build = laidLines(STRANDS, SAMPLES);
  const lines = build();
  const [toLines, copiedLines] = fastestPair(build, () => copyLines(lines), 8);
  const section = roundSection(6);
  const options = { radius: 0.0005, start: 'flat', end: 'flat', hardAngle: Math.PI } as const;
  let mesh = sweep(lines, section, options);
  const [toMesh, copiedMesh] = fastestPair(
    () => {
      mesh = sweep(lines, section, { ...options, into: mesh });
    },
    () => copyMesh(mesh),
    5,
  );
  const rails = line(SAMPLES);
  const solving = {
    lines: rails,
    frames: rotationMinimizingFrames(rails),
    radius: new Float32Array(SAMPLES).fill(RADIUS),
  };
  const solve = fastest(() => solveLevel(solving, LEVEL, 'least', () => 1 / (2 * LEVEL.lay * RADIUS)), 8);
  const unit = unitOf('make', 'laid');
  const parameters = {
    ...Object.fromEntries(Object.entries(unit.parameters).map(([name, one]) => [name, one.default])),
    radius: RADIUS,
    levels: [LEVEL],
    sides: 6,
    places: 120,
  };
  const shown = (how: string) => () => unit.build(rails, { ...parameters, shown: how }, bareContext(RADIUS));
  const hull = fastest(shown('hull'), 8);
  const whole = fastest(shown('strands'), 2);
  const [few, many] = fastestPair(laidLines(STRANDS / 4, SAMPLES), laidLines(STRANDS, SAMPLES * 2), 6);
  const row = (name: string, value: number, goal: number): Result => ({ name, value, goal, better: 'less' });
  return [
    row(`1,000 strands of 500 points to lines (${toLines.toFixed(0)} ms) over copying them`, toLines / copiedLines, 10),
    row(`on to a mesh of 6 sides (${toMesh.toFixed(0)} ms) over copying it`, toMesh / copiedMesh, 4),
    row(
      `the solve of their thickness (${solve.toFixed(1)} ms) over building the bundle (${whole.toFixed(0)} ms)`,
      solve / whole,
      0.2,
    ),
    row(`their hull (${hull.toFixed(1)} ms) over building the bundle`, hull / whole, 0.01),
    row('growth of 8 times as many strands and points: exponent', Math.log(many / few) / Math.log(8), 1.05),
  ];
}
