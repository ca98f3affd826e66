// What every script needs first: the packages, as the lock file names them.
import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { root } from './root.mjs';

/** Runs a command, its output on this terminal. Ends this process with its code when it fails. */
export function run(command, args, options = {}) {
  // npm is a .cmd on Windows, which only a shell starts
  const { status, error } = spawnSync(command, args, {
    cwd: root,
    stdio: 'inherit',
    shell: process.platform === 'win32',
    ...options,
  });
  if (error) throw error;
  if (status !== 0) process.exit(status ?? 1);
}

/** Installs the packages when they are missing or others than the lock file names. */
export function ensureInstalled() {
  const [major, minor] = process.versions.node.split('.').map(Number);
  if (major < 20 || (major === 20 && minor < 19)) {
    console.error(`Kelp needs Node 20.19 or newer; this is ${process.versions.node}.`);
    process.exit(1);
  }
  const mark = join(root, 'node_modules', '.kelp-installed');
  const wanted = createHash('sha256')
    .update(readFileSync(join(root, 'package-lock.json')))
    .digest('hex');
  if (existsSync(mark) && readFileSync(mark, 'utf8') === wanted) return;
  console.log('Installing packages; the database takes about two minutes to compile the first time.');
  run('npm', ['ci', '--no-audit', '--no-fund']);
  writeFileSync(mark, wanted);
}
