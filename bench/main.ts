import { mkdirSync, writeFileSync } from 'node:fs';
import { clingBench } from './cling.bench.js';
import { editBench } from './edit.bench.js';
import type { Result } from './measure.js';
import { contourBench, dragBench, keepApartBench, strokeBench } from './path.bench.js';
import { framesBench, scalingBench, sweepBench } from './sweep.bench.js';

const results: Result[] = [
  sweepBench,
  framesBench,
  scalingBench,
  clingBench,
  editBench,
  strokeBench,
  contourBench,
  keepApartBench,
  dragBench,
].flatMap((bench) => bench());
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
