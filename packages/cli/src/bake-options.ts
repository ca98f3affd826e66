import { BAKE_FIELDS, type BakeSettings, MAX_FRAMES, MERGES, PIVOTS, TARGET_UNITS } from '@kelp/core';
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

/** Gives a command the options by which a bake learns what to make and how. */
export const withBakeOptions = (command: Command): Command =>
  command
    .option('--piece <name>', 'bake only this piece; repeatable', several)
    .option('--slot <name>', 'bake only this material slot; repeatable', several)
    .option('--density <n>', 'factor on all divisions, 0.05 to 20', density, 1)
    .option('--within <mm>', 'max error: coarsest mesh within this distance of the full surface', within)
    .option('--triangles <n>', 'triangle limit for the whole bake', triangles)
    .addOption(
      new Option('--merge <how>', 'group meshes by slot, part or material, or as a single mesh')
        .choices(MERGES)
        .default('slot'),
    )
    .option('--instances', 'keep instances (GLB, USDA)')
    .addOption(
      new Option('--unit <unit>', 'length unit of the file; a GLB is always in metres')
        .choices(TARGET_UNITS)
        .default('m'),
    )
    .addOption(new Option('--up <axis>', 'up axis of the file; always y in a GLB').choices(['y', 'z']).default('y'))
    .addOption(
      new Option('--hand <side>', 'handedness of the axes; a GLB is always right-handed')
        .choices(['right', 'left'])
        .default('right'),
    )
    .addOption(new Option('--pivot <place>', 'pivot of each piece (GLB, USDA)').choices(PIVOTS).default('world'))
    .option('--recipe', 'include the editable project (GLB)')
    .option('--compress', 'compress meshes without loss (GLB: EXT_meshopt_compression)')
    .addOption(memoryOption());

const several = (value: string, before: string[] = []): string[] => [...before, value];

export const settingsOf = ({
  piece,
  slot,
  density,
  within,
  triangles,
  merge,
  instances,
  unit,
  up,
  hand,
  pivot,
  recipe,
  compress,
}: BakeFlags): BakeSettings => ({
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
});

/** Of these settings only those whose options were said. */
export function saidOf(flags: BakeFlags, command: Command): Partial<BakeSettings> {
  const option = { pieces: 'piece', slots: 'slot' } as Record<string, string>;
  const said = Object.entries(settingsOf(flags)).filter(
    ([name]) => command.getOptionValueSource(option[name] ?? name) === 'cli',
  );
  return Object.fromEntries(said);
}

export const formatOption = (): Option =>
  new Option('--format <format>', 'file format in the folder --out').choices(BAKE_FORMATS);

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
  if (!(range.last >= range.first)) throw new InvalidArgumentError('Must be two frames in order, such as 0-23.');
  if (range.last - range.first >= MAX_FRAMES) throw new InvalidArgumentError(`At most ${MAX_FRAMES} frames at once.`);
  return range;
}

/** Reads a number of an option. @param isFine what it may be, said by `words` */
const number =
  (isFine: (value: number) => boolean, words: string) =>
  (text: string): number => {
    const value = Number(text);
    if (text.trim() === '' || !isFine(value)) throw new InvalidArgumentError(`Must be ${words}.`);
    return value;
  };

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
