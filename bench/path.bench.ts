import {
  createCache,
  emptyDocument,
  evaluatePiece,
  newPiece,
  newShape,
  Surroundings,
  singleCurve,
  unitOf,
  World,
} from '@kelp/core';
import { SphereGeometry } from 'three';
import { contoursOf } from '../packages/core/src/mesh/contours.js';
import { fitStroke } from '../packages/web/src/pens/steady.js';
import { bareContext } from './context.js';
import { fastest, fastestPair, type Result } from './measure.js';

const nowhere = new Surroundings(new Map());

/** A stroke of 5,000 samples, shaky as a hand, fitted to few points. */
export function strokeBench(): Result[] {
  const samples = Array.from({ length: 5000 }, (_, i) => ({
    position: [i * 0.001, 0.3 * Math.sin(i * 0.004), 0.002 * Math.sin(i * 1.7)] as [number, number, number],
    corner: false,
    radius: 1,
  }));
  const value = fastest(() => fitStroke(samples, 0.003), 12);
  return [{ name: 'fitting a stroke of 5,000 samples, milliseconds', value, goal: 16, better: 'less' }];
}

/** 100 slices of a 70,000-triangle mesh against one pass over its triangles that measures them. */
export function contourBench(): Result[] {
  const ball = new SphereGeometry(1, 188, 187);
  const position = Float32Array.from(ball.attributes['position'].array);
  const index = Uint32Array.from(ball.index?.array ?? []);
  const mesh = { position, index };
  let sum = 0;
  // what any work on a mesh does at least: three corners of every face, its normal and its area
  const pass = () => {
    for (let i = 0; i < index.length; i += 3) {
      const [a, b, c] = [3 * index[i], 3 * index[i + 1], 3 * index[i + 2]];
      const [ux, uy, uz] = [
        position[b] - position[a],
        position[b + 1] - position[a + 1],
        position[b + 2] - position[a + 2],
      ];
      const [vx, vy, vz] = [
        position[c] - position[a],
        position[c + 1] - position[a + 1],
        position[c + 2] - position[a + 2],
      ];
      sum += Math.hypot(uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx);
    }
    return sum;
  };
  const slice = () => contoursOf(mesh, [0, 1, 0], -0.99, 0.0198, 100);
  const [slicing, passing] = fastestPair(slice, pass, 12);
  return [
    {
      name: `contours: 100 slices of ${(index.length / 3).toLocaleString('en')} triangles, time over one pass that measures them`,
      value: slicing / passing,
      goal: 5,
      better: 'less',
    },
  ];
}

/** How the time of keeping apart grows with the number of curves: 1 is in step with it, 2 would be every pair. */
export function keepApartBench(): Result[] {
  const unit = unitOf('shape', 'keep-apart');
  const use = newShape('keep-apart', { passes: 4 });
  const context = bareContext(0.01);
  const time = (count: number) => {
    // a bundle as dense for many as for few, each line of 100 points swaying into its neighbours
    const side = Math.sqrt(count) * 0.018;
    const lines = singleCurve(new Float64Array(300 * count));
    lines.start = Uint32Array.from({ length: count + 1 }, (_, c) => 100 * c);
    lines.closed = new Uint8Array(count);
    lines.id = Uint32Array.from({ length: count }, (_, c) => c);
    for (let c = 0; c < count; c++)
      for (let k = 0; k < 100; k++) {
        const [x, z] = [((c * 0.618) % 1) * side, ((c * 0.414) % 1) * side];
        lines.position.set(
          [x + 0.01 * Math.sin(k * 0.2 + c), k * 0.01, z + 0.01 * Math.cos(k * 0.17 + 2 * c)],
          3 * (100 * c + k),
        );
      }
    const started = performance.now();
    unit.build(lines, use.parameters, context);
    return performance.now() - started;
  };
  const counts = [50, 100, 200, 400];
  time(50);
  const times = counts.map(time);
  // slope of the best line through the logarithms
  const [x, y] = [counts.map(Math.log), times.map(Math.log)];
  const mean = (values: number[]) => values.reduce((a, b) => a + b, 0) / values.length;
  const slope =
    x.reduce((total, value, i) => total + (value - mean(x)) * (y[i] - mean(y)), 0) /
    x.reduce((total, value) => total + (value - mean(x)) ** 2, 0);
  return [
    {
      name: `keep apart: exponent over 50 to 400 curves of 100 points (200 take ${times[2].toFixed(0)} ms for 4 passes)`,
      value: slope,
      goal: 1.2,
      better: 'less',
    },
  ];
}

/** One point of 500 curves is dragged: what is computed besides that curve's own piece. */
export function dragBench(): Result[] {
  let document = emptyDocument('Bench');
  for (let c = 0; c < 500; c++) {
    document.curves.push({
      id: `line-${c}`,
      name: `Line ${c}`,
      closed: false,
      points: Array.from({ length: 12 }, (_, i) => ({
        position: [i * 0.1, 0.05 * Math.sin(i + c), c * 0.05],
        corner: false,
        radius: 1,
      })),
    });
    document.pieces.push(newPiece(`piece-${c}`, `Piece ${c}`, [`line-${c}`], false));
  }
  const cache = createCache();
  const all = () => {
    const world = new World(document, nowhere, cache);
    return document.pieces.map((piece) => evaluatePiece(world, piece).parts);
  };
  const before = all();
  const drag = () => {
    const dragged = document.curves[250];
    const [x, y, z] = dragged.points[5].position;
    const points = dragged.points.with(5, { ...dragged.points[5], position: [x, y + 0.001, z] });
    document = { ...document, curves: document.curves.with(250, { ...dragged, points }) };
    return all();
  };
  const after = drag();
  const computed = after.filter((parts, i) => parts !== before[i]).length;
  if (computed !== 1) throw new Error(`${computed} pieces were computed for one dragged point`);
  const value = fastest(drag, 12);
  return [{ name: 'one dragged point among 500 curves, milliseconds for all pieces', value, goal: 16, better: 'less' }];
}
