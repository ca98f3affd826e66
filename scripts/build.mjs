// Builds what runs: the command line with the server and the bake thread (--node), the interface (--web), or both.
// `--further FILE --out DIR` builds into another folder, with the units of a file of one's own beside the house's.
import { existsSync, rmSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { root } from './root.mjs';

const given = process.argv.slice(2);
const folderOf = (name) => (given.includes(name) ? resolve(given[given.indexOf(name) + 1]) : undefined);
const further = folderOf('--further');
const out = folderOf('--out') ?? join(root, 'packages');
const only = given.filter((word) => word === '--node' || word === '--web');

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
  const withFurther = {
    name: 'further-units',
    setup(bundler) {
      bundler.onResolve({ filter: /^\.\/further\.js$/ }, () => (further ? { path: further } : undefined));
    },
  };
  const outdir = join(out, 'cli/dist');
  // parts are named by what is in them: those of the last build would stay
  rmSync(outdir, { recursive: true, force: true });
  await build({
    absWorkingDir: root,
    entryPoints: {
      kelp: 'packages/cli/src/main.ts',
      'bake-worker': 'packages/server/src/bakes/bake-worker.ts',
      'gate-worker': 'packages/server/src/gate/gate-worker.ts',
    },
    outdir,
    chunkNames: 'part-[hash]',
    bundle: true,
    splitting: true,
    platform: 'node',
    format: 'esm',
    target: 'node20',
    sourcemap: true,
    logLevel: 'warning',
    plugins: [withFurther, keepOutside],
  });
}

async function buildWeb() {
  const config = join(root, 'packages/web/vite.config.ts');
  if (!existsSync(config)) throw new Error(`${config} is not there`);
  const { build } = await import('vite');
  const withFurther = () => ({
    name: 'further-units',
    enforce: 'pre',
    resolveId: (id) => (further && id === './further.js' ? further : undefined),
  });
  await build({
    configFile: config,
    root: join(root, 'packages/web'),
    logLevel: 'warn',
    plugins: [withFurther()],
    worker: { format: 'es', plugins: () => [withFurther()] },
    build: { outDir: join(out, 'web/dist'), emptyOutDir: true },
  });
}
