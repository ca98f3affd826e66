import { defineConfig } from '@playwright/test';
import { launchOptions } from './scripts/chromium.mjs';

export default defineConfig({
  testDir: 'e2e',
  timeout: 600_000,
  expect: { timeout: 90_000 },
  // each test starts a server of its own; software rendering needs a core to itself
  workers: 1,
  use: {
    viewport: { width: 1280, height: 800 },
    // half the pixels each way: a processor draws them
    deviceScaleFactor: 0.5,
    launchOptions: launchOptions(),
    // a menu that still grows is pressed at one row and let go at the next
    contextOptions: { reducedMotion: 'reduce' },
    actionTimeout: 180_000,
    trace: 'retain-on-failure',
  },
});
