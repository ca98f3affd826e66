// How Stryker runs the core's tests here: bundled once, each run in a thread of its own. A run costs the time of its
// tests and little else; nothing one run leaves in memory reaches the next.
import { readFileSync, writeFileSync } from 'node:fs';
import { join, relative } from 'node:path';
import { fileURLToPath } from 'node:url';
import { Worker } from 'node:worker_threads';
import { INSTRUMENTER_CONSTANTS } from '@stryker-mutator/api/core';
import { commonTokens, declareClassPlugin, PluginKind } from '@stryker-mutator/api/plugin';
import { build } from 'esbuild';

const here = (file) => fileURLToPath(new URL(file, import.meta.url));
const TESTS = 'packages/core/test';
/** Tests of size take seconds each, and compute nothing else than small ones. */
const SKIP = /100,000|thousand|million|compiled|faster/;
/** A test that takes this many times as long as without a change, and this many milliseconds, has met a loop without an end. */
const [SLOWER, GRACE] = [6, 2000];
const MAX_MEGABYTES = 1500;
/** How long each test takes, milliseconds: of several processes one makes the first run, and leaves it here for all. */
const USUAL = 'usual-times.json';

class Runner {
  static inject = [commonTokens.options];

  constructor(options) {
    this.names = options.kelpTests;
  }

  capabilities() {
    return { reloadEnvironment: true };
  }

  /** Bundles the tests beside where they lie, so that what they look for beside them is found. */
  async init() {
    this.files = this.names.map((asked) => {
      const [name, about] = asked.split(':');
      return {
        name,
        about,
        bundle: join(process.cwd(), TESTS, `${name}.bundle-${process.env.STRYKER_MUTATOR_WORKER ?? 0}.mjs`),
      };
    });
    for (const { name, bundle } of this.files)
      await build({
        entryPoints: [join(TESTS, `${name}.test.ts`)],
        outfile: bundle,
        absWorkingDir: process.cwd(),
        bundle: true,
        format: 'esm',
        platform: 'node',
        target: 'node20',
        external: ['manifold-3d'],
        alias: { vitest: here('./small-vitest.mjs') },
        nodePaths: [join(process.cwd(), 'node_modules')],
        banner: { js: "import { createRequire } from 'node:module'; const require = createRequire(import.meta.url);" },
        logLevel: 'error',
        plugins: [mockable],
      });
  }

  async dryRun() {
    const { results, failed, coverage } = await this.run({});
    if (failed) return { status: 'error', errorMessage: `${failed.id}\n${failed.message}` };
    writeFileSync(USUAL, JSON.stringify(Object.fromEntries(results.map(({ id, timeSpentMs }) => [id, timeSpentMs]))));
    return { status: 'complete', tests: results, mutantCoverage: coverage };
  }

  async mutantRun({ activeMutant, testFilter, hitLimit }) {
    this.usual ??= JSON.parse(readFileSync(USUAL, 'utf8'));
    const { results, failed, endless } = await this.run({ active: activeMutant.id, only: testFilter, hitLimit });
    if (endless || failed?.message.includes('Hit count limit reached')) return { status: 'timeout', reason: endless };
    if (failed) return { status: 'killed', killedBy: [failed.id], failureMessage: failed.message, nrOfTests: 1 };
    return { status: 'survived', nrOfTests: results.length };
  }

  run({ active, only, hitLimit }) {
    const { files, usual = {} } = this;
    return new Promise((done) => {
      const worker = new Worker(here('./worker.mjs'), {
        workerData: { files, namespace: INSTRUMENTER_CONSTANTS.NAMESPACE, active, only, hitLimit, skip: SKIP, usual },
        resourceLimits: { maxOldGenerationSizeMb: MAX_MEGABYTES },
      });
      let timer;
      const end = (result) => {
        clearTimeout(timer);
        void worker.terminate().then(() => done(result));
      };
      worker.on('message', (message) => {
        if (!message.begins) return end(message);
        if (active === undefined) return;
        clearTimeout(timer);
        const most = SLOWER * (usual[message.begins] ?? 500) + GRACE;
        timer = setTimeout(() => end({ endless: `${message.begins}: more than ${most.toFixed()} ms` }), most);
      });
      worker.once('error', (error) =>
        end(
          error.code === 'ERR_WORKER_OUT_OF_MEMORY'
            ? { endless: 'out of memory' }
            : { failed: { id: 'thread', message: String(error) } },
        ),
      );
    });
  }
}

/** Lets a test put units of its own beside Kelp's: the one module that tests put others in the place of. */
const mockable = {
  name: 'mockable',
  setup({ onLoad }) {
    onLoad({ filter: /src[\\/]unit[\\/]further\.ts$/ }, ({ path }) => ({
      contents: `const mock = globalThis.kelpMocks?.['../${relative(join(process.cwd(), 'packages/core'), path).replace(/\.ts$/, '.js')}'];
export const FURTHER = mock ? (await mock()).FURTHER : [];`,
      loader: 'ts',
    }));
  },
};

export const strykerPlugins = [declareClassPlugin(PluginKind.TestRunner, 'kelp', Runner)];
