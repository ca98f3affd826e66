// npm run bench: bundles the benchmarks as the worker is bundled, runs them, prints a table and writes bench/out/latest.json.
import { join } from 'node:path';
import { ensureInstalled, run } from './install.mjs';
import { root } from './root.mjs';

ensureInstalled();
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
});
run(process.execPath, [join(out, 'bench.mjs'), out]);
