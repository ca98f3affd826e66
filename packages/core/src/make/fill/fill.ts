import { type CurveSet, curveCount, POINT } from '../../curve/curve-set.js';
import { resample } from '../../curve/resample.js';
import { type Mesh, mergeMeshes } from '../../mesh/mesh.js';
import { hullOf } from '../../section/hull.js';
import { areaOf, crossingOf } from '../../section/plane.js';
import { madeOf } from '../../unit/carriers.js';
import { type BuildContext, defineUnit } from '../../unit/unit.js';
import { type Flat, type Plane, type Region, regionsOf } from './outline.js';
import { slab } from './slab.js';

/** Greatest turn of a rim from place to place. */
const RIM_TURN = Math.PI / 24;
/** A vertex with its share of the faces. */
const VERTEX_BYTES = 56;
/** More faces than this across a slab are none that one sees. */
const MAX_ACROSS = 400;

export const fill = defineUnit({
  stage: 'make',
  together: true,
  id: 'fill',
  label: 'Fill',
  purpose: 'Fills closed lines to slabs with a rounded rim: plates, leaves, cushions, panes; inner lines become holes.',
  synonyms: ['slab', 'plate', 'cap', 'patch', 'membrane', 'leaf', 'pane', 'cushion', 'surface'],
  parameters: {
    radius: {
      kind: 'length',
      label: 'Half thickness',
      help: 'Distance from the middle to each face.',
      default: 0.01,
      min: 1e-6,
      max: 100,
      comfortable: [0.0005, 0.1],
      share: 'size',
      gauge: 'diameter',
    },
    rounding: {
      kind: 'ratio',
      of: 'half the thickness',
      label: 'Rim rounding',
      help: 'Roundness of the rim; 0 is square, 1 a half circle.',
      default: 1,
      min: 0,
      max: 1,
      comfortable: [0, 1],
      gauge: 'figure',
    },
    crown: {
      kind: 'ratio',
      of: 'half the width',
      label: 'Crown height',
      help: 'Height of the bulge in the middle; below 0 is hollow.',
      default: 0,
      min: -4,
      max: 4,
      comfortable: [-0.5, 0.5],
      gauge: 'figure',
    },
    rise: {
      kind: 'ratio',
      of: 'half the thickness',
      label: 'Height offset',
      help: 'Position of the line; 0 at mid-thickness, 1 at the lower face, −1 at the upper face.',
      default: 0,
      min: -100,
      max: 100,
      comfortable: [-1, 1],
      gauge: 'figure',
    },
    across: {
      kind: 'count',
      label: 'Segments across',
      help: 'Approximate number of faces across the slab.',
      default: 16,
      min: 1,
      max: MAX_ACROSS,
      comfortable: [4, 60],
      gauge: 'figure',
      group: 'Resolution',
    },
    rimSteps: {
      kind: 'count',
      label: 'Rim segments',
      help: 'Number of faces over each half of a rounded rim.',
      default: 3,
      min: 1,
      max: 64,
      comfortable: [1, 8],
      gauge: 'figure',
      group: 'Resolution',
    },
  },
  presets: [
    { id: 'plate', label: 'Plate', synonyms: ['sheet', 'panel'], parameters: { rounding: 0.25 } },
    { id: 'blade', label: 'Blade', synonyms: ['leaf'], parameters: { radius: 0.002, crown: 0.12, across: 28 } },
    {
      id: 'cushion',
      label: 'Cushion',
      synonyms: ['pillow', 'sail'],
      parameters: { radius: 0.02, crown: 0.45, rise: 1 },
    },
  ],
  shelf: 'swept',
  outfits: [
    { id: 'deck', label: 'Deck', wears: { main: { unit: 'plain', preset: 'timber' } } },
    { id: 'plate', label: 'Plate', wears: { main: { unit: 'patterned', preset: 'brushed-steel' } } },
    { id: 'awning', label: 'Awning', wears: { main: { unit: 'patterned', preset: 'webbing' } } },
  ],
  sample: { lines: ['leaf'] },
  thickness: ({ radius }) => radius,
  describe: ({ radius, crown }, length) =>
    `${length(2 * radius)} thick${crown === 0 ? '' : crown > 0 ? ', crowned' : ', hollow'}`,
  cost(input, { across }, { density }) {
    // about the same number on each, whatever its size
    const vertices = curveCount(input) * 3 * (across * density) ** 2;
    return { vertices, bytes: VERTEX_BYTES * vertices };
  },
  build(input, p, context) {
    const rims = resample(input, { maxTurn: RIM_TURN / context.density, keepKnots: false });
    const lines = closedOnly(rims, context);
    const { regions, flat } = regionsOf(lines, lines.pointData[POINT.corner]);
    reportFlat(flat.length, curveCount(input), context);
    const meshes: Mesh[] = [];
    regions.forEach((region, k) => {
      context.step(k / regions.length);
      const sound = uncrossed(region, context);
      const spacing = Math.sqrt(Math.abs(areaOf(sound.rim.flat))) / Math.max(1, p.across * context.density);
      const divided = {
        ...sound,
        rim: dividedTo(sound.rim, spacing),
        holes: sound.holes.map((hole) => dividedTo(hole, spacing)),
      };
      meshes.push(
        slab(divided, {
          ...p,
          half: p.radius,
          spacing,
          rimSteps: Math.max(1, Math.round(p.rimSteps * context.density)),
        }),
      );
    });
    return madeOf(rims, {
      parts:
        meshes.length > 0 ? [{ kind: 'mesh', id: 'fill', name: 'Fill', mesh: mergeMeshes(meshes), slot: 'main' }] : [],
    });
  },
});

