import { extname } from 'node:path';
import { fileURLToPath } from 'node:url';
import { KelpError } from '@kelp/core';
import { BAKE_FORMATS, type BakeFormat } from '@kelp/formats';
import type { BakeProgress, BakeResult, BakeTask } from '@kelp/server/bake-task';
import { BakeThreads } from '@kelp/server/bake-threads';
import { removeParts } from '@kelp/server/baked-file';
import { Command, InvalidArgumentError } from 'commander';
import { EXIT } from '../exit.js';
import { loadProject } from '../load-project.js';
import { memoryOption } from '../memory.js';
import { checkOut } from '../out-file.js';
import { findingLine, print, printJson } from '../print.js';

interface BakeFlags {
  piece?: string;
  density: number;
  memory: number;
  out: string;
  frames?: Frames;
  rate: number;
  json?: boolean;
}

/** Frames of the clock, the last one included. */
interface Frames {
  first: number;
  last: number;
}

/** Frames of one bake at most. */
const MOST_FRAMES = 10_000;

export const bakeCommand = (): Command =>
  new Command('bake')
    .description('Bake the pieces of a project to one file.')
    .argument('<file>', '.kelp archive or .kelp.json')
    .requiredOption('--out <file>', `where to write it; its ending says the format: ${BAKE_FORMATS.join(', ')}`)
    .option('--piece <name>', 'bake this piece alone')
    .option('--density <n>', 'factor on all divisions, 0.05 to 20', density, 1)
    .option('--frames <a-b>', 'a file for each frame of the clock, numbered before its ending: 0-23', frames)
    .option('--rate <n>', 'frames a second, 1 to 240', rate, 24)
    .addOption(memoryOption())
    .option('--json', 'print the report as one JSON value')
    .action(run);

async function run(
  file: string,
  { piece, density, memory, out, frames: range, rate: fps, json }: BakeFlags,
): Promise<void> {
  checkOut(
    out,
    BAKE_FORMATS.map((format) => `.${format}`),
    file,
  );
  const started = performance.now();
  const { document, props } = loadProject(file);
  const task = {
    text: JSON.stringify(document),
    files: props,
    piece,
    density,
    memory,
    format: extname(out).slice(1).toLowerCase() as BakeFormat,
    out,
  };
  const tasks = range ? framesOf(task, range, fps, document.clock.seconds) : [task];
  let result: Extract<BakeResult, { ok: true }> | undefined;
  for (const one of tasks) {
    const done = await bakeStoppably(one);
    if (!done) {
      process.exitCode = EXIT.stopped;
      return;
    }
    if (!done.ok) throw new KelpError(done.code, done.message);
    if (range && !json) print(`${one.out}: ${done.bytes.toLocaleString('en')} bytes`);
    result = done;
  }
  if (!result) return;
  const seconds = (performance.now() - started) / 1000;
  const pieces = result.pieces.map(({ name, length, triangles, vertices, findings }) => ({
    name,
    length,
    triangles,
    vertices,
    findings,
  }));
  if (json) return printJson({ pieces, bytes: result.bytes, seconds });
  for (const { name, length, triangles, findings } of pieces) {
    print(`${name}: ${length.toFixed(3)} m, ${triangles.toLocaleString('en')} triangles`);
    for (const finding of findings) print(`  ${findingLine(name, finding)}`);
  }
  if (!range) print(`${out}: ${result.bytes.toLocaleString('en')} bytes in ${seconds.toFixed(2)} s`);
}

/** A bake for each frame: all stands still where the clock has carried it. */
function framesOf(task: BakeTask, { first, last }: Frames, fps: number, seconds: number): BakeTask[] {
  const ending = extname(task.out);
  const digits = Math.max(4, String(last).length);
  return Array.from({ length: last - first + 1 }, (_, k) => {
    const loops = (first + k) / fps / seconds;
    const number = String(first + k).padStart(digits, '0');
    return {
      ...task,
      phase: loops - Math.floor(loops),
      out: `${task.out.slice(0, -ending.length)}.${number}${ending}`,
    };
  });
}

const SIGNALS = ['SIGINT', 'SIGTERM'] as const;

/** In a thread: this one is free to hear Ctrl-C, and takes away what was half done. Gives nothing when it was stopped. */
async function bakeStoppably(task: BakeTask): Promise<BakeResult | undefined> {
  const threads = new BakeThreads(fileURLToPath(new URL('.', import.meta.url)), 1);
  const stop = new AbortController();
  const abort = () => stop.abort();
  for (const signal of SIGNALS) process.once(signal, abort);
  try {
    return await threads.run(task, { signal: stop.signal, onProgress: tellProgress });
  } catch (error) {
    if (stop.signal.aborted) return undefined;
    throw error;
  } finally {
    for (const signal of SIGNALS) process.off(signal, abort);
    await threads.close();
    removeParts(task.out);
  }
}

/** One line that is written over, where somebody looks. */
function tellProgress({ done, total, name }: BakeProgress): void {
  const line = done < total ? `${Math.floor((100 * done) / total)} % ${name}` : '';
  if (process.stderr.isTTY) process.stderr.write(`\r\u001b[K${line}`);
}

function frames(text: string): Frames {
  const [, first, last] = /^(\d{1,6})-(\d{1,6})$/.exec(text) ?? [];
  const range = { first: Number(first), last: Number(last) };
  if (!(range.last >= range.first)) throw new InvalidArgumentError('It must be two frames, the first one first: 0-23.');
  if (range.last - range.first >= MOST_FRAMES) throw new InvalidArgumentError(`At most ${MOST_FRAMES} frames at once.`);
  return range;
}

function rate(text: string): number {
  const value = Number(text);
  if (!(value >= 1 && value <= 240)) throw new InvalidArgumentError('It must be a number from 1 to 240.');
  return value;
}

function density(text: string): number {
  const value = Number(text);
  if (!(value >= 0.05 && value <= 20)) throw new InvalidArgumentError('It must be a number from 0.05 to 20.');
  return value;
}
