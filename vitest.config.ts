import { defineConfig } from 'vitest/config';

const tests = (packages: string) => `packages/${packages}/{src,test}/**/*.test.{ts,tsx}`;

/** These put something else in the place of a module or of what a browser gives, or are about what is not loaded yet. */
const ALONE = [
  'core/test/checks',
  'core/test/recipes',
  'core/test/tendrils',
  'formats/test/claims',
  'server/test/fuzz',
  ...['actions', 'evaluation', 'keymap', 'kill', 'open-project', 'saving'].map((name) => `web/test/${name}`),
].map((path) => `packages/${path}.test.ts`);

export default defineConfig({
  test: {
    // one for each processor: half of the tests wait for a server or a disk
    maxWorkers: '100%',
    // a guard against what hangs, not a measure: machines differ tenfold
    testTimeout: 300_000,
    hookTimeout: 300_000,
    setupFiles: ['./vitest.setup.ts'],
    projects: [
      // these keep nothing from one file to the next, so each module is loaded once a process and not once a file
      {
        extends: true,
        test: { name: 'together', include: [tests('*')], exclude: ALONE, isolate: false },
      },
      { extends: true, test: { name: 'apart', include: ALONE } },
    ],
  },
});
