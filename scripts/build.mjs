// Builds what runs: the command line with the server and the bake thread (--node), the interface (--web), or both.
// `--further FILE --out DIR` builds into another folder, with the units of a file of one's own beside Kelp's.
import { existsSync, rmSync } from 'node:fs';
import { readdir, readFile, writeFile } from 'node:fs/promises';
import { join, resolve } from 'node:path';
import { promisify } from 'node:util';
import { brotliCompress, constants, gzip } from 'node:zlib';
import { root } from './root.mjs';

/**
 * What finds files of its own, or is a binary: it stays where npm put it. All else of the registry is bundled, so that
 * a start reads a few files, and of each package what is used.
 */
const OUTSIDE =
  /^(node:|sqlite3$|piscina$|pino$|pino-http$|manifold-3d|pg|mysql2|mariadb|tedious|oracledb|snowflake-sdk|ibm_db|odbc)/;

const given = process.argv.slice(2);
const folderOf = (name) => (given.includes(name) ? resolve(given[given.indexOf(name) + 1]) : undefined);
const further = folderOf('--further');
const out = folderOf('--out') ?? join(root, 'packages');
const only = given.filter((word) => word === '--node' || word === '--web');

if (only.length === 0 || only.includes('--node')) await buildNode();
if (only.length === 0 || only.includes('--web')) await buildWeb();

async function buildNode() {
  const { build } = await import('esbuild');
  const keepOutside = {
    name: 'keep-packages-outside',
    setup(bundler) {
      bundler.onResolve({ filter: /^[^./]/ }, ({ path }) =>
        OUTSIDE.test(path) ? { path, external: true } : undefined,
      );
    },
  };
  /** The runner of migrations brings a command line of its own, half a megabyte that nobody calls. */
  const withoutItsOwnCommands = {
    name: 'without-its-own-commands',
    setup(bundler) {
      bundler.onLoad({ filter: /umzug[\\/]lib[\\/]cli\.js$/ }, () => ({ contents: '' }));
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
    banner: {
      js: "import { createRequire as requireFrom } from 'node:module'; const require = requireFrom(import.meta.url);",
    },
    sourcemap: true,
    logLevel: 'warning',
    plugins: [withFurther, withoutItsOwnCommands, keepOutside],
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
  await press(join(out, 'web/dist/assets'));
}

/** Lays a smaller copy beside each file that can be made smaller, as browsers ask for it: `.br`, and `.gz` for those without Brotli. */
async function press(folder) {
  const files = (await readdir(folder)).filter((name) => /\.(js|css|svg|wasm)$/.test(name));
  await Promise.all(
    files.map(async (name) => {
      const path = join(folder, name);
      const bytes = await readFile(path);
      // the last steps would take ten times as long for a twentieth less
      const params = { [constants.BROTLI_PARAM_QUALITY]: 9, [constants.BROTLI_PARAM_SIZE_HINT]: bytes.length };
      await writeFile(`${path}.br`, await promisify(brotliCompress)(bytes, { params }));
      await writeFile(`${path}.gz`, await promisify(gzip)(bytes));
    }),
  );
}
