// npm run bench -- web: the workbench in a browser; -- server: the server under hostile bodies; -- soak: under everything for twenty minutes. npm run bench: bundles the benchmarks as the worker is bundled, runs them, prints a table and writes bench/out/latest.json.
import { join } from 'node:path';
import { buildIfStale } from './build-if-stale.mjs';
import { ensureChromium } from './chromium.mjs';
import { ensureInstalled, run } from './install.mjs';
import { root } from './root.mjs';

ensureInstalled();
if (process.argv[2] === 'web') {
  ensureChromium();
  buildIfStale();
  await import('../bench/web.mjs');
  process.exit(0);
}
if (process.argv[2] === 'server' || process.argv[2] === 'soak') {
  buildIfStale();
  await import(`../bench/${process.argv[2]}.mjs`);
  process.exit(0);
}
const { build } = await import('esbuild');
const out = join(root, 'bench', 'out');
await build({
  absWorkingDir: root,
  entryPoints: ['bench/main.ts'],
  outfile: join(out, 'bench.mjs'),
  bundle: true,
  platform: 'node',
  format: 'esm',
  target: 'node20',
  logLevel: 'warning',
  // its compiled part lies beside it
  external: ['manifold-3d'],
});
// what needs memory is distinguished from what only waits to be collected
run(process.execPath, ['--expose-gc', join(out, 'bench.mjs'), out, ...process.argv.slice(2, 3)]);
