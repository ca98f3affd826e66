import { allocateCurves, CURVE, type CurveSet, POINT } from '../../curve/curve-set.js';
import { shadeAt } from '../../document/picture-shade.js';
import { weightIn } from '../../document/region-weight.js';
import { edgesOf, edgeTurns } from '../../mesh/edges.js';
import { childId, hashText, randomsOf } from '../../numeric/random.js';
import { normalize, type Vec3, vec3 } from '../../numeric/vector.js';
import { propSpace } from '../../surface/prop-space.js';
import { createHit, Surface } from '../../surface/surface.js';
import { type BuildContext, defineUnit } from '../../unit/unit.js';
import { facesBetween } from '../faces-between.js';
import { pathProp } from '../prop-surface.js';
import { noCurves } from '../trace.js';
import { AreaPicker, type SurfacePoint, spreadPoints } from './spread-points.js';

/** Places of one piece at most. */
const MOST_PLACES = 200_000;
/** Places that are tried for each that is asked for, and in all: a small region of a large prop is found by trying. */
const TRIED_EACH = 2000;
const MOST_TRIED = 4_000_000;
/** A surface turns at an edge by so much, radians. */
const EDGE_TURN = 0.7;

export const scattered = defineUnit({
  stage: 'path',
  id: 'scattered',
  label: 'Scattered',
  purpose: 'Places all over a prop, each with a short line that stands on it: for what grows or is set there.',
  sample: { parameters: { prop: 'bar', by: 'count', count: 60, height: 0.03 }, bar: true },
  parameters: {
    prop: { kind: 'prop', label: 'On', help: 'The prop that they stand on.', default: '' },
    by: {
      kind: 'choice',
      label: 'How many',
      help: 'So many on each square metre, or so many in all.',
      default: 'count',
      options: [
        { value: 'density', label: 'Density' },
        { value: 'count', label: 'Number' },
      ],
    },
    density: {
      kind: 'ratio',
      of: 'one a square metre',
      label: 'Density',
      help: 'So many on each square metre.',
      default: 100,
      min: 0,
      max: 1e9,
      comfortable: [1, 5000],
      gauge: 'curves',
      when: { parameter: 'by', is: ['density'] },
    },
    count: {
      kind: 'count',
      label: 'Number',
      help: 'So many in all.',
      default: 100,
      min: 0,
      max: 10_000_000,
      comfortable: [1, 2000],
      gauge: 'curves',
      when: { parameter: 'by', is: ['count'] },
    },
    evenness: {
      kind: 'ratio',
      of: 'full',
      label: 'Evenness',
      help: 'At 0 they stand by chance, in clumps and gaps; at 1 about as far from each other everywhere.',
      default: 0.6,
      min: 0,
      max: 1,
      comfortable: [0, 1],
      gauge: 'curves',
    },
    height: {
      kind: 'length',
      label: 'Height',
      help: 'Length of the line that stands at each place.',
      default: 0.02,
      min: 1e-6,
      max: 100,
      comfortable: [0.001, 0.2],
      gauge: 'off-line',
    },
    upright: {
      kind: 'ratio',
      of: 'the way up',
      label: 'Upright',
      help: 'At 0 they stand square to the surface, at 1 straight up.',
      default: 0,
      min: 0,
      max: 1,
      comfortable: [0, 1],
      gauge: 'figure',
    },
    from: {
      kind: 'angle',
      label: 'Facing from',
      help: 'The surface is left free where it looks nearer to straight up than this.',
      default: 0,
      min: 0,
      max: Math.PI,
      comfortable: [0, Math.PI],
      gauge: 'figure',
      group: 'Where',
    },
    to: {
      kind: 'angle',
      label: 'Facing to',
      help: 'And where it looks further down than this.',
      default: Math.PI,
      min: 0,
      max: Math.PI,
      comfortable: [0, Math.PI],
      gauge: 'figure',
      group: 'Where',
    },
    edges: {
      kind: 'length',
      label: 'Off edges',
      help: 'How far from rims and sharp edges they keep.',
      default: 0,
      min: 0,
      max: 100,
      comfortable: [0, 0.2],
      gauge: 'figure',
      group: 'Where',
    },
    region: {
      kind: 'region',
      label: 'Region',
      help: 'They stand inside it alone, fewer towards its soft edge.',
      default: '',
      group: 'Where',
    },
    picture: {
      kind: 'picture',
      label: 'Picture',
      help: 'A picture of the project, seen through onto the prop: many where it is light, none where it is dark or beside it.',
      default: '',
      group: 'Where',
    },
    dark: {
      kind: 'choice',
      label: 'They stand where it is',
      help: 'Which of the picture carries them.',
      default: 'light',
      options: [
        { value: 'light', label: 'Light' },
        { value: 'dark', label: 'Dark' },
      ],
      group: 'Where',
    },
    seed: {
      kind: 'seed',
      label: 'Seed',
      help: 'Another number, another chance.',
      default: 1,
      min: 0,
      max: 1_000_000,
      comfortable: [0, 100],
      unmeasured: 'A seed has no size.',
    },
  },
  presets: [{ id: 'scattered', label: 'Scattered', parameters: {} }],
  describe: ({ by, density, count }) =>
    by === 'count' ? `${count.toLocaleString('en')} places` : `${Math.round(density).toLocaleString('en')} a square metre`,
  build(_input, p, context) {
    const surface = pathProp(p.prop, context);
    if (!surface) return noCurves();
    const space = propSpace(surface);
    if (p.picture && !isRead(p.picture, context)) return noCurves();
    let faces = facesBetween(surface, p.from, p.to);
    for (const box of boxesOf(p, context)) faces = facesWithin(surface, box, faces);
    const picker = new AreaPicker(surface.mesh, faces);
    const area = picker.area * space.scale ** 2;
    if (!(area > 0)) {
      context.report({
        code: 'no-area',
        severity: 'error',
        message: surface.mesh.index.length === 0
          ? 'This prop has no faces to stand on. Choose another one.'
          : 'No face of the prop looks that way, or lies where its region and picture are. Widen "Facing from" and "Facing to", or move those.',
      });
      return noCurves();
    }
    const asked = Math.round(p.by === 'count' ? p.count : p.density * area);
    const wanted = Math.min(asked, MOST_PLACES);
    if (asked > MOST_PLACES)
      context.report({
        code: 'too-many-places',
        severity: 'warning',
        message: `That would be ${asked.toLocaleString('en')} places; ${MOST_PLACES.toLocaleString('en')} are made. Ask for fewer.`,
        size: { value: asked, limit: MOST_PLACES, kind: 'count' },
      });
    const found: SurfacePoint[] = [];
    const numbers: number[] = [];
    const tries = p.by === 'count' ? Math.min(MOST_TRIED, TRIED_EACH * wanted) : wanted;
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
        message: 'Nothing is left of the surface: its region, its picture or what is kept free at its edges leaves no place. Move the region or the picture, or lower "Off edges".',
      });
    return standingOn(surface, found, numbers, p);
  },
}); // biome-ignore format: one line each

