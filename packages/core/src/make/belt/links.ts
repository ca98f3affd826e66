import { singleCurve } from '../../curve/curve-set.js';
import { type Mesh, mergeMeshes } from '../../mesh/mesh.js';
import { transformMesh } from '../../mesh/transform.js';
import { roundedBoxSection, sectionFromOutline } from '../../section/section.js';
import { sweep } from '../../sweep/sweep.js';
import { CHAIN_KINDS, type ChainKind } from '../chain/kinds.js';
import { rollerLinks } from '../chain/rollers.js';
import type { BeltKind } from './parameters.js';

// What is on a belt step by step, in the frame of its line: x across, y outwards, z along; metres.

/** Sizes of a belt's tooth against its pitch: how deep, how wide at its foot and its tip (ISO 5296, XL: 1.27, 2.57, 1.38 of 5.08 mm; from memory). */
export const TOOTH = { deep: 0.25, foot: 0.506, tip: 0.272 } as const;
/** Half the angle between the flanks of a V-belt and of its groove (ISO 4184: 40°; from memory). */
export const FLANK = Math.PI / 9;
/** The band of a toothed belt is so thick, in its thickness: the rest is teeth, where the pitch has room for them. */
export const BAND = 0.5;

export interface StepSizes {
  kind: BeltKind;
  width: number;
  thickness: number;
  pitch: number;
  sides: number;
}

/** A mesh that is at every step, or at each second one. */
export interface StepMesh {
  id: string;
  name: string;
  slot: string;
  mesh: Mesh;
  /** Of two steps those it is at. */
  at: readonly number[];
  /** It spans from joint to joint. */
  spans: boolean;
}

const EACH = [0, 1] as const;

/** How deep a toothed belt's teeth reach below its band, metres. */
export const toothDeep = ({ pitch }: Pick<StepSizes, 'pitch'>): number => TOOTH.deep * pitch;

/** Roller of a chain of a pitch, radius in metres (proportions of ISO 606 for B chains). */
export const rollerOf = (pitch: number): number => pitch / 2 / ROLLER.pitch;
const ROLLER = CHAIN_KINDS.find(({ value }) => value === 'roller-08b') ?? CHAIN_KINDS[0];

/** The chain of a pitch, so wide between its inner plates. */
export const chainOf = ({ pitch, width }: Pick<StepSizes, 'pitch' | 'width'>): ChainKind => ({
  ...ROLLER,
  width: Math.max(0.2, width / 2 / rollerOf(pitch)),
});

export function stepMeshes(sizes: StepSizes): StepMesh[] {
  const { kind, width, pitch, sides } = sizes;
  switch (kind) {
    case 'toothed':
      return [{ id: 'teeth', name: 'Teeth', slot: 'main', mesh: tooth(sizes), at: EACH, spans: false }];
    case 'roller': {
      const radius = rollerOf(pitch);
      const { inner, outer } = rollerLinks(chainOf({ pitch, width }), Math.max(8, sides >> 2));
      const sized = (mesh: Mesh) =>
        transformMesh(mesh, Float64Array.of(radius, 0, 0, 0, 0, radius, 0, 0, 0, 0, radius, 0, 0, 0, 0, 1));
      return [
        { id: 'links', name: 'Inner links', slot: 'main', mesh: sized(inner), at: [0], spans: true },
        { id: 'outer-links', name: 'Outer links', slot: 'main', mesh: sized(outer), at: [1], spans: true },
      ];
    }
    case 'shoes':
      return [{ id: 'shoes', name: 'Shoes', slot: 'main', mesh: shoe(sizes), at: EACH, spans: true }];
    case 'slats':
      return [{ id: 'slats', name: 'Slats', slot: 'slats', mesh: slat(sizes), at: EACH, spans: true }];
    default:
      return [];
  }
}

/** An outline in y (outwards) and z (along), drawn across the belt. */
function across(places: readonly (readonly [y: number, z: number])[], half: number): Mesh {
  const area = places.reduce(
    (sum, [y, z], i) => sum + y * places[(i + 1) % places.length][1] - places[(i + 1) % places.length][0] * z,
    0,
  );
  const turned = area > 0 ? places : places.toReversed();
  const section = sectionFromOutline(
    Float64Array.from(turned, ([y]) => y),
    Float64Array.from(turned, ([, z]) => z),
    { hardAngle: 0.35 },
  );
  // frame's normal up: its x is outwards, its y lies along z or against it
  return sweep(singleCurve([-half, 0, 0, half, 0, 0]), section, { radius: 1, startDirection: [0, 1, 0] });
}

const box = (wide: number, high: number, long: number, at: readonly [number, number, number], rounding = 0.3): Mesh =>
  transformMesh(
    sweep(singleCurve([0, 0, -long / 2, 0, 0, long / 2]), roundedBoxSection(wide / high, rounding, 2), {
      radius: high / 2,
      startDirection: [0, 1, 0],
    }),
    Float64Array.of(1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, ...at, 1),
  );

/** A trapezoid on the inner side of the band; it goes a little into it. */
function tooth({ pitch, width, thickness }: StepSizes): Mesh {
  const top = -(BAND * thickness) / 2;
  const foot = top - toothDeep({ pitch });
  const [a, b] = [(TOOTH.foot * pitch) / 2, (TOOTH.tip * pitch) / 2];
  const into = 0.2 * BAND * thickness;
  return across(
    [
      [top + into, -a],
      [top, -a],
      [foot, -b],
      [foot, b],
      [top, a],
      [top + into, a],
    ],
    width / 2,
  );
}

/** Of a slat's thickness its board; the rest is the band below. */
export const SLAT = 0.6;
/** How much of a pitch is left free between two shoes or slats. */
const FREE = 0.06;

/** A plate with a cleat on its outer side and a guide on its inner, and knuckles that its pin goes through. */
function shoe({ pitch, width, thickness: t }: StepSizes): Mesh {
  const long = (1 - FREE) * pitch;
  const bevel = 0.12 * long;
  const plate = across(
    [
      [-t / 2, -long / 2],
      [-t / 2, long / 2],
      [0.25 * t, long / 2],
      [t / 2, long / 2 - bevel],
      [t / 2, bevel - long / 2],
      [0.25 * t, -long / 2],
    ],
    width / 2,
  );
  const cleat = across(
    [
      [0.3 * t, -0.16 * long],
      [0.3 * t, 0.16 * long],
      [1.1 * t, 0.07 * long],
      [1.1 * t, -0.07 * long],
    ],
    0.47 * width,
  );
  const pin = (side: number) =>
    box(0.16 * width, 0.6 * t, FREE * pitch + 0.2 * long, [side * 0.3 * width, 0, long / 2 + (FREE * pitch) / 2], 1);
  return mergeMeshes([plate, cleat, pin(-1), pin(1)]);
}

/** A board with rounded edges on its bearer. */
function slat({ pitch, width, thickness: t }: StepSizes): Mesh {
  const section = roundedBoxSection(((1 - 2 * FREE) * pitch) / (SLAT * t), 0.8, 3);
  const board = sweep(singleCurve([-width / 2, 0, 0, width / 2, 0, 0]), section, {
    radius: (SLAT * t) / 2,
    startDirection: [0, 1, 0],
  });
  return transformMesh(board, Float64Array.of(1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, (t - SLAT * t) / 2, 0, 1));
}
