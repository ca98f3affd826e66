// Finds a Chromium for the browser tests, or gets Debian's where that is possible.
import { spawnSync } from 'node:child_process';
import { existsSync } from 'node:fs';

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
  const isRoot = process.getuid?.() === 0;
  if (isRoot && existsSync('/usr/bin/apt-get')) {
    console.log('Installing Chromium for the browser tests.');
    const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' };
    spawnSync('apt-get', ['update', '-q'], { stdio: 'inherit', env });
    spawnSync('apt-get', ['install', '-y', '-q', '--no-install-recommends', 'chromium'], { stdio: 'inherit', env });
  }
  if (findChromium()) return;
  console.error(
    'The browser tests need Chromium. On Debian: sudo apt-get install chromium. Elsewhere install it and set KELP_CHROMIUM to its path.',
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
