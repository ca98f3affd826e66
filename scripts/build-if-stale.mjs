// Builds only when a source is newer than the last build, so that a second start is quick.
import { createHash } from 'node:crypto';
import { existsSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { run } from './install.mjs';
import { root } from './root.mjs';

const stamp = join(root, '.build-stamp');

export function buildIfStale() {
  const wanted = sourcesHash();
  const built = ['packages/cli/dist/kelp.js', 'packages/web/dist/index.html'].every((file) =>
    existsSync(join(root, file)),
  );
  if (built && existsSync(stamp) && readFileSync(stamp, 'utf8') === wanted) return;
  console.log('Building Kelp.');
  run(process.execPath, [join(root, 'scripts', 'build.mjs')]);
  writeFileSync(stamp, wanted);
}

/** Names, sizes and times of all that is built from. */
function sourcesHash() {
  const hash = createHash('sha256');
  const add = (path) => {
    const { size, mtimeMs } = statSync(path);
    hash.update(`${path} ${size} ${mtimeMs}\n`);
  };
  const walk = (folder) => {
    for (const entry of readdirSync(folder, { withFileTypes: true })) {
      if (entry.name === 'dist' || entry.name === 'node_modules') continue;
      const path = join(folder, entry.name);
      if (entry.isDirectory()) walk(path);
      else add(path);
    }
  };
  walk(join(root, 'packages'));
  for (const file of ['package-lock.json', 'scripts/build.mjs']) add(join(root, file));
  return hash.digest('hex');
}
