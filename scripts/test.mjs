// npm test: installs what is missing, then types, lint, unit, server and browser tests. Ends with the count of all tests.
import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { buildIfStale } from './build-if-stale.mjs';
import { ensureChromium } from './chromium.mjs';
import { ensureReaders } from './debian.mjs';
import { ensureInstalled } from './install.mjs';
import { root } from './root.mjs';

ensureInstalled();
ensureChromium();
ensureReaders();
buildIfStale();

const scratch = mkdtempSync(join(tmpdir(), 'kelp-test-'));
let passed = 0;
let failed = 0;

step('types', ['scripts/typecheck.mjs']);
step('lint', ['node_modules/@biomejs/biome/bin/biome', 'check', '.']);
step('unused packages and files', ['node_modules/knip/bin/knip.js']);
const unit = join(scratch, 'unit.json');
counted(
  'unit and server tests',
  ['node_modules/vitest/vitest.mjs', 'run', '--reporter=default', '--reporter=json', `--outputFile=${unit}`],
  () => {
    const { numPassedTests, numFailedTests, numFailedTestSuites } = JSON.parse(readFileSync(unit, 'utf8'));
    return [numPassedTests, numFailedTests + (numFailedTests === 0 ? numFailedTestSuites : 0)];
  },
);
const browser = join(scratch, 'browser.json');
counted(
  'browser tests',
  ['node_modules/@playwright/test/cli.js', 'test', '--reporter=list,json'],
  () => {
    const { expected, unexpected, flaky } = JSON.parse(readFileSync(browser, 'utf8')).stats;
    return [expected + flaky, unexpected];
  },
  { PLAYWRIGHT_JSON_OUTPUT_NAME: browser },
);

rmSync(scratch, { recursive: true, force: true });
console.log(`\n${passed} passed, ${failed} failed`);
process.exit(failed === 0 ? 0 : 1);

/** One check that passes or fails as a whole. */
function step(name, args) {
  if (execute(name, args)) passed++;
  else failed++;
}

/** A run of many tests, with its own counts; a runner that fails without a count is one failure. */
function counted(name, args, count, env) {
  const ok = execute(name, args, env);
  try {
    const [good, bad] = count();
    passed += good;
    failed += bad;
    if (!ok && bad === 0) failed++;
  } catch {
    failed++;
  }
}

function execute(name, args, env = {}) {
  console.log(`\n— ${name}`);
  const started = Date.now();
  const { status } = spawnSync(process.execPath, args, {
    cwd: root,
    stdio: ['ignore', 'inherit', 'inherit'],
    env: { ...process.env, ...env },
  });
  console.log(`— ${name}: ${status === 0 ? 'passed' : 'FAILED'} in ${((Date.now() - started) / 1000).toFixed(0)} s`);
  return status === 0;
}