/** Open lines are closed by the straight way from end to end. */
function closedOnly(rims: CurveSet, { report }: BuildContext): CurveSet {
  const open = rims.closed.reduce((sum, closed) => sum + 1 - closed, 0);
  if (open === 0) return rims;
  report({
    code: 'fill-open',
    severity: 'warning',
    message: `${open === 1 ? 'A line is' : `${open} lines are`} open: closed by a straight edge. Close the line to shape that side.`,
    place: [rims.position[0], rims.position[1], rims.position[2]],
  });
  return { ...rims, closed: rims.closed.map(() => 1) };
}

function reportFlat(flat: number, all: number, { report }: BuildContext): void {
  if (flat === 0) return;
  report({
    code: 'fill-nothing',
    severity: flat === all ? 'error' : 'warning',
    message: `${flat === 1 ? 'A line encloses' : `${flat} of ${all} lines enclose`} no area: nothing to fill. Draw the line around an area.`,
  });
}

/** The region without crossings: a rim that crosses itself is taken by its outer places alone, holes that cross are left out. */
function uncrossed(region: Region, { report }: BuildContext): Region {
  const crossing = crossingOf([region.rim, ...region.holes].map(({ flat }) => flat));
  if (!crossing) return region;
  report({
    code: 'fill-crosses',
    severity: 'warning',
    message: 'A line crosses itself or another here: the outer outline is filled. Remove the crossing.',
    place: placeOf(region.plane, crossing),
  });
  if (!crossingOf([region.rim.flat])) return { ...region, holes: [] };
  const { flat } = region.rim;
  const hull = hullOf(
    flat.map(([x]) => x),
    flat.map(([, y]) => y),
  );
  const kept = Array.from(hull.x, (x, k) => flat.findIndex(([fx, fy]) => fx === x && fy === hull.y[k]));
  const pick = <T>(list: readonly T[]) => kept.map((k) => list[k]);
  const rim = { ...region.rim, flat: pick(flat), height: pick(region.rim.height), corner: pick(region.rim.corner) };
  return { ...region, rim, holes: [] };
}

const placeOf = ({ center, x, y }: Plane, [u, v]: Flat): [number, number, number] => [
  center[0] + u * x[0] + v * y[0],
  center[1] + u * x[1] + v * y[1],
  center[2] + u * x[2] + v * y[2],
];

/** The outline with sides no longer than a spacing. */
function dividedTo(outline: Region['rim'], spacing: number): Region['rim'] {
  const out: Region['rim'] = { curve: outline.curve, flat: [], height: [], corner: [] };
  const count = outline.flat.length;
  outline.flat.forEach(([x, y], k) => {
    const next = (k + 1) % count;
    const [nx, ny] = outline.flat[next];
    const steps = Math.max(1, Math.ceil(Math.hypot(nx - x, ny - y) / spacing - 1e-6));
    for (let s = 0; s < steps; s++) {
      const t = s / steps;
      out.flat.push([x + t * (nx - x), y + t * (ny - y)]);
      out.height.push(outline.height[k] + t * (outline.height[next] - outline.height[k]));
      out.corner.push(s === 0 && outline.corner[k]);
    }
  });
  return out;
}
