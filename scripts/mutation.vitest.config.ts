import { basename } from 'node:path';
import { defineConfig } from 'vitest/config';
import { BaseSequencer, type TestSpecification } from 'vitest/node';

const names = (process.env.KELP_MUTATION_TESTS ?? '*').split(',');

/** The first test that notices ends a run: the quick ones come first, in the order they are named in. */
class AsNamed extends BaseSequencer {
  override async sort(files: TestSpecification[]): Promise<TestSpecification[]> {
    const place = ({ moduleId }: TestSpecification) => names.indexOf(basename(moduleId, '.test.ts'));
    return [...files].sort((a, b) => place(a) - place(b));
  }
}

/** The core's own tests alone, of them those about what is changed: what they let pass, no other test has to find. */
export default defineConfig({
  test: {
    include: names.map((name) => `packages/core/test/${name}.test.ts`),
    // tests of size take seconds each, and compute nothing else than small ones
    testNamePattern: /^(?!.*(100,000|thousand|million|compiled|faster))/,
    testTimeout: 60_000,
    sequence: { sequencer: AsNamed },
  },
});
