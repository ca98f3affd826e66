// npm run docs: writes docs/units.md from the declarations of the units, through the command line's own listing.
import { execFileSync } from 'node:child_process';
import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { run } from './install.mjs';
import { root } from './root.mjs';

const units = JSON.parse(
  execFileSync(process.execPath, [join(root, 'packages/cli/bin/kelp.js'), 'list', '--json'], { encoding: 'utf8' }),
);
const lines = [
  '# Units',
  '',
  'Written by `npm run docs` from the declarations in `packages/core`. Lengths in metres, angles in radians.',
  '',
];
for (const stage of ['path', 'shape', 'make', 'dress']) {
  lines.push(`## ${stage[0].toUpperCase()}${stage.slice(1)}`, '');
  for (const unit of units.filter((candidate) => candidate.stage === stage)) {
    lines.push(
      `### \`${unit.id}\`: ${unit.label}`,
      '',
      unit.purpose,
      '',
      '| parameter | what it does | default | limits |',
      '| --- | --- | --- | --- |',
    );
    for (const parameter of unit.parameters) lines.push(row(parameter));
    lines.push('', `Presets: ${unit.presets.map((preset) => `${preset.label} (\`${preset.id}\`)`).join(', ')}.`, '');
    if (unit.outfits?.length > 0) lines.push(`Outfits: ${unit.outfits.map(({ label }) => label).join(', ')}.`, '');
  }
}
const file = join(root, 'docs', 'units.md');
writeFileSync(file, lines.join('\n'));
run(process.execPath, [join(root, 'node_modules/@biomejs/biome/bin/biome'), 'format', '--write', file]);

function row({ name, help, unit, min, max, options, along, ...parameter }) {
  const limits = options
    ? options.map((option) => option.value).join(', ')
    : min === undefined
      ? ''
      : `${min} to ${max}${unit ? ` ${unit}` : ''}`;
  const value =
    typeof parameter.default === 'number' ? +parameter.default.toPrecision(4) : JSON.stringify(parameter.default);
  return `| \`${name}\` | ${help}${along ? ' May vary along the length.' : ''} | ${value} | ${limits} |`;
}
