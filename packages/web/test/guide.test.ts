import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { SHELVES, units } from '@kelp/core';
import { describe, expect, it } from 'vitest';
import { GUIDE } from '../src/guide/pages.js';

const folder = new URL('../../../docs/guide/', import.meta.url);
const textOf = (id: string) => readFileSync(new URL(`${id}.md`, folder), 'utf8');

/** All words that the interface shows: labels, options and presets of units, and the sources of the page. */
function shown(): string {
  const labels = units.flatMap(({ label, parameters, presets, slots }) => [
    label,
    ...Object.values(parameters).flatMap((parameter) => [
      parameter.label,
      parameter.group ?? '',
      ...('options' in parameter ? parameter.options.map((option) => option.label) : []),
    ]),
    ...presets.map((preset) => preset.label),
    ...(slots ?? []).map((slot) => slot.label),
  ]);
  const sources = ['../src/', '../../core/src/'].flatMap((folder) => {
    const root = new URL(folder, import.meta.url).pathname;
    return (readdirSync(root, { recursive: true }) as string[])
      .filter((file) => /\.tsx?$/.test(file))
      .map((file) => readFileSync(`${root}${file}`, 'utf8'));
  });
  return [...labels, ...Object.values(SHELVES).map(({ label }) => label), ...sources].join('\n');
}

describe('the guide', () => {
  it('has a file for every page and a page for every file', () => {
    const files = readdirSync(folder).map((file) => file.replace('.md', ''));
    expect(files.sort()).toEqual(GUIDE.map(({ id }) => id).sort());
    for (const { id, title } of GUIDE) expect(textOf(id)).toMatch(new RegExp(`^# ${title}\n`));
  });

  it('names only what the interface shows, and pictures that exist', () => {
    const words = shown();
    for (const { id } of GUIDE) {
      const text = textOf(id);
      const named = id === 'command-line' ? [] : [...text.matchAll(/\*\*([^*]+)\*\*/g)].map(([, word]) => word);
      for (const word of named) expect(words.includes(word), `${id}: ${word}`).toBe(true);
      for (const [, picture] of text.matchAll(/!\[[^\]]*\]\(([^)]+)\)/g))
        expect(existsSync(new URL(picture, folder)), `${id}: ${picture}`).toBe(true);
    }
  });

  it('explains every make unit', () => {
    const explained = new Set(GUIDE.flatMap(({ units: ids }) => ids));
    expect(units.filter(({ stage, id }) => stage === 'make' && !explained.has(id)).map(({ id }) => id)).toEqual([]);
  });
});
