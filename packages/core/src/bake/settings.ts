import * as yup from 'yup';
import { nameSchema } from '../document/schema.js';

/** How meshes are put together: one a piece and material, one a part, one a material, or a single one. */
export const MERGES = ['slot', 'part', 'material', 'all'] as const;
export type Merge = (typeof MERGES)[number];

export const PIVOTS = ['world', 'bottom', 'start'] as const;
export type Pivot = (typeof PIVOTS)[number];

export const TARGET_UNITS = ['m', 'cm', 'mm', 'in', 'ft'] as const;
export type TargetUnit = (typeof TARGET_UNITS)[number];
/** Units of length in a metre (the inch is 25.4 mm: international yard and pound agreement, 1959). */
export const PER_METRE: Record<TargetUnit, number> = { m: 1, cm: 100, mm: 1000, in: 1 / 0.0254, ft: 1 / 0.3048 };

/** What is baked, how fine, how it is put together, and which way round its target has the world. */
export interface BakeSettings {
  /** Factor on all divisions. */
  density: number;
  /** Names of the pieces; all that are visible when absent. And slots of material; all when absent. */
  pieces?: string[];
  slots?: string[];
  /** This far the lighter mesh may be off the one that it represents, metres; and this many triangles all of it may have. */
  within?: number;
  triangles?: number;
  merge: Merge;
  /** Keeps instances as one mesh with its places, where the format can hold them. */
  instances: boolean;
  unit: TargetUnit;
  up: 'y' | 'z';
  hand: 'right' | 'left';
  /** Where the origin of each piece is: that of the world, the middle of its underside, or the start of its line. */
  pivot: Pivot;
  /** The file holds the project it came from, where the format can. */
  recipe: boolean;
  /** Meshes are compressed without loss, where the format can. */
  compress: boolean;
  /** A file for each frame of the clock, the last one included, at this many a second; all stands still in each. */
  frames?: { first: number; last: number; rate: number };
}

/** Frames of one bake at most. */
export const MAX_FRAMES = 10_000;

/** Where the clock stands at a frame, of its loop, 0 … 1. @param seconds length of the loop */
export function phaseAt(frame: number, rate: number, seconds: number): number {
  const loops = frame / rate / seconds;
  return loops - Math.floor(loops);
}

export const PLAIN_SETTINGS: BakeSettings = {
  density: 1,
  merge: 'slot',
  instances: false,
  unit: 'm',
  up: 'y',
  hand: 'right',
  pivot: 'world',
  recipe: false,
  compress: false,
};

const names = yup.array(nameSchema.defined()).min(1).max(10_000).optional();

/** The settings as they come from outside; what is left out is as it is in `PLAIN_SETTINGS`. */
export const BAKE_FIELDS = {
  density: yup.number().min(0.05).max(20).optional(),
  pieces: names,
  slots: names,
  within: yup.number().min(1e-6).max(10).optional(),
  triangles: yup.number().integer().min(4).max(1e9).optional(),
  merge: yup.string().oneOf(MERGES).optional(),
  instances: yup.boolean().optional(),
  unit: yup.string().oneOf(TARGET_UNITS).optional(),
  up: yup
    .string()
    .oneOf(['y', 'z'] as const)
    .optional(),
  hand: yup
    .string()
    .oneOf(['right', 'left'] as const)
    .optional(),
  pivot: yup.string().oneOf(PIVOTS).optional(),
  recipe: yup.boolean().optional(),
  compress: yup.boolean().optional(),
  frames: yup
    .object({
      first: yup.number().integer().min(0).max(999_999).required(),
      last: yup
        .number()
        .integer()
        .min(yup.ref('first'), 'frames.last must not be before frames.first')
        .max(999_999)
        .required(),
      rate: yup.number().min(1).max(240).required(),
    })
    .noUnknown()
    .optional()
    .default(undefined)
    .test('few', `frames may be ${MAX_FRAMES} at most`, (range) => !range || range.last - range.first < MAX_FRAMES),
};

const KNOWN = yup.object(BAKE_FIELDS).noUnknown();

/** Whether something that was read is settings of a bake, or some of them. */
export const isBakeSettings = (value: unknown): value is Partial<BakeSettings> =>
  KNOWN.isValidSync(value, { strict: true });
