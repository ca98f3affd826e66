import type { KelpDocument } from '@kelp/core';
import { createStore, del, get, set } from 'idb-keyval';

/** Edits that the server has not acknowledged yet, kept in the browser so that nothing that happens to it costs one. */
export interface JournalEntry {
  document: KelpDocument;
  /** Revision of the server that the edits grew from. */
  basedOn: number;
  at: string;
  /** What was sent on `basedOn` and never answered: if the server kept one of these, nobody else has saved. */
  sent?: readonly KelpDocument[];
}

let opened: ReturnType<typeof createStore> | undefined;
const journal = () => {
  opened ??= createStore('kelp-journal', 'projects');
  return opened;
};

/** A browser without storage (private window, full disk) loses the journal, not the session. */
async function quietly<T>(work: () => Promise<T>): Promise<T | undefined> {
  try {
    return await work();
  } catch (error) {
    console.warn('The journal could not be used', error);
    return undefined;
  }
}

export const readJournal = (project: string): Promise<JournalEntry | undefined> =>
  quietly(() => get<JournalEntry>(project, journal()));
/** Whether the browser took it: a full or forbidden storage does not. */
export const writeJournal = async (project: string, entry: JournalEntry): Promise<boolean> =>
  (await quietly(() => set(project, entry, journal()).then(() => true))) ?? false;
export const clearJournal = (project: string): Promise<void> => quietly(() => del(project, journal())) as Promise<void>;
