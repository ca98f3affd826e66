import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    include: ['packages/*/{src,test}/**/*.test.ts', 'packages/*/{src,test}/**/*.test.tsx'],
    testTimeout: 30_000,
  },
});
