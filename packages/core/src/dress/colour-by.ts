import { type Mesh, vertexCount } from '../mesh/mesh.js';
import { shellsOf } from '../mesh/shells.js';
import { weldPositions } from '../mesh/weld.js';
import { linearColour, srgbChannel } from '../numeric/colour.js';
import { childId, hashText, randomsOf } from '../numeric/random.js';
import type { MeshPart, Part, PlacedPart, StrandsPart } from '../unit/carriers.js';
import type { SkinChoice } from './skin.js';
import { wallsOf } from './walls.js';

type ColourChoice = Pick<SkinChoice, 'colour' | 'second' | 'colourBy' | 'shades' | 'colourSeed'>;

/**
 * Gives parts colours of their own: each strand, shell or element its shade between two colours, or all of them from the
 * one colour at the start of the length to the other at its end.
 * @returns the parts with linear rgb that multiplies `base`, none of it above 1
 */
export function colouredBy(parts: readonly Part[], p: ColourChoice): { parts: Part[]; base: string } {
  if (p.colourBy === 'one') return { parts: [...parts], base: p.colour };
  const [from, to] = [linearColour(p.colour), linearColour(p.second)];
  const base = from.map((channel, k) => Math.max(channel, to[k]));
  const ends = [from, to].map((colour) => colour.map((channel, k) => (base[k] > 0 ? channel / base[k] : 1)));
  const draw = randomsOf(p.colourSeed, hashText('colour'));
  const shade: Shade = {
    each: (id) => Math.floor(p.shades * draw(id)) / (p.shades - 1),
    byLength: p.colourBy === 'length',
    mix: (share, out, at) => {
      for (let k = 0; k < 3; k++) out[at + k] = ends[0][k] + share * (ends[1][k] - ends[0][k]);
    },
  };
  return { parts: parts.map((part) => coloured(part, shade)), base: hexColour(base) };
}

interface Shade {
  /** How far towards the second colour the thing of this number is. */
  each(id: number): number;
  byLength: boolean;
  /** Writes the colour a share of the way. */
  mix(share: number, out: Float32Array, at: number): void;
}

function coloured(part: Part, shade: Shade): Part {
  if (part.kind === 'placed') return colouredPlaces(part, shade);
  return part.kind === 'mesh' ? colouredMesh(part, shade) : colouredStrands(part, shade);
}

function colouredPlaces(part: PlacedPart, shade: Shade): Part {
  const { id, along } = part.places;
  const colour = new Float32Array(3 * id.length);
  const length = greatestOf(along);
  id.forEach((one, k) => {
    shade.mix(shade.byLength ? along[k] / length : shade.each(one), colour, 3 * k);
  });
  return { ...part, places: { ...part.places, colour: times(colour, part.places.colour) } };
}

function colouredMesh(part: MeshPart, shade: Shade): Part {
  const { mesh, elements } = part;
  const colour = new Float32Array(3 * vertexCount(mesh));
  if (shade.byLength) {
    sharesAlong(mesh).forEach((share, v) => {
      shade.mix(share, colour, 3 * v);
    });
  } else {
    const number = numbersOf(mesh, elements, hashText(part.id));
    for (let v = 0; v < colour.length / 3; v++) shade.mix(shade.each(number(v)), colour, 3 * v);
  }
  const own = mesh.attributes?.['colour'];
  const data = times(colour, own?.size === 3 ? own.data : undefined);
  return { ...part, mesh: { ...mesh, attributes: { ...mesh.attributes, colour: { size: 3, data } } } };
}

/** The number of the element, or of the shell, that a vertex is of. */
function numbersOf(mesh: Mesh, elements: MeshPart['elements'], id: number): (vertex: number) => number {
  if (elements) return (v) => elements.places.id[elements.of[v]] ?? id;
  const { of: shells } = shellsOf(mesh);
  return (v) => childId(id, shells[v]);
}

function colouredStrands(part: StrandsPart, shade: Shade): Part {
  const { start, id, pointData, position } = part.curves;
  const colour = new Float32Array(position.length);
  for (let c = 0; c + 1 < start.length; c++)
    for (let q = start[c]; q < start[c + 1]; q++) {
      const way = shade.byLength ? (q - start[c]) / Math.max(1, start[c + 1] - start[c] - 1) : shade.each(id[c]);
      shade.mix(way, colour, 3 * q);
    }
  return {
    ...part,
    curves: { ...part.curves, pointData: { ...pointData, colour: times(colour, pointData['colour']) } },
  };
}

/** What was tinted before stays so. */
const times = (colour: Float32Array, own: ArrayLike<number> | undefined): Float32Array =>
  own ? colour.map((value, i) => value * own[i]) : colour;

const greatestOf = (values: ArrayLike<number>): number => {
  let most = 0;
  for (let i = 0; i < values.length; i++) most = Math.max(most, values[i]);
  return most || 1;
};

/**
 * How far along each vertex is, 0 … 1 of its own shell; what closes the ends of a wall is as far along as the wall
 * that it is on.
 */
function sharesAlong(mesh: Mesh): Float32Array {
  const { uv, index, quads, position } = mesh;
  const { wall, shells, low, high } = wallsOf(mesh);
  const { remap, count } = weldPositions(position);
  const ofPlace = new Float32Array(count).fill(-1);
  wall.forEach((is, v) => {
    const shell = shells[v];
    if (is) ofPlace[remap[v]] = (uv[2 * v + 1] - low[shell]) / (high[shell] - low[shell] || 1);
  });
  // from the rims of the ends inwards, ring by ring
  for (let spread = true; spread; ) {
    spread = false;
    for (let i = 6 * quads; i < index.length; i += 3) {
      const corners = [remap[index[i]], remap[index[i + 1]], remap[index[i + 2]]];
      const share = Math.max(...corners.map((place) => ofPlace[place]));
      if (share < 0) continue;
      for (const place of corners)
        if (ofPlace[place] < 0) {
          ofPlace[place] = share;
          spread = true;
        }
    }
  }
  return Float32Array.from(remap, (place, v) =>
    wall[v] ? (uv[2 * v + 1] - low[shells[v]]) / (high[shells[v]] - low[shells[v]] || 1) : Math.max(0, ofPlace[place]),
  );
}

const hexColour = (linear: readonly number[]): string =>
  `#${linear
    .map((c) =>
      Math.round(255 * srgbChannel(c))
        .toString(16)
        .padStart(2, '0'),
    )
    .join('')}`;
