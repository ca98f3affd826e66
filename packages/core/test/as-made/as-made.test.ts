import { beforeAll, it } from 'vitest';
import { unitsOf } from '../../src/index.js';
import { loadLevelSets } from '../../src/mesh/level-set.js';
import { casesOf } from './cases.js';
import { fingerprintOf } from './fingerprint.js';
import { ANEW, Remembered } from './remembered.js';
import { builtOn } from './workshop.js';

// What every recipe makes, setting by setting, is what it made when it was last looked at. This says nothing of what is
// right, which the other tests do; it says that nothing changes unseen. What is meant to change: `npm run remember`,
// and the differences of `remembered` are read before they are committed.

beforeAll(() => loadLevelSets());

for (const unit of unitsOf('make')) {
  const all = casesOf(unit);
  let remembered: Remembered | undefined;

  for (const group of new Set(all.map((one) => one.group)))
    it(`${unit.id}: ${group} are as they were`, () => {
      remembered ??= new Remembered(unit.id);
      for (const { name, line, parameters, ...one } of all)
        if (one.group === group) remembered.expectSame(name, fingerprintOf(builtOn(line, unit, parameters)));
    });

  if (ANEW) it(`${unit.id}: remembered`, () => remembered?.keep(all.map(({ name }) => name)));
}
