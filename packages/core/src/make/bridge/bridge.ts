import { type CurveSet, curveCount } from '../../curve/curve-set.js';
import { type Mesh, mergeMeshes } from '../../mesh/mesh.js';
import { distance, length, normalize, subtract, type Vec3, vec3 } from '../../numeric/vector.js';
import { realMesh } from '../../part/part.js';
import { Surface } from '../../surface/surface.js';
import { Surroundings } from '../../surface/surroundings.js';
import { madeOf } from '../../unit/carriers.js';
import { type BuildContext, defineUnit } from '../../unit/unit.js';
import { type Course, courseOf, guideOf } from './course.js';
import { loft } from './loft.js';
import { type Opening, openingAt, roundOpening } from './opening.js';

/** A vertex with its share of the faces. */
const VERTEX_BYTES = 56;
/** Vertices of one body at most: between rims of very many places there are fewer rings. */
const MAX_VERTICES = 1_500_000;
/** Vertices of a rim, where its cost is reported before it is looked for. */
const USUAL_RIM = 40;

export const bridge = defineUnit({
  stage: 'make',
  together: true,
  id: 'bridge',
  label: 'Bridge',
  purpose: 'A body from one opening to another: arches between columns, tube links, bends, necks.',
  synonyms: ['connect', 'join', 'loft', 'arch', 'blend', 'elbow', 'duct', 'bellows'],
  parameters: {
    fullness: {
      kind: 'ratio',
      of: 'a circular arc',
      label: 'Bulge',
      help: 'How far the body bulges; 1 is a circular arc, less is flatter, more is longer.',
      default: 1,
      min: 0,
      max: 20,
      comfortable: [0.3, 3],
      gauge: 'figure',
    },
    middle: {
      kind: 'ratio',
      of: 'thickness',
      label: 'Middle thickness',
      help: 'Thickness in the middle; below 1 pinches, above 1 swells.',
      default: 1,
      min: 0.01,
      max: 20,
      comfortable: [0.4, 2],
      gauge: 'figure',
    },
    shift: {
      kind: 'count',
      label: 'Corner shift',
      help: 'Number of corners by which the far opening is shifted; 0 twists least.',
      default: 0,
      min: -1000,
      max: 1000,
      comfortable: [-8, 8],
      gauge: 'figure',
    },
    turns: {
      kind: 'count',
      label: 'Extra turns',
      help: 'Additional full turns between the openings.',
      default: 0,
      min: -100,
      max: 100,
      comfortable: [-2, 2],
      gauge: 'turn',
    },
    leave: {
      kind: 'choice',
      label: 'Direction',
      help: 'Start perpendicular to the openings, or in line with the walls around them.',
      default: 'square',
      options: [
        { value: 'square', label: 'Perpendicular' },
        { value: 'walls', label: 'Along walls' },
      ],
    },
    rings: {
      kind: 'count',
      label: 'Segments',
      help: 'Segments from end to end; about 20 for a 90° bend, 30 for an arch.',
      default: 30,
      min: 2,
      max: 2000,
      comfortable: [8, 60],
      gauge: 'spacing',
    },
    pieces: {
      kind: 'pieces',
      label: 'End pieces',
      help: 'Other pieces whose ends it may connect to, besides props.',
      default: [],
      group: 'Ends',
    },
    radius: {
      kind: 'length',
      label: 'Fallback radius',
      help: 'Radius of an end that finds no opening.',
      default: 0.05,
      min: 1e-5,
      max: 100,
      comfortable: [0.01, 0.3],
      share: 'size',
      gauge: 'diameter',
      group: 'Ends',
    },
  },
  presets: [
    { id: 'arch', label: 'Arch', synonyms: ['vault'], parameters: {} },
    {
      id: 'neck',
      label: 'Neck',
      synonyms: ['pinch', 'funnel'],
      parameters: { middle: 0.55, fullness: 1.2, rings: 24 },
    },
    { id: 'flowing', label: 'Flowing', synonyms: ['organic'], parameters: { leave: 'walls', rings: 24 } },
  ],
  shelf: 'swept',
  outfits: [
    { id: 'rubber-boot', label: 'Rubber boot', wears: { main: { unit: 'patterned', preset: 'grained-rubber' } } },
    { id: 'bellows', label: 'Bellows', wears: { main: { unit: 'patterned', preset: 'ribbed-hose' } } },
    { id: 'duct', label: 'Duct', wears: { main: { unit: 'patterned', preset: 'brushed-steel' } } },
  ],
  sheet: true,
  sample: { lines: ['columns'], columns: true },
  thickness: ({ radius }) => radius,
  describe: ({ rings, middle }) => `${rings} segments${middle === 1 ? '' : middle < 1 ? ', pinched' : ', swollen'}`,
  cost(input, { rings }, { density }) {
    const vertices = curveCount(input) * ringsOf(rings, density) * USUAL_RIM;
    return { vertices, bytes: VERTEX_BYTES * vertices };
  },
  build(input, p, context) {
    const courses: Course[] = [];
    const reaches: Float32Array[] = [];
    const meshes: Mesh[] = [];
    const ids: number[] = [];
    const sets = [context.surroundings, ...bodiesOf(p.pieces, context)];
    let unmet = 0;
    let fewer = Infinity;
    for (let c = 0; c < curveCount(input); c++) {
      const ends = endsOf(input, c);
      if (!ends) continue;
      const met = ends.map(({ at }) => openingAt(at, sets));
      unmet += met.filter((opening) => !opening).length;
      const missing = p.radius;
      const [a, b] = ends.map(
        ({ at, inward }, k) => met[k] ?? roundOpening(at, facing(inward, met[1 - k]), missing, 32),
      );
      if (distance(a.center, b.center) < 1e-6 * (a.radius + b.radius)) {
        reportSame(a, context);
        continue;
      }
      const asked = ringsOf(p.rings, context.density);
      const rings = Math.min(
        asked,
        Math.max(2, Math.floor((3 * MAX_VERTICES) / Math.max(a.place.length, b.place.length))),
      );
      if (rings < asked) fewer = Math.min(fewer, rings);
      const course = courseOf(a.center, a.outward, b.center, scaledBack(b.outward), p.fullness, rings);
      const { mesh, reach } = loft(a, b, course, { ...p, walls: p.leave === 'walls' });
      courses.push(course);
      meshes.push(mesh);
      reaches.push(reach);
      ids.push(input.id[c]);
    }
    reportFewer(fewer, p.rings, context);
    reportUnmet(unmet, 2 * curveCount(input), input, context);
    const guide = guideOf(courses, ids);
    const radius = Float32Array.from(reaches.flatMap((reach) => [...reach]));
    return madeOf(guide, {
      parts:
        meshes.length > 0
          ? [{ kind: 'mesh', id: 'bridge', name: 'Bridge', mesh: mergeMeshes(meshes), slot: 'main' }]
          : [],
      bodies: meshes.length > 0 ? [{ id: 'bridge', curves: guide, section: { radius, least: 1 }, leastBend: 1 }] : [],
      rims: [],
    });
  },
});

