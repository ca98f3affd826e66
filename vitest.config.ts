import { defineConfig } from 'vitest/config';
import { BaseSequencer, type TestSpecification } from 'vitest/node';

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

/** These take a minute or two, whatever their size says: begun last, they would be waited for by themselves. */
const LONG = ['laid-stroke', 'kill', 'cli', 'evaluate', 'promised', 'as-made', 'formats', 'sweep', 'opening'];

class LongestFirst extends BaseSequencer {
  override async sort(files: TestSpecification[]): Promise<TestSpecification[]> {
    const isLong = ({ moduleId }: TestSpecification) => LONG.some((name) => moduleId.endsWith(`/${name}.test.ts`));
    const sorted = await super.sort(files);
    return [...sorted.filter(isLong), ...sorted.filter((file) => !isLong(file))];
  }
}

export default defineConfig({
  test: {
    sequence: { sequencer: LongestFirst },
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
