import { defineConfig } from '@playwright/test';
import { launchOptions } from './scripts/chromium.mjs';

const { args, ...launch } = launchOptions();

export default defineConfig({
  testDir: 'e2e',
  timeout: 600_000,
  expect: { timeout: 90_000 },
  // each test starts a server of its own, and draws while another waits
  workers: 2,
  // the tests of a file too: the last file would be waited for by itself
  fullyParallel: true,
  use: {
    viewport: { width: 1280, height: 800 },
    // a processor draws the picture: a quarter of the pixels each way, one sample each
    deviceScaleFactor: 0.25,
    // the page around the view is put together without that slow detour
    launchOptions: { ...launch, args: [...args, '--webgl-antialiasing-mode=none', '--disable-gpu-compositing'] },
    // a menu that still grows is pressed at one row and let go at the next
    contextOptions: { reducedMotion: 'reduce' },
    actionTimeout: 180_000,
    // what was done, not what each step looked like: that would take a tenth of the time
    trace: { mode: 'retain-on-failure', screenshots: false, snapshots: false },
    screenshot: 'only-on-failure',
  },
});
