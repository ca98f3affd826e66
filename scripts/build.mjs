// Builds what runs: the command line with the server and the bake thread (--node), the interface (--web), or both.
import { existsSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { root } from './root.mjs';

const only = process.argv.slice(2);

if (only.length === 0 || only.includes('--node')) await buildNode();
if (only.length === 0 || only.includes('--web')) await buildWeb();

/** Own packages are bundled, everything from the registry stays where npm put it. */
async function buildNode() {
  const { build } = await import('esbuild');
  const keepOutside = {
    name: 'keep-packages-outside',
    setup(bundler) {
      bundler.onResolve({ filter: /^[^./]/ }, ({ path }) =>
        path.startsWith('@kelp/') ? undefined : { path, external: true },
      );
    },
  };
  const outdir = join(root, 'packages/cli/dist');
  // parts are named by what is in them: those of the last build would stay
  rmSync(outdir, { recursive: true, force: true });
  await build({
    absWorkingDir: root,
    entryPoints: { kelp: 'packages/cli/src/main.ts', 'bake-worker': 'packages/server/src/bakes/bake-worker.ts' },
    outdir,
    chunkNames: 'part-[hash]',
    bundle: true,
    splitting: true,
    platform: 'node',
    format: 'esm',
    target: 'node20',
    sourcemap: true,
    logLevel: 'warning',
    plugins: [keepOutside],
  });
}

async function buildWeb() {
  const config = join(root, 'packages/web/vite.config.ts');
  if (!existsSync(config)) throw new Error(`${config} is not there`);
  const { build } = await import('vite');
  await build({ configFile: config, root: join(root, 'packages/web'), logLevel: 'warn' });
}
