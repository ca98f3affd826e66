// What the core's tests use of Vitest, small enough to begin anew for each of thousands of runs. Stands for `vitest` in
// the bundled tests; the matchers are Vitest's own.
import { JestAsymmetricMatchers, JestChaiExpect, JestExtend } from '@vitest/expect';
import * as chai from 'chai';
import fc from 'fast-check';

// a property that does not say how often it is tried: fewer times here, so that what is noticed is noticed by many tries
fc.configureGlobal({ numRuns: 30 });

for (const plugin of [JestChaiExpect, JestAsymmetricMatchers, JestExtend]) chai.use(plugin);
export const expect = chai.expect;

/** Tests of the file that is being read, in their order, and what comes before each. */
let titles = [];
let tests = [];
let before = [];

export function describe(title, body) {
  const [outer, outerBefore] = [titles, before];
  [titles, before] = [[...outer, title], [...outerBefore]];
  body();
  [titles, before] = [outer, outerBefore];
}

/** Prepares once, however many tests come after it. */
export function beforeAll(prepare) {
  let done;
  before.push(() => {
    done ??= Promise.resolve(prepare());
    return done;
  });
}

export function it(title, run) {
  const name = [...titles, title].join(' ');
  const prepare = before;
  tests.push({
    name,
    async run() {
      for (const step of prepare) await step();
      await run();
    },
  });
}

it.each = (rows) => (title, run) => {
  rows.forEach((row, i) => {
    it(`${title} #${i}`, () => (Array.isArray(row) ? run(...row) : run(row)));
  });
};

/** Modules that a test puts in the place of others: those that ask for it in the bundle (see the runner). */
export const vi = {
  mock(path, factory) {
    globalThis.kelpMocks = { ...globalThis.kelpMocks, [path]: factory };
  },
};

/** Hands over the tests of the file that was read last. */
globalThis.takeTests = () => {
  const taken = tests;
  tests = [];
  before = [];
  return taken;
};
