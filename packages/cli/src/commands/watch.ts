import { createHash } from 'node:crypto';
import { mkdirSync, watch } from 'node:fs';
import { availableParallelism } from 'node:os';
import { basename, dirname, join, resolve } from 'node:path';
import { type KelpDocument, type Piece, pieceSource } from '@kelp/core';
import type { BakeTask } from '@kelp/server/bake-task';
import { fileName } from '@kelp/server/file-name';
import { Command } from 'commander';
import { type BakeFlags, type BakeFormat, ENDINGS, formatOption, withBakeOptions } from '../bake-options.js';
import { bakeAll } from '../baking.js';
import { EXIT, tellError } from '../exit.js';
import { checkOut } from '../out-file.js';
import { print } from '../print.js';
import { taskOf } from './bake.js';

interface Flags extends BakeFlags {
  out: string;
  format?: BakeFormat;
  once?: boolean;
}

/** A program that saves writes several times: it is waited until it has been still for so long, milliseconds. */
const STILL = 150;

export const watchCommand = (): Command =>
  withBakeOptions(
    new Command('watch')
      .description('Bake each piece of a project to its own file, and again whenever it changes.')
      .argument('<file>', '.kelp archive or .kelp.json')
      .requiredOption('--out <folder>', 'output folder; files are named after the pieces')
      .addOption(formatOption())
      .option('--once', 'bake once and exit'),
  ).action(run);

async function run(file: string, flags: Flags, command: Command): Promise<void> {
  mkdirSync(flags.out, { recursive: true });
  const known = new Map<string, string>();
  if (!(await bakeChanged(file, flags, known, command)) || flags.once) return;
  let waiting: NodeJS.Timeout | undefined;
  let working = Promise.resolve(true);
  await new Promise<void>((end) => {
    // the folder is watched: a program that saves puts another file in the place of the old one
    const watcher = watch(dirname(resolve(file)), (_event, name) => {
      if (name !== null && name !== basename(file)) return;
      clearTimeout(waiting);
      waiting = setTimeout(() => {
        working = working.then((going) => going && bakeChanged(file, flags, known, command));
        working.then((going) => !going && stop());
      }, STILL);
    });
    const stop = () => {
      clearTimeout(waiting);
      watcher.close();
      process.exitCode = EXIT.stopped;
      end();
    };
    for (const signal of ['SIGINT', 'SIGTERM'] as const) process.once(signal, stop);
    print(`Watching ${file}. Ctrl-C stops.`);
  });
}

/** Bakes what is not as it was. A file that cannot be read is reported, and waited for. @returns false when it was stopped */
async function bakeChanged(file: string, flags: Flags, known: Map<string, string>, command: Command): Promise<boolean> {
  try {
    const task = taskOf(file, join(flags.out, `all.${flags.format ?? 'glb'}`), flags, command);
    const document = JSON.parse(task.text) as KelpDocument;
    const pieces = document.pieces.filter(({ name, visible }) => (flags.piece ? flags.piece.includes(name) : visible));
    const keys = new Map(
      pieces.map((piece) => [piece.id, createHash('sha256').update(pieceSource(document, piece)).digest('hex')]),
    );
    const changed = pieces.filter(({ id }) => known.get(id) !== keys.get(id));
    const tasks = changed.map((piece) => pieceTask(task, piece, flags, pieces.slice(0, pieces.indexOf(piece))));
    for (const { out } of tasks) checkOut(out, ENDINGS, file);
    const whole = await bakeAll(tasks, Math.min(4, Math.max(1, availableParallelism() - 1)), (result, { out }) =>
      print(result.ok ? `${out}: ${result.bytes.toLocaleString('en')} bytes` : `${out}: ${result.message}`),
    );
    if (!whole) process.exitCode = EXIT.stopped;
    else for (const [id, key] of keys) known.set(id, key);
    return whole;
  } catch (error) {
    tellError(error, false);
    if (flags.once) process.exitCode = EXIT.failed;
    return !flags.once;
  }
}

/** @param before pieces whose names come first: a name that is taken gets a number */
function pieceTask(task: BakeTask, piece: Piece, flags: Flags, before: readonly Piece[]): BakeTask {
  const plain = fileName(piece.name);
  const same = before.filter(({ name }) => fileName(name) === plain).length;
  const called = same > 0 ? `${plain}-${same + 1}` : plain;
  return {
    ...task,
    settings: { ...task.settings, pieces: [piece.id] },
    called,
    out: join(flags.out, `${called}.${task.format}`),
  };
}
