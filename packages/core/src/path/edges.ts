import { cornersOf } from '../curve/corners.js';
import { chainEdges, edgesOf, edgeTurns, placeNormals } from '../mesh/edges.js';
import { childId } from '../numeric/random.js';
import { distanceAt } from '../numeric/vector.js';
import { propSpace } from '../surface/prop-space.js';
import type { Surface } from '../surface/surface.js';
import { defineUnit } from '../unit/unit.js';
import { pathProp } from './prop-surface.js';
import { noCurves, type Trace, traceCurves } from './trace.js';

export const edges = defineUnit({
  stage: 'path',
  id: 'edges',
  label: 'Edges',
  purpose: 'Edges of a prop: its open rims, or every sharp edge.',
  synonyms: ['edge loop', 'border', 'rim', 'seam', 'crease', 'outline'],
  sample: { parameters: { prop: 'bar' }, bar: true },
  parameters: {
    prop: { kind: 'prop', label: 'Prop', help: 'Prop to take edges from.', default: '' },
    which: {
      kind: 'choice',
      label: 'Edge type',
      help: 'Sharp takes edges where the surface turns; Rims takes edges of openings.',
      default: 'sharp',
      options: [
        { value: 'sharp', label: 'Sharp' },
        { value: 'open', label: 'Rims' },
      ],
    },
    angle: {
      gauge: 'figure',
      kind: 'angle',
      label: 'Min angle',
      help: 'Smallest angle between faces at a sharp edge.',
      default: Math.PI / 4,
      min: 0.01,
      max: Math.PI,
      comfortable: [0.2, 1.6],
      when: { parameter: 'which', is: ['sharp'] },
    },
    shortest: {
      gauge: 'shortest',
      kind: 'length',
      label: 'Min length',
      help: 'Ignore curves shorter than this.',
      default: 0,
      min: 0,
      max: 10_000,
      comfortable: [0, 2],
    },
    chosen: {
      gauge: 'curves',
      kind: 'count',
      label: 'Curve number',
      help: 'Uses only one curve, 1 being the longest; 0 uses all.',
      default: 0,
      min: 0,
      max: 100_000,
      comfortable: [0, 12],
    },
    lift: {
      gauge: 'distance',
      kind: 'length',
      label: 'Surface offset',
      help: 'Distance of the line from the surface.',
      default: 0,
      min: -10,
      max: 100,
      comfortable: [0, 0.2],
    },
  },
  presets: [
    { id: 'sharp', label: 'Sharp edges', parameters: {} },
    { id: 'rims', label: 'Rims', parameters: { which: 'open' } },
  ],
  describe: ({ which, chosen }) =>
    `${which === 'open' ? 'Rims' : 'Sharp edges'}${chosen > 0 ? `, number ${chosen}` : ''}`,
  build(_input, { prop, which, angle, shortest, chosen, lift }, context) {
    const surface = pathProp(prop, context);
    if (!surface) return noCurves();
    const all = edgeTraces(surface, which === 'open' ? -1 : Math.cos(angle), which === 'open', lift);
    const wanted = all.filter(({ length }) => length >= shortest);
    const kept = chosen === 0 ? wanted : wanted.slice(chosen - 1, chosen);
    if (kept.length === 0)
      context.report({
        code: 'no-edges',
        severity: 'error',
        message:
          all.length === 0
            ? which === 'open'
              ? 'The prop is closed and has no rims. Use its sharp edges.'
              : 'No edge of the prop is that sharp. Lower the min angle.'
            : `None of the ${all.length} curves is used. Lower "Min length", or choose another number.`,
      });
    return kept.length > 0 ? traceCurves(kept) : noCurves();
  },
});

/** All chains of a prop's edges in the world, longest first. `most`: greatest cosine of the turn at an edge. */
function edgeTraces(surface: Surface, most: number, openOnly: boolean, lift: number): (Trace & { length: number })[] {
  const { mesh } = surface;
  const found = edgesOf(mesh);
  const turns = edgeTurns(mesh, found);
  const chosen: number[] = [];
  for (let e = 0; e < turns.length; e++) if (openOnly ? found.faces[2 * e + 1] === -1 : turns[e] < most) chosen.push(e);
  const outward = lift === 0 ? undefined : placeNormals(mesh);
  const space = propSpace(surface);
  const traces = chainEdges(found.ends, chosen).map(({ places, closed }) => {
    const position = new Float64Array(3 * places.length);
    places.forEach((place, k) => {
      const v = 3 * found.vertexOf[place];
      const at = [0, 1, 2].map(
        (n) => mesh.position[v + n] + (outward ? (lift / space.scale) * outward[3 * place + n] : 0),
      );
      space.toWorld(at[0], at[1], at[2], position, 3 * k);
    });
    let length = 0;
    for (let k = 0; k < places.length - (closed ? 0 : 1); k++)
      length += distanceAt(position, k, (k + 1) % places.length);
    // the id hangs on the mesh's own numbering: a changed angle keeps the curves that stay
    return { position, closed, id: childId(1, Math.min(...places)), corners: cornersOf(position, closed), length };
  });
  return traces.sort((a, b) => b.length - a.length);
}
