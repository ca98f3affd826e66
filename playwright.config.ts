import { defineConfig } from '@playwright/test';
import { findChromium } from './scripts/chromium.mjs';

/** Chromium without a graphics card: WebGL 2 in software, nothing that reaches for the network. */
const ARGS = [
  '--no-sandbox',
  '--disable-quic',
  '--no-first-run',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
  '--use-gl=angle',
  '--use-angle=swiftshader',
  '--enable-unsafe-swiftshader',
  '--ignore-gpu-blocklist',
];

export default defineConfig({
  testDir: 'e2e',
  timeout: 120_000,
  expect: { timeout: 20_000 },
  // each test starts a server of its own; software rendering needs a core to itself
  workers: 1,
  use: {
    viewport: { width: 1280, height: 800 },
    launchOptions: { executablePath: findChromium(), args: ARGS },
    trace: 'retain-on-failure',
  },
});