const ringsOf = (rings: number, density: number): number => Math.max(2, Math.round((rings - 1) * density) + 1);

const scaledBack = (v: Vec3): Vec3 => [-v[0], -v[1], -v[2]];

const surfaces = new WeakMap<Mesh, Surface>();

/** What other pieces made, to be met by their ends. */
function bodiesOf(ids: readonly string[], context: BuildContext): Surroundings[] {
  const meshes = ids
    .flatMap((id) => context.piece(id)?.made().parts.map(realMesh) ?? [])
    .filter(({ index }) => index.length > 0);
  const met = meshes.map((mesh, k) => {
    const surface = surfaces.get(mesh) ?? Surface.of(mesh);
    surfaces.set(mesh, surface);
    return [String(k), surface] as const;
  });
  return met.length > 0 ? [new Surroundings(new Map(met))] : [];
}

/** Both ends of a line, each with the way from it to the other; undefined where the line has no length or no ends. */
function endsOf({ start, position, closed }: CurveSet, c: number): { at: Vec3; inward: Vec3 }[] | undefined {
  const [first, last] = [start[c], start[c + 1] - 1];
  if (closed[c] || last <= first) return undefined;
  const place = (p: number): Vec3 => [position[3 * p], position[3 * p + 1], position[3 * p + 2]];
  const way = (p: number, q: number): Vec3 => normalize(vec3(), subtract(vec3(), place(q), place(p)));
  return [
    { at: place(first), inward: way(first, first + 1) },
    { at: place(last), inward: way(last, last - 1) },
  ];
}

/** Where a round end looks: along its line; towards the opening at the other end where the line says nothing. */
const facing = (inward: Vec3, other: Opening | undefined): Vec3 =>
  length(inward) > 0 ? inward : other ? scaledBack(other.outward) : [0, 1, 0];

function reportUnmet(unmet: number, ends: number, input: CurveSet, { report }: BuildContext): void {
  if (unmet === 0) return;
  report({
    code: 'no-opening',
    severity: 'warning',
    message: `${unmet === 1 ? 'One end' : `${unmet} of ${ends} ends`} of the line ${unmet === 1 ? 'finds' : 'find'} no opening: a round one is used. End the line at the rim of a prop or a flat face, or pick end pieces.`,
    place: [input.position[0], input.position[1], input.position[2]],
  });
}

function reportFewer(fewer: number, asked: number, { report }: BuildContext): void {
  if (fewer === Infinity) return;
  report({
    code: 'fewer-rings',
    severity: 'warning',
    message: `The rims have too many vertices: only ${fewer} segments are possible. Use fewer, or simplify the prop’s rim.`,
    size: { value: fewer, limit: asked, kind: 'count' },
  });
}

function reportSame({ center }: Opening, { report }: BuildContext): void {
  report({
    code: 'same-opening',
    severity: 'error',
    message: 'Both ends of the line find the same opening: nothing to bridge. Move one end to another opening.',
    place: center,
  });
}
