// npm run demo: installs, builds, fills an empty database with the demo and starts. What is up to date is skipped.
import { spawn } from 'node:child_process';
import { join } from 'node:path';
import { buildIfStale } from './build-if-stale.mjs';
import { ensureInstalled } from './install.mjs';
import { root } from './root.mjs';

ensureInstalled();
buildIfStale();
const server = spawn(
  process.execPath,
  [join(root, 'packages/cli/bin/kelp.js'), 'serve', '--with-demo', ...process.argv.slice(2)],
  { cwd: root, stdio: 'inherit' },
);
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => server.kill(signal));
server.on('exit', (code) => process.exit(code ?? 0));
