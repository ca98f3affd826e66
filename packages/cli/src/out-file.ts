import {
  accessSync,
  closeSync,
  constants,
  existsSync,
  fsyncSync,
  openSync,
  renameSync,
  rmSync,
  statSync,
  writeSync,
} from 'node:fs';
import { basename, dirname, extname, join, resolve } from 'node:path';
import { KelpError } from '@kelp/core';
import { UsageError } from './exit.js';

/**
 * Looks at where a result is to go before any work is done for it.
 * @param formats endings that are written
 * @param input what is read; it is never written over
 * @throws UsageError for another ending and for the input itself; KelpError where nothing can be written
 */
export function checkOut(out: string, formats: readonly string[], input?: string): void {
  if (!formats.includes(extname(out).toLowerCase()))
    throw new UsageError(`--out ${out}: this command writes ${formats.join(', ')}. Use one of these extensions.`);
  if (input !== undefined && isSameFile(out, input))
    throw new UsageError(`--out ${out} is the input file. Choose another name.`);
  const folder = dirname(resolve(out));
  const stat = statSync(folder, { throwIfNoEntry: false });
  if (!stat?.isDirectory())
    throw new KelpError('BAD_FILE', `${folder} is not a folder. Create it first, or choose another one.`);
  if (statSync(out, { throwIfNoEntry: false })?.isDirectory())
    throw new KelpError('BAD_FILE', `${out} is a folder. Add a file name.`);
  try {
    accessSync(folder, constants.W_OK);
    if (existsSync(out)) accessSync(out, constants.W_OK);
  } catch {
    throw new KelpError('BAD_FILE', `${out} cannot be written: permission denied`);
  }
}

function isSameFile(a: string, b: string): boolean {
  const [one, other] = [a, b].map((path) => statSync(path, { throwIfNoEntry: false }));
  return one && other ? one.ino === other.ino && one.dev === other.dev : resolve(a) === resolve(b);
}

/**
 * Writes a file that is there whole or not at all: beside its place first, on the disk, then renamed over what was there.
 * A full disk or a stop on the way leaves the old file as it was, and nothing else.
 */
export function writeWhole(out: string, bytes: Uint8Array): void {
  const beside = join(dirname(resolve(out)), `.${basename(out)}.${process.pid}.part`);
  const stopped = () => {
    rmSync(beside, { force: true });
    process.exit(130);
  };
  for (const signal of ['SIGINT', 'SIGTERM'] as const) process.once(signal, stopped);
  try {
    const file = openSync(beside, 'wx');
    try {
      for (let at = 0; at < bytes.length; ) at += writeSync(file, bytes, at);
      fsyncSync(file);
    } finally {
      closeSync(file);
    }
    renameSync(beside, out);
  } catch (error) {
    rmSync(beside, { force: true });
    if ((error as NodeJS.ErrnoException).code === 'ENOSPC')
      throw new KelpError(
        'BAD_FILE',
        `The disk is full: ${out} was not written and its previous content is unchanged.`,
      );
    throw error;
  } finally {
    for (const signal of ['SIGINT', 'SIGTERM'] as const) process.off(signal, stopped);
  }
}
