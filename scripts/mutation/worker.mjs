// One run: loads bundled tests, with one change to the core switched on or none, and reports their results.
import { pathToFileURL } from 'node:url';
import { parentPort, workerData } from 'node:worker_threads';

const { files, namespace, active, hitLimit, only, skip, usual } = workerData;
const space = { activeMutant: active, hitCount: active === undefined ? undefined : 0, hitLimit };
globalThis[namespace] = space;
const wanted = only && new Set(only);
const timeOf = ({ id }) => usual[id] ?? 0;
const results = [];
let failed;
for (const { name: file, about = '', bundle } of quickFirst()) {
  globalThis.kelpMocks = undefined;
  await import(pathToFileURL(bundle));
  const tests = globalThis
    .takeTests()
    .map(({ name, run }) => ({ id: `${file}: ${name}`, name, run }))
    .filter(({ id, name }) => (wanted ? wanted.has(id) : !skip.test(name) && begins(name, about)));
  for (const test of tests.sort((a, b) => timeOf(a) - timeOf(b))) if (!failed) await runTest(test);
  if (failed) break;
}
parentPort.postMessage({ results, failed, coverage: space.mutantCoverage });

async function runTest({ id, run }) {
  parentPort.postMessage({ begins: id });
  space.currentTestId = id;
  const began = performance.now();
  try {
    await run();
    results.push({ id, name: id, status: 'success', timeSpentMs: performance.now() - began });
  } catch (error) {
    failed = { id, message: String(error?.message ?? error).slice(0, 500) };
  }
  space.currentTestId = undefined;
}

function begins(name, about) {
  return about.split('+').some((one) => name.startsWith(one));
}

/** The files with tests that are wanted: the first test that notices ends the run. */
function quickFirst() {
  if (!wanted) return files;
  const cost = (file) => only.filter((id) => id.startsWith(`${file}: `)).reduce((sum, id) => sum + timeOf({ id }), 0);
  return files
    .map((file) => ({ ...file, cost: cost(file.name) }))
    .filter(({ name }) => only.some((id) => id.startsWith(`${name}: `)))
    .sort((a, b) => a.cost - b.cost);
}
