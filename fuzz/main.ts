import { parseArgs } from 'node:util';
import { fuzzReaders } from './readers.js';
import { fuzzRoutes, mostMemory } from './routes.js';

// npm run fuzz: broken files for every reader, broken requests for every route. Ends with counts and the slowest of each.

const { values } = parseArgs({
  options: {
    runs: { type: 'string', default: '2000' },
    seed: { type: 'string', default: '1' },
    server: { type: 'string' },
    pid: { type: 'string' },
  },
});
const [runs, seed] = [Number(values.runs), Number(values.seed)];
if (!(runs >= 1 && Number.isSafeInteger(seed))) throw new Error('Ask for --runs N and --seed N, whole numbers.');
/** Requests take longer than files. */
const ROUTES_SHARE = 0.2;
/** Memory that either process may ever have, MB. */
const MAX_MEMORY = 1024;

// loaders tell the console what they meet: here that is the rule
const print = console.log;
console.log = console.warn = console.error = () => {};

const began = performance.now();
const readers = await fuzzReaders(Math.ceil(runs * (1 - ROUTES_SHARE)), seed);
const own = mostMemory(process.pid);
const routes = values.server ? await fuzzRoutes(values.server, Math.ceil(runs * ROUTES_SHARE), seed) : [];
const faults = [...readers, ...routes].flatMap((tally) => tally.faults);
for (const [who, memory] of [
  ['The readers', own],
  ['The server', mostMemory(Number(values.pid))],
] as const)
  if (memory !== undefined) {
    print(`${who} had ${Math.round(memory)} MB at most.`);
    if (memory > MAX_MEMORY) faults.push(`${who} had ${Math.round(memory)} MB`);
  }
for (const tally of [...readers, ...routes]) print(String(tally));
for (const fault of faults.slice(0, 20)) print(`FAULT ${fault}`);
const cases = [...readers, ...routes].reduce((sum, { taken, refused }) => sum + taken + refused, 0) + faults.length;
print(`${cases} cases in ${((performance.now() - began) / 1000).toFixed(0)} s, ${faults.length} faults.`);
process.exitCode = faults.length === 0 ? 0 : 1;
