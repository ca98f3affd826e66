// Types of every package, each with its own libraries: the core sees neither a page nor Node.
import { spawn } from 'node:child_process';
import { existsSync, readdirSync } from 'node:fs';
import { availableParallelism } from 'node:os';
import { join } from 'node:path';
import { root } from './root.mjs';

const projects = [...readdirSync(join(root, 'packages')).map((name) => `packages/${name}`), 'e2e', 'bench', '.'].filter(
  (folder) => existsSync(join(root, folder, 'tsconfig.json')),
);
const waiting = [...projects];
let failed = 0;
await Promise.all(Array.from({ length: availableParallelism() }, checkNext));
console.log(
  failed === 0
    ? `Types: ${projects.length} projects pass.`
    : `Types: ${failed} of ${projects.length} projects have errors.`,
);
process.exit(failed === 0 ? 0 : 1);

/** Takes one project after the other, until none is left. */
async function checkNext() {
  for (let project = waiting.shift(); project; project = waiting.shift()) if (!(await isSound(project))) failed++;
}

function isSound(project) {
  const tsc = join(root, 'node_modules/typescript/bin/tsc');
  const run = spawn(process.execPath, [tsc, '-p', project], { cwd: root, stdio: 'inherit' });
  return new Promise((resolve) => run.on('exit', (code) => resolve(code === 0)));
}
