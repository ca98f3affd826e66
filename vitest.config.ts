import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    include: ['packages/*/{src,test}/**/*.test.ts', 'packages/*/{src,test}/**/*.test.tsx'],
    // one for each processor: half of the tests wait for a server or a disk
    maxWorkers: '100%',
    // a guard against what hangs, not a measure: machines differ tenfold
    testTimeout: 300_000,
    hookTimeout: 300_000,
  },
});
