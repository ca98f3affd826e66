import { allocateCurves, CURVE, type CurveSet, POINT } from '../../curve/curve-set.js';
import { childId } from '../../numeric/random.js';
import { normalize, type Vec3, vec3 } from '../../numeric/vector.js';
import { propSpace } from '../../surface/prop-space.js';
import { createHit, type Surface } from '../../surface/surface.js';
import { defineUnit } from '../../unit/unit.js';
import { pathProp } from '../prop-surface.js';
import { keeper, standingRoom, WHERE } from '../roots/where.js';
import { noCurves } from '../trace.js';
import { type SurfacePoint, spreadPoints } from './spread-points.js';

/** Places of one piece at most. */
const MAX_PLACES = 200_000;
/** Places that are tried for each that is asked for, and in all: a small region of a large prop is found by trying. */
const TRIED_EACH = 2000;
const MAX_TRIED = 4_000_000;

export const scattered = defineUnit({
  stage: 'path',
  id: 'scattered',
  label: 'Scattered',
  purpose: 'Positions all over a prop, each with a short line, for things that grow or are placed there.',
  synonyms: ['distribute', 'random points', 'sprinkle', 'barnacles'],
  sample: { parameters: { prop: 'bar', by: 'count', count: 60, height: 0.03 }, bar: true },
  parameters: {
    prop: { kind: 'prop', label: 'Prop', help: 'Prop to scatter on.', default: '' },
    by: {
      kind: 'choice',
      label: 'Amount by',
      help: 'Set a density, or a total count.',
      default: 'count',
      options: [
        { value: 'density', label: 'Density' },
        { value: 'count', label: 'Count' },
      ],
    },
    density: {
      kind: 'ratio',
      of: 'one per m²',
      label: 'Density (per m²)',
      help: 'Positions per square metre.',
      default: 100,
      min: 0,
      max: 1e9,
      comfortable: [1, 5000],
      gauge: 'curves',
      when: { parameter: 'by', is: ['density'] },
    },
    count: {
      kind: 'count',
      label: 'Count',
      help: 'Number of positions in total.',
      default: 100,
      min: 0,
      max: 10_000_000,
      comfortable: [1, 2000],
      gauge: 'curves',
      when: { parameter: 'by', is: ['count'] },
    },
    evenness: {
      kind: 'ratio',
      of: 'maximum',
      label: 'Even spacing',
      help: '0 scatters positions at random, 1 spaces them evenly.',
      default: 0.6,
      min: 0,
      max: 1,
      comfortable: [0, 1],
      gauge: 'curves',
    },
    height: {
      kind: 'length',
      label: 'Line length',
      help: 'Length of the line at each position.',
      default: 0.02,
      min: 1e-6,
      max: 100,
      comfortable: [0.001, 0.2],
      gauge: 'off-line',
    },
    upright: {
      kind: 'ratio',
      of: 'vertical',
      label: 'Upright',
      help: 'Direction of the line; 0 is perpendicular to the surface, 1 is straight up.',
      default: 0,
      min: 0,
      max: 1,
      comfortable: [0, 1],
      gauge: 'figure',
    },
    ...WHERE,
    seed: {
      kind: 'seed',
      label: 'Random seed',
      help: 'Change for a different variation.',
      default: 1,
      min: 0,
      max: 1_000_000,
      comfortable: [0, 100],
      unmeasured: 'A seed has no size.',
    },
  },
  presets: [{ id: 'scattered', label: 'Scattered', parameters: {} }],
  describe: ({ by, density, count }) =>
    by === 'count' ? `${count.toLocaleString('en')} positions` : `${Math.round(density).toLocaleString('en')} per m²`,
  build(_input, p, context) {
    const surface = pathProp(p.prop, context);
    if (!surface) return noCurves();
    const space = propSpace(surface);
    const picker = standingRoom(surface, p, context);
    if (!picker) return noCurves();
    const area = picker.area * space.scale ** 2;
    const asked = Math.round(p.by === 'count' ? p.count : p.density * area);
    const wanted = Math.min(asked, MAX_PLACES);
    if (asked > MAX_PLACES)
      context.report({
        code: 'too-many-places',
        severity: 'warning',
        message: `Needs ${asked.toLocaleString('en')} positions (limit ${MAX_PLACES.toLocaleString('en')}): fewer are made. Reduce the density or count.`,
        size: { value: asked, limit: MAX_PLACES, kind: 'count' },
      });
    const found: SurfacePoint[] = [];
    const numbers: number[] = [];
    const tries = p.by === 'count' ? Math.min(MAX_TRIED, TRIED_EACH * wanted) : wanted;
    for (const point of spreadPoints(picker, p.seed, p.evenness, keeper(surface, p, context), tries)) {
      if (found.length === wanted) break;
      found.push(point);
      numbers.push(point.number);
      if (found.length % 4096 === 0) context.step(found.length / wanted);
    }
    if (found.length === 0 && wanted > 0)
      context.report({
        code: 'no-places',
        severity: 'warning',
        message:
          'Nothing is placed: the region, the mask or the edge margin excludes the whole surface. Move the region or the mask, or lower "Edge margin".',
      });
    return standingOn(surface, found, numbers, p);
  },
});

/** A short line at each place, off the surface. */
function standingOn(
  surface: Surface,
  points: readonly SurfacePoint[],
  numbers: readonly number[],
  { height, upright }: { height: number; upright: number },
): CurveSet {
  const count = points.length;
  const out = allocateCurves(count, 2 * count, [POINT.knot, POINT.corner, POINT.radius, POINT.source, POINT.along]);
  out.pointData[POINT.radius].fill(1);
  out.pointData[POINT.source].fill(-1);
  out.pointData[POINT.knot].fill(1);
  out.curveData[CURVE.length] = new Float32Array(count).fill(height);
  const hit = createHit();
  const way: Vec3 = vec3();
  for (let c = 0; c < count; c++) {
    surface.place(points[c].triangle, points[c].shares as [number, number, number], hit);
    for (let k = 0; k < 3; k++) way[k] = hit.normal[k] * (1 - upright) + (k === 1 ? upright : 0);
    normalize(way, way);
    out.position.set(hit.point, 6 * c);
    for (let k = 0; k < 3; k++) out.position[6 * c + 3 + k] = hit.point[k] + height * way[k];
    out.pointData[POINT.along][2 * c + 1] = height;
    out.id[c] = childId(1, numbers[c]);
    out.start[c + 1] = 2 * c + 2;
  }
  return out;
}
