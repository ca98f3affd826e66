import { existsSync, readdirSync } from 'node:fs';
import { basename, dirname, join } from 'node:path';
import { UsageError } from './exit.js';

/**
 * The files that names represent: `*` and `?` in the last part of a path are filled in where the shell has not done so.
 * @throws UsageError where a pattern meets nothing
 */
export function inputFiles(names: readonly string[]): string[] {
  return [...new Set(names.flatMap(filesFor))];
}

function filesFor(name: string): string[] {
  if (existsSync(name) || !/[*?]/.test(basename(name))) return [name];
  const folder = dirname(name);
  const letters = basename(name).replaceAll(/[.+^${}()|[\]\\]/g, '\\$&');
  const pattern = new RegExp(`^${letters.replaceAll('*', '.*').replaceAll('?', '.')}$`);
  const found = existsSync(folder)
    ? readdirSync(folder)
        .filter((one) => pattern.test(one))
        .sort()
    : [];
  if (found.length === 0) throw new UsageError(`No file matches ${name}.`);
  return found.map((one) => join(folder, one));
}
