import { defineConfig } from 'vitest/config';

/** The core's own tests alone, of them those about what is changed: what they let pass, no other test has to find. */
export default defineConfig({
  test: {
    include: (process.env.KELP_MUTATION_TESTS ?? '*').split(',').map((name) => `packages/core/test/${name}.test.ts`),
    // tests of size take seconds each, and compute nothing else than small ones
    testNamePattern: /^(?!.*(100,000|thousand|million|compiled|faster))/,
    testTimeout: 60_000,
  },
});
