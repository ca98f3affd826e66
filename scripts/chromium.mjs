// Finds a Chromium for the browser tests, or gets Debian's where that is possible.
import { existsSync } from 'node:fs';
import { installPackages } from './debian.mjs';

const CANDIDATES = [
  '/usr/bin/chromium',
  '/usr/bin/chromium-browser',
  '/usr/bin/google-chrome',
  '/Applications/Chromium.app/Contents/MacOS/Chromium',
];

export const findChromium = () => [process.env.KELP_CHROMIUM, ...CANDIDATES].find((path) => path && existsSync(path));

/** Installs Debian's package when there is none, this is Debian and we are root; says plainly how to get one elsewhere. */
export function ensureChromium() {
  if (findChromium()) return;
  installPackages(['chromium']);
  if (findChromium()) return;
  console.error(
    'The browser tests need Chromium. On Debian: sudo apt-get install chromium. Elsewhere, install it and set KELP_CHROMIUM to its path.',
  );
  process.exit(1);
}

/** How to start it without a graphics card: WebGL 2 in software, nothing that reaches for the network. */
export const launchOptions = () => ({
  executablePath: findChromium(),
  args: [
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
  ],
});
