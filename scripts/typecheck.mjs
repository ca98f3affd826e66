// Types of every package, each with its own libraries: the core sees neither a page nor Node.
import { spawnSync } from 'node:child_process';
import { existsSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import { root } from './root.mjs';

const projects = [...readdirSync(join(root, 'packages')).map((name) => `packages/${name}`), 'e2e', 'bench', '.'].filter(
  (folder) => existsSync(join(root, folder, 'tsconfig.json')),
);
let failed = 0;
for (const project of projects) {
  const { status } = spawnSync(process.execPath, [join(root, 'node_modules/typescript/bin/tsc'), '-p', project], {
    cwd: root,
    stdio: 'inherit',
  });
  if (status !== 0) failed++;
}
console.log(
  failed === 0
    ? `Types: ${projects.length} projects are sound.`
    : `Types: ${failed} of ${projects.length} projects have errors.`,
);
process.exit(failed === 0 ? 0 : 1);
