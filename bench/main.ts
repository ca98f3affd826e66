import { mkdirSync, writeFileSync } from 'node:fs';
import { bakeBench } from './bake.bench.js';
import { beltBench } from './belt.bench.js';
import { bundleBench } from './bundle.bench.js';
import { clingBench } from './cling.bench.js';
import { editBench } from './edit.bench.js';
import { elementsBench } from './elements.bench.js';
import { manyLinesBench } from './lines.bench.js';
import type { Result } from './measure.js';
import { contourBench, dragBench, keepApartBench, strokeBench } from './path.bench.js';
import { sceneBench } from './scene.bench.js';
import { strandsBench } from './strands.bench.js';
import { strungBench } from './strung.bench.js';
import { framesBench, profileBench, ribbonBench, scalingBench, sweepBench } from './sweep.bench.js';
import { tendrilsBench } from './tendrils.bench.js';
import { trussBench } from './truss.bench.js';

const benches: (() => Result[] | Promise<Result[]>)[] = [
  sweepBench,
  profileBench,
  ribbonBench,
  bundleBench,
  elementsBench,
  strungBench,
  tendrilsBench,
  strandsBench,
  trussBench,
  beltBench,
  framesBench,
  scalingBench,
  clingBench,
  editBench,
  strokeBench,
  contourBench,
  keepApartBench,
  dragBench,
  sceneBench,
  bakeBench,
  manyLinesBench,
];
// npm run bench -- NAME: only those whose name holds it
const wanted = process.argv[3] ?? '';
const results: Result[] = [];
for (const bench of benches.filter(({ name }) => name.includes(wanted))) results.push(...(await bench()));
const ok = ({ value, goal, better }: Result) => (better === 'more' ? value >= goal : value <= goal);
for (const result of results) {
  const { name, value, goal, better } = result;
  console.log(
    `${ok(result) ? 'ok  ' : 'MISS'} ${value.toFixed(2).padStart(8)}  (${better === 'more' ? 'at least' : 'at most'} ${goal})  ${name}`,
  );
}
const out = process.argv[2];
mkdirSync(out, { recursive: true });
writeFileSync(`${out}/latest.json`, `${JSON.stringify(results, null, 2)}\n`);