interface Where {
  from: number;
  to: number;
  edges: number;
  region: string;
  picture: string;
  dark: string;
  seed: number;
}

/** Whether a picture can be gone by; says why where it cannot. */
function isRead(id: string, context: BuildContext): boolean {
  const found = context.picture(id);
  if (found?.shades) return true;
  context.report({
    code: 'picture-unread',
    severity: 'error',
    message: found
      ? `The picture “${found.picture.name}” cannot be read: it is missing, broken, or has more than 4096 × 4096 pixels. Bring it in again, or choose another one.`
      : 'The picture they go by is not there any more. Choose another one.',
  });
  return false;
}

type Box = readonly [low: readonly number[], high: readonly number[]];

/** Outside of these nothing stands: of a large prop no other place need be tried. */
function boxesOf({ region: id, picture }: Where, context: BuildContext): Box[] {
  const out: Box[] = [];
  const around = (at: readonly number[], reach: readonly number[]) =>
    out.push([at.map((value, k) => value - reach[k]), at.map((value, k) => value + reach[k])]);
  const region = id ? context.region(id) : undefined;
  if (region) {
    const reach = region.edge + (region.form === 'ball' ? region.size[0] : Math.hypot(...region.size));
    around(region.position, [reach, reach, reach]);
  }
  const sheet = picture ? context.picture(picture)?.picture : undefined;
  if (sheet) {
    const [across, up] = [sheet.width / 2, (sheet.width * sheet.aspect) / 2];
    around(
      sheet.position,
      {
        front: [across, up, Infinity],
        side: [Infinity, up, across],
        top: [across, Infinity, up],
      }[sheet.plane],
    );
  }
  return out;
}

