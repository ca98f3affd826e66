import { shadeAt } from '../../document/picture-shade.js';
import { weightIn } from '../../document/region-weight.js';
import { edgesOf, edgeTurns } from '../../mesh/edges.js';
import { hashText, randomsOf } from '../../numeric/random.js';
import { vec3 } from '../../numeric/vector.js';
import { propSpace } from '../../surface/prop-space.js';
import { createHit, Surface } from '../../surface/surface.js';
import type { ParameterSet } from '../../unit/parameters.js';
import { isRead } from '../../unit/read-picture.js';
import type { BuildContext } from '../../unit/unit.js';
import { facesBetween } from '../faces-between.js';
import { AreaPicker } from './area-picker.js';

/** A surface turns at an edge by this much, radians. */
const EDGE_TURN = 0.7;

/** Where on a prop something may stand. */
export const WHERE = {
  from: {
    kind: 'angle',
    label: 'Min slope',
    help: 'Steepness of the surface where strands begin to grow; 0° faces up.',
    default: 0,
    min: 0,
    max: Math.PI,
    comfortable: [0, Math.PI],
    gauge: 'figure',
    group: 'Area',
  },
  to: {
    kind: 'angle',
    label: 'Max slope',
    help: 'Steepness of the surface up to which strands grow; 180° faces down.',
    default: Math.PI,
    min: 0,
    max: Math.PI,
    comfortable: [0, Math.PI],
    gauge: 'figure',
    group: 'Area',
  },
  edges: {
    kind: 'length',
    label: 'Edge margin',
    help: 'Distance kept from rims and sharp edges.',
    default: 0,
    min: 0,
    max: 100,
    comfortable: [0, 0.2],
    gauge: 'figure',
    group: 'Area',
  },
  region: {
    kind: 'region',
    label: 'Region',
    help: 'Limits growth to the inside of a region, fading over its soft edge.',
    default: '',
    group: 'Area',
  },
  picture: {
    kind: 'picture',
    label: 'Mask image',
    help: 'Project image projected onto the prop; dense where it matches, empty elsewhere.',
    default: '',
    group: 'Area',
  },
  dark: {
    kind: 'choice',
    label: 'Mask uses',
    help: 'Part of the mask where strands grow.',
    default: 'light',
    options: [
      { value: 'light', label: 'Light areas' },
      { value: 'dark', label: 'Dark areas' },
    ],
    group: 'Area',
  },
} as const satisfies ParameterSet;

export interface Where {
  from: number;
  to: number;
  edges: number;
  region: string;
  picture: string;
  dark: string;
  seed: number;
}

type Box = readonly [low: readonly number[], high: readonly number[]];

/** Outside of these nothing stands: of a large prop no other place need be tried. */
function boxesOf({ region: id, picture }: Pick<Where, 'region' | 'picture'>, context: BuildContext): Box[] {
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
export function keeper(surface: Surface, { edges, region: id, picture, dark, seed }: Where, context: BuildContext) {
  const space = propSpace(surface);
  const region = id ? context.region(id) : undefined;
  const sheet = picture ? context.picture(picture) : undefined;
  const chance = randomsOf(seed, hashText('region'));
  const lit = randomsOf(seed, hashText('picture'));
  const rims = edges > 0 ? edgeSurface(surface) : undefined;
  const hit = createHit();
  const world = vec3();
  return ([x, y, z]: readonly [number, number, number], number: number): boolean => {
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

/** The faces that something may stand on; says why where there are none, or where their picture cannot be gone by. */
export function standingRoom(
  surface: Surface,
  where: Omit<Where, 'seed'>,
  context: BuildContext,
): AreaPicker | undefined {
  if (where.picture && !isRead(where.picture, context)) return undefined;
  let faces = facesBetween(surface, where.from, where.to);
  for (const box of boxesOf(where, context)) faces = facesWithin(surface, box, faces);
  const picker = new AreaPicker(surface.mesh, faces);
  if (picker.area > 0) return picker;
  context.report({
    code: 'no-area',
    severity: 'error',
    message:
      surface.mesh.index.length === 0
        ? 'The prop has no faces. Choose another one.'
        : 'No face of the prop is within the slope limits, the region and the mask. Widen "Min slope" and "Max slope", or move the region or the mask.',
  });
  return undefined;
}
