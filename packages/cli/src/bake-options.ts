import { BAKE_FIELDS, type BakeSettings, MERGES, MOST_FRAMES, PIVOTS, TARGET_UNITS } from '@kelp/core';
import { BAKE_FORMATS, type BakeFormat } from '@kelp/formats';
import { type Command, InvalidArgumentError, Option } from 'commander';
import { memoryOption } from './memory.js';

export interface BakeFlags {
  piece?: string[];
  slot?: string[];
  density: number;
  within?: number;
  triangles?: number;
  merge: BakeSettings['merge'];
  instances?: boolean;
  unit: BakeSettings['unit'];
  up: BakeSettings['up'];
  hand: BakeSettings['hand'];
  pivot: BakeSettings['pivot'];
  recipe?: boolean;
  compress?: boolean;
  memory: number;
}

/** Gives a command the options by which a bake is told what to make and how. */
export const withBakeOptions = (command: Command): Command =>
  command
    .option('--piece <name>', 'bake this piece alone; may be said again', several)
    .option('--slot <name>', 'and only what wears this slot of material; may be said again', several)
    .option('--density <n>', 'factor on all divisions, 0.05 to 20', density, 1)
    .option('--within <mm>', 'lighter: as coarse as it may be without being further off than this', within)
    .option('--triangles <n>', 'lighter: no more than so many triangles in all', triangles)
    .addOption(new Option('--merge <how>', 'one mesh a piece and slot, a part, a material, or one of all').choices(MERGES).default('slot'))
    .option('--instances', 'what stands many times stays one mesh with its places (GLB, USDA)')
    .addOption(new Option('--unit <unit>', 'length of 1 in the file; a GLB is in metres').choices(TARGET_UNITS).default('m'))
    .addOption(new Option('--up <axis>', 'the axis that points up; in a GLB it is y').choices(['y', 'z']).default('y'))
    .addOption(new Option('--hand <side>', 'handedness of its axes; a GLB is right-handed').choices(['right', 'left']).default('right'))
    .addOption(new Option('--pivot <place>', 'origin of each piece (GLB, USDA)').choices(PIVOTS).default('world'))
    .option('--recipe', 'the file holds its project too (GLB)')
    .option('--compress', 'meshes are compressed without loss (GLB: EXT_meshopt_compression)')
    .addOption(memoryOption()); // biome-ignore format: a line each

const several = (value: string, before: string[] = []): string[] => [...before, value];

export const settingsOf = ({ piece, slot, density, within, triangles, merge, instances, unit, up, hand, pivot, recipe, compress }: BakeFlags): BakeSettings => ({
  density,
  ...(piece ? { pieces: piece } : {}),
  ...(slot ? { slots: slot } : {}),
  ...(within === undefined ? {} : { within }),
  ...(triangles === undefined ? {} : { triangles }),
  merge,
  instances: instances === true,
  unit,
  up,
  hand,
  pivot,
  recipe: recipe === true,
  compress: compress === true,
}); // biome-ignore format: its head in one line

/** Of these settings only those whose options were said. */
export function saidOf(flags: BakeFlags, command: Command): Partial<BakeSettings> {
  const option = { pieces: 'piece', slots: 'slot' } as Record<string, string>;
  const said = Object.entries(settingsOf(flags)).filter(([name]) => command.getOptionValueSource(option[name] ?? name) === 'cli');
  return Object.fromEntries(said);
} // biome-ignore format: its longest line

export const formatOption = (): Option =>
  new Option('--format <format>', 'format of the files in the folder --out').choices(BAKE_FORMATS);

export const ENDINGS = BAKE_FORMATS.map((format) => `.${format}`);
export type { BakeFormat };

/** Frames of the clock, the last one included. */
export interface Frames {
  first: number;
  last: number;
}

export function frames(text: string): Frames {
  const [, first, last] = /^(\d{1,6})-(\d{1,6})$/.exec(text) ?? [];
  const range = { first: Number(first), last: Number(last) };
  if (!(range.last >= range.first)) throw new InvalidArgumentError('It must be two frames, the first one first: 0-23.');
  if (range.last - range.first >= MOST_FRAMES) throw new InvalidArgumentError(`At most ${MOST_FRAMES} frames at once.`);
  return range;
}

/** Reads a number of an option. @param isFine what it may be, said by `words` */
const number = (isFine: (value: number) => boolean, words: string) => (text: string): number => {
  const value = Number(text);
  if (text.trim() === '' || !isFine(value)) throw new InvalidArgumentError(`It must be ${words}.`);
  return value;
}; // biome-ignore format: its head in one line

export const rate = number((value) => value >= 1 && value <= 240, 'a number from 1 to 240');
export const jobs = number(
  (value) => Number.isInteger(value) && value >= 1 && value <= 64,
  'a whole number from 1 to 64',
);
const density = number((value) => BAKE_FIELDS.density.isValidSync(value), 'a number from 0.05 to 20');
const triangles = number((value) => BAKE_FIELDS.triangles.isValidSync(value), 'a whole number from 4 to 1000000000');
const inMillimetres = number(
  (value) => BAKE_FIELDS.within.isValidSync(value / 1000),
  'millimetres from 0.001 to 10000',
);
const within = (text: string): number => inMillimetres(text) / 1000;
