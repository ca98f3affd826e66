import { cornersOf } from '../curve/corners.js';
import { contoursOf } from '../mesh/contours.js';
import { AXES, axisFrame } from '../numeric/axis.js';
import { childId } from '../numeric/random.js';
import { propSpace } from '../surface/prop-space.js';
import { defineUnit } from '../unit/unit.js';
import { pathProp } from './prop-surface.js';
import { noCurves, type Trace, traceCurves } from './trace.js';

/** More slices than this are a typing error. */
const MAX_SLICES = 5000;
/** Points nearer than this share of the mean step add no shape, only wild directions. */
const MIN_STEP = 0.1;

export const contours = defineUnit({
  stage: 'path',
  id: 'contours',
  label: 'Contours',
  purpose: 'Slices a prop at even distances: courses of a roof, hoops of a barrel.',
  synonyms: ['slice', 'section', 'layers', 'rings', 'rafters'],
  sample: { parameters: { prop: 'bar', axis: 'x', spacing: 0.06, off: 0.01 }, bar: true },
  parameters: {
    prop: { kind: 'prop', label: 'Prop', help: 'Prop to slice.', default: '' },
    axis: {
      kind: 'choice',
      label: 'Direction',
      help: 'Direction in which slices follow each other.',
      default: 'up',
      options: AXES,
    },
    spacing: {
      kind: 'length',
      label: 'Slice spacing',
      help: 'Distance from slice to slice.',
      default: 0.1,
      min: 1e-4,
      max: 1000,
      comfortable: [0.01, 1],
      gauge: 'spacing',
    },
    first: {
      gauge: 'figure',
      kind: 'length',
      label: 'First slice',
      help: 'Distance from the near end of the prop to the first slice.',
      default: 0.05,
      min: 0,
      max: 1000,
      comfortable: [0, 1],
    },
    off: {
      kind: 'length',
      label: 'Surface offset',
      help: 'Distance from the surface, within the slice.',
      default: 0,
      min: -10,
      max: 10,
      comfortable: [0, 0.1],
      gauge: 'distance',
    },
    shortest: {
      gauge: 'shortest',
      kind: 'length',
      label: 'Min length',
      help: 'Ignore lines shorter than this.',
      default: 0,
      min: 0,
      max: 1000,
      comfortable: [0, 1],
    },
  },
  presets: [{ id: 'courses', label: 'Courses', parameters: {} }],
  describe: ({ spacing }, length) => `A slice every ${length(spacing)}`,
  build(_input, { prop, axis, spacing, first, off, shortest }, context) {
    const surface = pathProp(prop, context);
    if (!surface) return noCurves();
    const space = propSpace(surface);
    const direction = axisFrame(axis)[2];
    const inMesh = space.toMesh(direction);
    let [low, high] = [Infinity, -Infinity];
    const { position } = surface.mesh;
    for (let i = 0; i < position.length; i += 3) {
      const height = position[i] * inMesh[0] + position[i + 1] * inMesh[1] + position[i + 2] * inMesh[2];
      low = Math.min(low, height);
      high = Math.max(high, height);
    }
    const start = low + first / space.scale;
    const step = spacing / space.scale;
    const wanted = Math.max(0, Math.floor((high - start) / step) + 1);
    if (wanted > MAX_SLICES)
      context.report({
        code: 'too-many-slices',
        severity: 'warning',
        message: `Needs ${wanted.toLocaleString('en')} slices (limit ${MAX_SLICES.toLocaleString('en')}): only the first are made. Increase the slice spacing.`,
      });
    const traces: Trace[] = [];
    for (const contour of contoursOf(surface.mesh, inMesh, start, step, Math.min(wanted, MAX_SLICES))) {
      const world = new Float64Array(contour.position.length);
      for (let i = 0; i < world.length; i += 3) {
        // out of the surface, but within the slice
        const o = [contour.outward[i], contour.outward[i + 1], contour.outward[i + 2]];
        const along = o[0] * inMesh[0] + o[1] * inMesh[1] + o[2] * inMesh[2];
        const flat = o.map((value, k) => value - along * inMesh[k]);
        const push = off / space.scale / (Math.hypot(...flat) || 1);
        const at = flat.map((value, k) => contour.position[i + k] + push * value);
        space.toWorld(at[0], at[1], at[2], world, i);
      }
      const even = thinned(world, contour.closed);
      if (even.length >= 9 && lengthOf(even, contour.closed) >= shortest)
        traces.push({
          position: even,
          closed: contour.closed,
          id: childId(contour.level, contour.ordinal),
          corners: cornersOf(even, contour.closed),
        });
    }
    if (traces.length === 0)
      context.report({
        code: 'no-slices',
        severity: 'error',
        message: 'No slice meets the prop. Set "First slice" and the slice spacing below its size.',
      });
    return traces.length > 0 ? traceCurves(traces) : noCurves();
  },
});

const step = (p: ArrayLike<number>, a: number, b: number) =>
  Math.hypot(p[b] - p[a], p[b + 1] - p[a + 1], p[b + 2] - p[a + 2]);

function lengthOf(position: Float64Array, closed: boolean): number {
  let sum = closed ? step(position, position.length - 3, 0) : 0;
  for (let i = 3; i < position.length; i += 3) sum += step(position, i - 3, i);
  return sum;
}

/** Without the points that crowd where a slice passes close by a vertex. Ends stay. */
function thinned(position: Float64Array, closed: boolean): Float64Array {
  const count = position.length / 3;
  const least = (MIN_STEP * lengthOf(position, closed)) / Math.max(1, count);
  const out: number[] = [];
  for (let i = 0; i < position.length; i += 3) {
    const isEnd = !closed && (i === 0 || i === position.length - 3);
    const last = out.length - 3;
    const near = last >= 0 && Math.hypot(...[0, 1, 2].map((k) => position[i + k] - out[last + k])) < least;
    if (near && !isEnd) continue;
    if (near && last > 0) out.length = last;
    out.push(position[i], position[i + 1], position[i + 2]);
  }
  return Float64Array.from(out);
}
