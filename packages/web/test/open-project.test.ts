import { emptyDocument, type KelpDocument } from '@kelp/core';
import { configureStore } from '@reduxjs/toolkit';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { api } from '../src/api/client.js';
import type { AppDispatch } from '../src/app/store.js';
import { type JournalEntry, readJournal } from '../src/state/journal.js';
import { openProject } from '../src/state/open-project.js';
import { projectReducer } from '../src/state/project-slice.js';
import { viewReducer } from '../src/state/view-slice.js';

vi.mock('../src/state/journal.js', () => ({ readJournal: vi.fn() }));

const stored = { ...emptyDocument('On the server'), displayUnit: 'cm' as const };
const edited: KelpDocument = { ...stored, name: 'Edited here' };

/** Opens the project with what the server and the browser have of it. */
async function open(journal: JournalEntry | undefined) {
  const store = configureStore({
    reducer: { project: projectReducer, view: viewReducer },
    middleware: (defaults) => defaults({ serializableCheck: false, immutableCheck: false }),
  });
  vi.mocked(readJournal).mockResolvedValue(journal);
  await (store.dispatch as unknown as AppDispatch)(openProject('p'));
  return store.getState().project;
}
const entry = (document: unknown, basedOn: number): JournalEntry =>
  ({ document, basedOn, at: '2026-01-01T00:00:00Z' }) as JournalEntry;

beforeEach(() => {
  vi.spyOn(api, 'project').mockResolvedValue({
    id: 'p',
    name: stored.name,
    revision: 7,
    updatedAt: '2026-01-02T00:00:00Z',
    deletedAt: null,
    document: stored,
    notes: [],
    covered: false,
  });
});

describe('opening a project', () => {
  it('takes what the server has where the browser holds nothing, or the same', async () => {
    for (const journal of [undefined, entry(stored, 7), entry(stored, 3)])
      expect(await open(journal)).toMatchObject({ document: stored, revision: 7, save: { state: 'saved' } });
  });

  it('puts edits on top that never got to the server, and saves them', async () => {
    expect(await open(entry(edited, 7))).toMatchObject({ document: edited, revision: 7, save: { state: 'unsaved' } });
  });

  it('leaves it to a person where somebody else saved meanwhile: both sides are there', async () => {
    expect(await open(entry(edited, 5))).toMatchObject({ document: edited, revision: 5, save: { state: 'conflict' } });
  });

  it('knows its own save again whose answer never came: nobody else has saved', async () => {
    const sent = (...documents: KelpDocument[]) => ({ ...entry(edited, 6), sent: documents });
    const other = { ...stored, name: 'Sent before' };
    expect(await open(sent(other, stored))).toMatchObject({
      document: edited,
      revision: 7,
      save: { state: 'unsaved' },
    });
    expect(await open(sent(other))).toMatchObject({ revision: 6, save: { state: 'conflict' } });
    expect(await open({ ...sent(stored), basedOn: 5 })).toMatchObject({ revision: 5, save: { state: 'conflict' } });
  });

  it('lifts edits of an older version, and is not kept shut by edits that cannot be read', async () => {
    const { pictures: _, ...rest } = edited;
    expect((await open(entry({ ...rest, version: 1 }, 7))).document).toEqual(edited);
    const reported = vi.spyOn(console, 'warn').mockImplementation(() => {});
    for (const broken of [{ ...edited, version: 99 }, { nothing: true }, 'text', { ...edited, pieces: 'none' }])
      expect(await open(entry(broken, 7))).toMatchObject({ document: stored, save: { state: 'saved' } });
    expect(reported).toHaveBeenCalledTimes(4);
    reported.mockRestore();
  });
});
