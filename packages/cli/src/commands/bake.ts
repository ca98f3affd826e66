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
  json?: boolean;
}

export const bakeCommand = (): Command =>
  new Command('bake')
    .description('Bake the pieces of a project to one file.')
    .argument('<file>', '.kelp archive or .kelp.json')
    .requiredOption('--out <file>', `where to write it; its ending says the format: ${BAKE_FORMATS.join(', ')}`)
    .option('--piece <name>', 'bake this piece alone')
    .option('--density <n>', 'factor on all divisions, 0.05 to 20', density, 1)
    .addOption(memoryOption())
    .option('--json', 'print the report as one JSON value')
    .action(run);

async function run(file: string, { piece, density, memory, out, json }: BakeFlags): Promise<void> {
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
  const result = await bakeStoppably(task);
  if (!result) {
    process.exitCode = EXIT.stopped;
    return;
  }
  if (!result.ok) throw new KelpError(result.code, result.message);
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
  print(`${out}: ${result.bytes.toLocaleString('en')} bytes in ${seconds.toFixed(2)} s`);
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

function density(text: string): number {
  const value = Number(text);
  if (!(value >= 0.05 && value <= 20)) throw new InvalidArgumentError('It must be a number from 0.05 to 20.');
  return value;
}
