import {
  type CurveSet,
  copyMesh,
  createCache,
  curveCount,
  emptyDocument,
  evaluatePiece,
  newPiece,
  newShape,
  newUse,
  polygonSection,
  Surroundings,
  singleCurve,
  sliceAt,
  sweep,
  unitOf,
  World,
} from '@kelp/core';
import { type Approach, nearestOnSegments } from '../packages/core/src/curve/segment-grid.js';
import { bareContext } from './context.js';
import { fastestPair, type Result } from './measure.js';

const LINES = 100_000;
const POINTS = 12;

/** Many short lines: hair before it is hair. */
function manyLines(): CurveSet {
  const position = new Float64Array(3 * LINES * POINTS);
  for (let p = 0; p < LINES * POINTS; p++) {
    const [c, k] = [Math.floor(p / POINTS), p % POINTS];
    position[3 * p] = (c % 300) * 0.002;
    position[3 * p + 1] = k * 0.005;
    position[3 * p + 2] = Math.floor(c / 300) * 0.002 + 0.001 * Math.sin(k);
  }
  return {
    start: Uint32Array.from({ length: LINES + 1 }, (_, c) => c * POINTS),
    position,
    closed: new Uint8Array(LINES),
    id: Uint32Array.from({ length: LINES }, (_, c) => 7 * c + 1),
    pointData: {},
    curveData: {},
  };
}

export function manyLinesBench(): Result[] {
  const lines = manyLines();
  const wobble = unitOf('shape', 'wobble');
  const { parameters } = newShape('wobble');
  const work = () => wobble.build(lines, parameters, bareContext(0.0005));
  const out = work();
  const copying = () => {
    const all = [
      out.position,
      out.start,
      out.closed,
      out.id,
      ...Object.values(out.pointData),
      ...Object.values(out.curveData),
    ];
    return all.map((array) => array.slice());
  };
  const [ours, copied] = fastestPair(work, copying, 4);
  return [
    {
      name: `wobble of 100,000 lines of 12 points (${curveCount(out).toLocaleString('en')} lines, ${ours.toFixed(0)} ms) over copying them`,
      value: ours / copied,
      goal: 12,
      better: 'less',
    },
    crossing(),
    chains(),
    slices(),
  ];
}

/** 200 lines of 100 points across a disc, kept apart with the unit's default. */
function crossing(): Result {
  const [count, points] = [200, 100];
  const set = singleCurve(new Float64Array(3 * count * points));
  set.start = Uint32Array.from({ length: count + 1 }, (_, c) => c * points);
  set.closed = new Uint8Array(count);
  set.id = Uint32Array.from({ length: count }, (_, c) => c + 1);
  let seed = 1;
  const random = () => {
    seed = (seed * 16807) % 2147483647;
    return seed / 2147483647;
  };
  for (let c = 0; c < count; c++) {
    const a = 2 * Math.PI * random();
    const b = a + Math.PI + 2 * (random() - 0.5);
    const ends = [a, b].map((turn) => [Math.cos(turn), (random() - 0.5) * 0.1, Math.sin(turn)]);
    for (let k = 0; k < points; k++)
      for (let n = 0; n < 3; n++)
        set.position[3 * (c * points + k) + n] = ends[0][n] + ((ends[1][n] - ends[0][n]) * k) / (points - 1);
  }
  const started = performance.now();
  unitOf('shape', 'keep-apart').build(set, newShape('keep-apart').parameters, bareContext(0.008));
  const ours = performance.now() - started;
  return {
    name: `200 crossing lines of 100 points kept apart in 150 passes (${(ours / 1000).toFixed(1)} s) over asking every pair of their segments once`,
    value: ours / everyPair(set.position, count, points),
    goal: 0.6,
    better: 'less',
  };
}

/** Milliseconds to ask every two segments of different lines for where they come nearest; a part of them is asked. */
function everyPair(position: Float64Array, count: number, points: number): number {
  const part = 4;
  const approach: Approach = { s: 0, t: 0, distance: 0 };
  let nearest = Number.POSITIVE_INFINITY;
  const started = performance.now();
  for (let a = 0; a < count * points; a += part) {
    if (a % points === points - 1) continue;
    for (let b = (Math.floor(a / points) + 1) * points; b < count * points; b++) {
      if (b % points === points - 1) continue;
      nearestOnSegments(position, 3 * a, 3 * a + 3, 3 * b, 3 * b + 3, approach);
      nearest = Math.min(nearest, approach.distance);
    }
  }
  if (!Number.isFinite(nearest)) throw new Error('No pair was asked');
  return part * (performance.now() - started);
}

/** A chain of pieces that each run along the one before: time for one link, of 1,000 over of 100. */
function chains(): Result {
  const nowhere = new Surroundings(new Map());
  const running = (length: number) => {
    const document = emptyDocument('Chain');
    const points = [0, 0.5, 1].map((x) => ({
      position: [x, x * x, 0] as [number, number, number],
      corner: false,
      radius: 1,
    }));
    document.curves.push({ id: 'line', name: 'Line', closed: false, points });
    const first = newPiece('p0', 'First', ['line'], false);
    document.pieces = Array.from({ length }, (_, i) =>
      i === 0
        ? first
        : {
            ...first,
            id: `p${i}`,
            path: { ...newUse('path', 'carried'), parameters: { piece: `p${i - 1}`, reversed: false } },
          },
    );
    return () => {
      const world = new World(document, nowhere, createCache());
      for (const piece of document.pieces) evaluatePiece(world, piece);
    };
  };
  const [short, long] = fastestPair(running(100), running(1000), 3);
  return { name: 'a chain of 1,000 carried pieces over one of 100', value: long / short, goal: 13, better: 'less' };
}

/** A slice at the cursor of a piece of half a million triangles, over copying its mesh: it runs in the worker. */
function slices(): Result {
  const line = singleCurve(
    Float64Array.from({ length: 3 * 8000 }, (_, i) => [Math.floor(i / 3) * 0.002, Math.sin(i / 900), 0][i % 3]),
  );
  const mesh = sweep(line, polygonSection(32), { radius: 0.02 });
  const part = { kind: 'mesh', id: 'a', name: 'A', slot: 'main', mesh } as const;
  const [ours, copied] = fastestPair(
    () => sliceAt([part], line, 0.37, 0.021),
    () => copyMesh(mesh),
    15,
  );
  return {
    name: `a slice of ${(mesh.index.length / 3).toLocaleString('en')} triangles (${ours.toFixed(1)} ms) over copying them`,
    value: ours / copied,
    goal: 4,
    better: 'less',
  };
}
