import { defineConfig } from '@playwright/test';
import { launchOptions } from './scripts/chromium.mjs';

export default defineConfig({
  testDir: 'e2e',
  timeout: 240_000,
  expect: { timeout: 40_000 },
  // each test starts a server of its own; software rendering needs a core to itself
  workers: 1,
  use: {
    viewport: { width: 1280, height: 800 },
    launchOptions: launchOptions(),
    trace: 'retain-on-failure',
  },
});