/** Those of the triangles that may reach into a box. */
function facesWithin(surface: Surface, [from, to]: Box, faces: readonly number[]): number[] {
  const space = propSpace(surface);
  const { position: p, index } = surface.mesh;
  const [at, low, high] = [vec3(), vec3(), vec3()];
  return faces.filter((face) => {
    low.fill(Infinity);
    high.fill(-Infinity);
    for (let corner = 0; corner < 3; corner++) {
      const v = 3 * index[3 * face + corner];
      space.toWorld(p[v], p[v + 1], p[v + 2], at, 0);
      for (let k = 0; k < 3; k++) {
        low[k] = Math.min(low[k], at[k]);
        high[k] = Math.max(high[k], at[k]);
      }
    }
    return low.every((value, k) => value <= to[k] && high[k] >= from[k]);
  });
}

/** Whether something may stand at a place. */
function keeper(surface: Surface, { edges, region: id, picture, dark, seed }: Where, context: BuildContext) {
  const space = propSpace(surface);
  const region = id ? context.region(id) : undefined;
  const sheet = picture ? context.picture(picture) : undefined;
  const chance = randomsOf(seed, hashText('region'));
  const lit = randomsOf(seed, hashText('picture'));
  const rims = edges > 0 ? edgeSurface(surface) : undefined;
  const hit = createHit();
  const world = vec3();
  return ([x, y, z]: SurfacePoint['at'], number: number): boolean => {
    if (rims?.closest(x, y, z, hit, edges / space.scale)) return false;
    if (!id && !picture) return true;
    space.toWorld(x, y, z, world, 0);
    if (id && !(region && chance(number) < weightIn(region, world[0], world[1], world[2]))) return false;
    if (!picture) return true;
    const light = sheet?.shades && shadeAt(sheet.picture, sheet.shades, world[0], world[1], world[2]);
    return light !== undefined && lit(number) < (dark === 'light' ? light : 1 - light);
  };
}

/** The rims and sharp edges of a prop, as triangles without breadth, to be asked how near they are. */
function edgeSurface({ mesh }: Surface): Surface | undefined {
  const found = edgesOf(mesh);
  const turns = edgeTurns(mesh, found);
  const index: number[] = [];
  for (let e = 0; e < turns.length; e++) {
    if (found.faces[2 * e + 1] !== -1 && turns[e] > Math.cos(EDGE_TURN)) continue;
    const [a, b] = [found.vertexOf[found.ends[2 * e]], found.vertexOf[found.ends[2 * e + 1]]];
    index.push(a, b, b);
  }
  return index.length > 0 ? Surface.of({ position: mesh.position, index: Uint32Array.from(index) }) : undefined;
}

/** A short line at each place, off the surface. */
function standingOn(surface: Surface, points: readonly SurfacePoint[], numbers: readonly number[], { height, upright }: { height: number; upright: number }): CurveSet {
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
} // biome-ignore format: its head in one line
