import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    include: ['packages/*/{src,test}/**/*.test.ts', 'packages/*/{src,test}/**/*.test.tsx'],
    // a guard against what hangs, not a measure: machines differ tenfold
    testTimeout: 300_000,
    hookTimeout: 300_000,
  },
});
