// Packages of Debian that the tests use.
import { spawnSync } from 'node:child_process';
import { existsSync } from 'node:fs';

/** Installs what is missing of Debian's packages, where this is Debian and we are root. */
export function installPackages(names) {
  if (names.length === 0 || process.getuid?.() !== 0 || !existsSync('/usr/bin/apt-get')) return;
  console.log(`Installing for the tests: ${names.join(', ')}.`);
  const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' };
  spawnSync('apt-get', ['update', '-q'], { stdio: 'inherit', env });
  spawnSync('apt-get', ['install', '-y', '-q', '--no-install-recommends', ...names], { stdio: 'inherit', env });
}

/** Programs that read what Kelp bakes, each with its package; tests that ask them are left out where they are not there. */
const READERS = { '/usr/bin/assimp': 'assimp-utils', '/usr/bin/admesh': 'admesh' };

export function ensureReaders() {
  const missing = () => Object.entries(READERS).flatMap(([path, name]) => (existsSync(path) ? [] : [name]));
  installPackages(missing());
  if (missing().length > 0)
    console.warn(
      `${missing().join(' and ')} not found: baked files are not checked by other programs. On Debian: apt-get install ${missing().join(' ')}`,
    );
}
