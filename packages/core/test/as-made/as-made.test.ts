import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { beforeAll, expect, it } from 'vitest';
import { unitsOf } from '../../src/index.js';
import { loadLevelSets } from '../../src/mesh/level-set.js';
import { casesOf } from './cases.js';
import { type Fingerprint, fingerprintOf, sameFingerprint } from './fingerprint.js';
import { builtOn } from './workshop.js';

// What every recipe makes, setting by setting, is what it made when it was last looked at. This says nothing of what is
// right, which the other tests do; it says that nothing changes unseen. What is meant to change: `npm run remember`,
// and the differences of `remembered` are read before they are committed.

type Line = [vertices: number, triangles: number, findings: string, ...means: number[]];

const ANEW = process.env['KELP_REMEMBER'] === '1';
const fileOf = (file: string) => new URL(`./remembered/${file}`, import.meta.url);
const kept = (unit: string): Record<string, Line> => JSON.parse(readFileSync(fileOf(`${unit}.json`), 'utf8'));
const read = ([vertices, triangles, findings, ...means]: Line): Fingerprint => ({ vertices, triangles, findings, means }); // biome-ignore format: one line

beforeAll(() => loadLevelSets());

for (const unit of unitsOf('make')) {
  const all = casesOf(unit);
  const made = new Map<string, Fingerprint>();

  for (const group of new Set(all.map((one) => one.group)))
    it(`${unit.id}: ${group} are as they were`, () => {
      const remembered = ANEW ? {} : kept(unit.id);
      for (const { name, line, parameters, ...one } of all) {
        if (one.group !== group) continue;
        const now = fingerprintOf(builtOn(line, unit, parameters));
        made.set(name, now);
        if (ANEW || (remembered[name] && sameFingerprint(now, read(remembered[name])))) continue;
        expect(now, name).toEqual(remembered[name] && read(remembered[name]));
      }
    });

  if (ANEW)
    it(`${unit.id}: remembered`, () => {
      const lines = all.map(({ name }) => {
        const { vertices, triangles, findings, means } = made.get(name)!;
        return `${JSON.stringify(name)}: ${JSON.stringify([vertices, triangles, findings, ...means])}`;
      });
      mkdirSync(fileOf(''), { recursive: true });
      writeFileSync(fileOf(`${unit.id}.json`), `{\n${lines.join(',\n')}\n}\n`);
    });
}
