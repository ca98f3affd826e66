// npm run mutation -- FILES: changes the core a little, one place at a time, and asks its tests whether they notice.
// FILES are paths below packages/core/src, folders or patterns: `make`, `curve/frames.ts`, `make/cable/cable.ts:100-150`.
// --share 0.1: of each file only about a tenth of its lines, always the same ones; --tests a,b:truss+zip: by these
// tests alone, of b only by those whose name begins with "truss" or "zip".
import { createHash } from 'node:crypto';
import { readdirSync, readFileSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { parseArgs } from 'node:util';
import { Stryker } from '@stryker-mutator/core';
import { ensureInstalled } from '../install.mjs';
import { root } from '../root.mjs';

ensureInstalled();
const source = 'packages/core/src';
const { values: options, positionals: asked } = parseArgs({
  allowPositionals: true,
  options: { share: { type: 'string', default: '1' }, tests: { type: 'string' } },
});
const share = Number(options.share);
if (asked.length === 0 || !(share > 0 && share <= 1)) {
  console.error(`Name what to mutate: npm run mutation -- make curve/frames.ts (below ${source}).`);
  process.exit(2);
}

/**
 * The tests that are about each room, the quick ones first. Those of size and of whole projects would make an hour of
 * what takes minutes.
 */
const TESTS = {
  curve: ['curve-edit', 'frames', 'curve', 'placing', 'sway', 'walk', 'matrix'],
  evaluate: ['space', 'cache', 'crossings', 'checks', 'vary', 'slice', 'recipes', 'evaluate', 'cuts'],
  make: [
    'as-made/as-made',
    'steered',
    'truss',
    'truss-figures',
    'cable-strands',
    'bundle-parts',
    'bundle-life',
    'cable-parts',
    'fill-regions',
    'cable',
    'coil',
    'placing',
    'pipe',
    'pipe-parts',
    'bundle',
    'laid',
    'ribbon',
    'bridge',
    'fill',
    'own-profile',
    'standing',
    'relief',
    'sewn',
    'elements',
    'section',
    'sweep',
    'checks',
    'evaluate',
    'matrix',
  ],
  section: ['as-made/sections', 'as-made/as-made', 'steered', 'section', 'own-profile', 'sweep', 'matrix'],
  shape: ['catenary', 'curve-edit', 'carry', 'shapes', 'lie-flat'],
  surface: ['surroundings', 'surface', 'paths', 'shapes', 'cuts', 'in-sight', 'lie-flat'],
  sweep: ['as-made/sweeps', 'as-made/as-made', 'folds', 'mesh', 'section', 'placing', 'sweep', 'matrix'],
};
const rooms = [...new Set(asked.map((path) => path.split('/')[0]))];
const unknown = rooms.find((room) => !(room in TESTS));
if (unknown !== undefined) {
  console.error(`No tests are listed for the folder "${unknown}"; available: ${Object.keys(TESTS).join(', ')}.`);
  process.exit(2);
}

/** A folder represents the files in it. */
const pattern = (path) =>
  statSync(join(root, source, path), { throwIfNoEntry: false })?.isDirectory()
    ? `${source}/${path}/**/*.ts`
    : `${source}/${path}`;

/** Lines of the files that a path represents, drawn at random, but the same ones whenever it is asked. */
function someLines(path) {
  return readdirSync(join(root, source), { recursive: true })
    .filter((file) => file.endsWith('.ts') && (file === path || file.startsWith(`${path}/`)))
    .flatMap((file) =>
      readFileSync(join(root, source, file), 'utf8')
        .split('\n')
        .flatMap((_, i) => (chance(`${file} ${i}`) < share ? [`${source}/${file}:${i + 1}-${i + 1}`] : [])),
    );
}

const chance = (text) => createHash('sha256').update(text).digest().readUInt32LE(0) / 2 ** 32;

const results = await new Stryker({
  mutate: share < 1 ? asked.flatMap(someLines) : asked.map(pattern),
  testRunner: 'kelp',
  plugins: [fileURLToPath(new URL('./runner.mjs', import.meta.url))],
  warnings: { unknownOptions: false },
  kelpTests: options.tests?.split(',') ?? [...new Set(rooms.flatMap((room) => TESTS[room]))],
  reporters: ['progress-append-only'],
  concurrency: 2,
  // words, and what runs once when a file is loaded, are no matter of computing
  mutator: { excludedMutations: ['StringLiteral'] },
  ignoreStatic: true,
  timeoutMS: 10_000,
  ignorePatterns: ['packages/web', 'packages/server', 'packages/cli', 'e2e', 'docs', 'bench', 'test-results'],
  tempDirName: 'node_modules/.mutation',
  // its reader of settings and TypeScript 7 do not know each other: a name that is not there keeps it away
  disableTypeChecks: false,
  tsconfigFile: 'no-settings.json',
  allowEmpty: true,
}).runMutationTest();

const NOTICED = new Set(['Killed', 'Timeout']);
const COUNTED = new Set([...NOTICED, 'Survived', 'NoCoverage']);
const files = Map.groupBy?.(results, (r) => r.fileName) ?? groupBy(results, (r) => r.fileName);
for (const [file, all] of files) {
  const counted = all.filter((r) => COUNTED.has(r.status));
  const missed = counted.filter((r) => !NOTICED.has(r.status));
  const share = counted.length === 0 ? 100 : (100 * (counted.length - missed.length)) / counted.length;
  console.log(`\n${file}: ${counted.length - missed.length} of ${counted.length} noticed, ${share.toFixed(0)} %`);
  for (const { location, replacement, status } of missed)
    console.log(
      `  ${location.start.line}:${location.start.column}-${location.end.line}:${location.end.column} ` +
        `${status === 'NoCoverage' ? '(no test comes here) ' : ''}→ ${replacement.replace(/\s+/g, ' ').slice(0, 120)}`,
    );
}

/** Map.groupBy, which Node has from 21 on. */
function groupBy(list, key) {
  const groups = new Map();
  for (const item of list) groups.set(key(item), [...(groups.get(key(item)) ?? []), item]);
  return groups;
}
