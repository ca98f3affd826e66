import { mkdirSync, readFileSync } from 'node:fs';
import { basename, extname, join } from 'node:path';
import { KelpError, phaseAt } from '@kelp/core';
import { bakeSettingsIn } from '@kelp/formats';
import type { BakeResult, BakeTask } from '@kelp/server/bake-task';
import { Command } from 'commander';
import {
  type BakeFlags,
  type BakeFormat,
  ENDINGS,
  type Frames,
  formatOption,
  frames,
  jobs,
  rate,
  saidOf,
  settingsOf,
  withBakeOptions,
} from '../bake-options.js';
import { bakeAll } from '../baking.js';
import { EXIT, UsageError } from '../exit.js';
import { inputFiles } from '../input-files.js';
import { loadProject } from '../load-project.js';
import { checkOut } from '../out-file.js';
import { findingLine, print, printJson } from '../print.js';

interface Flags extends BakeFlags {
  out: string;
  format?: BakeFormat;
  frames?: Frames;
  rate: number;
  jobs: number;
  json?: boolean;
}

export const bakeCommand = (): Command =>
  withBakeOptions(
    new Command('bake')
      .description('Bake the pieces of a project to one file, or of several projects to a folder.')
      .argument(
        '<files...>',
        '.kelp archives, .kelp.json, or .glb files that include their project; * and ? are wildcards',
      )
      .requiredOption(
        '--out <file>',
        `output file; the extension sets the format: ${ENDINGS.join(', ')}. A folder with --format or several projects`,
      )
      .addOption(formatOption()),
  )
    .option('--frames <a-b>', 'frame sequence: one numbered file per frame, such as 0-23', frames)
    .option('--rate <n>', 'frames per second, 1 to 240', rate, 24)
    .option('--jobs <n>', 'number of parallel bakes', jobs, 1)
    .option('--json', 'print the report as one JSON value')
    .action(run);

async function run(names: string[], flags: Flags, command: Command): Promise<void> {
  const files = inputFiles(names);
  const { out, frames: range, json } = flags;
  const many = files.length > 1 || flags.format !== undefined;
  if (many && !flags.format) throw new UsageError('Several projects need --format, and a folder for --out.');
  if (many) mkdirSync(out, { recursive: true });
  const started = performance.now();
  const jobs = files.map((file) => {
    const to = many ? join(out, `${basename(file).replace(/\.(kelp|kelp\.json|glb)$/i, '')}.${flags.format}`) : out;
    checkOut(to, ENDINGS, file);
    return { file, task: taskOf(file, to, flags, command) };
  });
  const tasks = jobs.flatMap(({ task }) => (range ? framesOf(task, range, flags.rate) : [task]));
  const done = new Map<string, Extract<BakeResult, { ok: true }>>();
  const whole = await bakeAll(tasks, flags.jobs, (result, task) => {
    if (!result.ok) throw new KelpError(result.code, many ? `${task.out}: ${result.message}` : result.message);
    if (range && !json) print(`${task.out}: ${result.bytes.toLocaleString('en')} bytes`);
    done.set(task.out, result);
  });
  if (!whole) {
    process.exitCode = EXIT.stopped;
    return;
  }
  const seconds = (performance.now() - started) / 1000;
  const reports = tasks.flatMap(({ out: to }) => {
    const result = done.get(to);
    return result
      ? [{ out: to, pieces: result.pieces.map(({ volume: _, ...piece }) => piece), bytes: result.bytes }]
      : [];
  });
  const last = reports[reports.length - 1];
  if (json) return printJson(many ? { files: reports, seconds } : { pieces: last.pieces, bytes: last.bytes, seconds });
  for (const { out: to, pieces, bytes } of range ? [last] : reports) {
    for (const { name, length, triangles, off, findings } of pieces) {
      const lighter = off === undefined ? '' : `, max error ${(1000 * off).toPrecision(2)} mm`;
      print(`${name}: ${length.toFixed(3)} m, ${triangles.toLocaleString('en')} triangles${lighter}`);
      for (const finding of findings) print(`  ${findingLine(name, finding)}`);
    }
    if (!range) print(`${to}: ${bytes.toLocaleString('en')} bytes in ${seconds.toFixed(2)} s`);
  }
}

/** A bake of a project as it is on the disk now. @param command of which options that were said go before what a GLB says */
export function taskOf(file: string, out: string, flags: BakeFlags, command: Command): BakeTask & { seconds: number } {
  const { document, props } = loadProject(file);
  const ending = extname(out);
  return {
    text: JSON.stringify(document),
    files: props,
    settings: {
      ...settingsOf(flags),
      ...(isGlb(file) ? bakeSettingsIn(basename(file), readFileSync(file)) : {}),
      ...saidOf(flags, command),
    },
    called: basename(out, ending),
    memory: flags.memory,
    format: ending.slice(1).toLowerCase() as BakeFormat,
    out,
    seconds: document.clock.seconds,
  };
}

const isGlb = (file: string): boolean => /\.glb$/i.test(file);

/** A bake for each frame: all stands still where the clock has carried it. */
function framesOf(
  { seconds, ...task }: BakeTask & { seconds: number },
  { first, last }: Frames,
  fps: number,
): BakeTask[] {
  const ending = extname(task.out);
  const digits = Math.max(4, String(last).length);
  return Array.from({ length: last - first + 1 }, (_, k) => {
    const out = `${task.out.slice(0, -ending.length)}.${String(first + k).padStart(digits, '0')}${ending}`;
    return { ...task, phase: phaseAt(first + k, fps, seconds), called: basename(out, ending), out };
  });
}
