// npm run fuzz -- --runs N [--seed N]: broken files for every reader and broken requests for every route of a server of its
// own; how many were taken in and refused, the slowest of each, and what should not have been.
import { spawn } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { buildIfStale } from './build-if-stale.mjs';
import { ensureInstalled, run } from './install.mjs';
import { root } from './root.mjs';

ensureInstalled();
buildIfStale();
const { build } = await import('esbuild');
const folder = mkdtempSync(join(tmpdir(), 'kelp-fuzz-'));
const outfile = join(root, 'node_modules', '.fuzz', 'fuzz.mjs');
await build({
  absWorkingDir: root,
  entryPoints: ['fuzz/main.ts'],
  outfile,
  bundle: true,
  platform: 'node',
  format: 'esm',
  target: 'node20',
  logLevel: 'warning',
  external: ['manifold-3d'],
  banner: {
    js: "import { createRequire as requireFrom } from 'node:module'; const require = requireFrom(import.meta.url);",
  },
});
const server = spawn(process.execPath, [
  join(root, 'packages/cli/bin/kelp.js'),
  'serve',
  '--port',
  '0',
  '--data',
  folder,
]);
try {
  const url = await new Promise((resolve, reject) => {
    server.stdout.on('data', (chunk) => resolve(String(chunk).match(/http:\S+/)?.[0]));
    server.once('exit', (code) => reject(new Error(`The server ended with ${code} before it had an address`)));
  });
  run(process.execPath, [outfile, '--server', url, '--pid', String(server.pid), ...process.argv.slice(2)]);
} finally {
  server.kill();
  rmSync(folder, { recursive: true, force: true });
}
