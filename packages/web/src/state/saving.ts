import type { KelpDocument } from '@kelp/core';
import { createListenerMiddleware, isAnyOf } from '@reduxjs/toolkit';
import { type ApiError, api } from '../api/client.js';
import { clearJournal, writeJournal } from './journal.js';
import {
  edited,
  journalWritten,
  opened,
  type ProjectState,
  redone,
  saveChanged,
  settled,
  steppedTo,
  undone,
} from './project-slice.js';
import { isSameDocument } from './same-document.js';

/** How long the save waits after the last edit, and until a server that did not answer is asked again; milliseconds. */
export interface SavingTimes {
  rest: number;
  retry: number;
}

/**
 * Saving without being asked. Every edit goes to the journal in the browser at once and to the server once the hand
 * rests; an edit during a save starts the next one after it. A save that is refused as stale stops here: the conflict
 * is for a person to decide.
 */
export function createSaving({ rest, retry }: SavingTimes = { rest: 700, retry: 4000 }) {
  const saving = createListenerMiddleware();
  const inTurn = createQueue();
  const unanswered = new Set<KelpDocument>();
  saving.startListening({
    matcher: isAnyOf(edited, undone, redone, steppedTo, opened, settled),
    effect: async (_action, listener) => {
      listener.cancelActiveListeners();
      const now = () => (listener.getState() as { project: ProjectState }).project;
      const { id, document, revision, save } = now();
      if (!id || !document || save.state === 'saved' || save.state === 'conflict') return;
      const entry = { document, basedOn: revision, at: new Date().toISOString(), sent: [...unanswered] };
      void writeJournal(id, entry).then((kept) => {
        if (kept !== now().save.kept) listener.dispatch(journalWritten(kept));
      });
      await listener.delay(rest);
      for (;;) {
        const outcome = inTurn(async () => {
          const state = now();
          // a newer edit saves for this one too
          if (listener.signal.aborted || state.id !== id || !state.document || state.save.state === 'conflict')
            return 'done';
          return sendSave(id, state, { tell: (change) => listener.dispatch(saveChanged(change)), now, unanswered });
        });
        if ((await outcome) !== 'again') return;
        await listener.delay(retry);
      }
    },
  });
  return saving;
}

/** One save after the other: one that began before the last was answered would be stale by its own hand. */
function createQueue() {
  let underWay: Promise<unknown> = Promise.resolve();
  return <T>(save: () => Promise<T>): Promise<T> => {
    const turn = underWay.then(save);
    underWay = turn.catch(() => {});
    return turn;
  };
}

/** The page that saves: what it has now, how it is notified, and what it sent without an answer. */
interface Page {
  now(): ProjectState;
  tell(change: Parameters<typeof saveChanged>[0]): void;
  /** The server may have kept one of these, and only its word was lost. */
  unanswered: Set<KelpDocument>;
}

/** The revision, where it is one of those that were never answered: then nobody else has saved. */
async function revisionOfMine(id: string, number: number, { unanswered }: Page) {
  if (unanswered.size === 0) return undefined;
  const stored = await api.revision(id, number).catch(() => undefined);
  if (!stored) return undefined;
  const document = [...unanswered].find((sent) => isSameDocument(sent, stored.document));
  unanswered.clear();
  return document && { document, at: stored.updatedAt };
}

async function sendSave(id: string, state: ProjectState, page: Page): Promise<'done' | 'again'> {
  const { now, tell, unanswered } = page;
  const { document, revision } = state;
  if (!document) return 'done';
  tell({ state: 'saving' });
  const before = unanswered.has(document);
  unanswered.add(document);
  try {
    const saved = await api.saveProject(id, revision, document);
    unanswered.clear();
    if (now().id !== id) return 'done';
    const same = now().document === document;
    tell({ state: same ? 'saved' : 'unsaved', revision: saved.revision, at: saved.updatedAt });
    if (same) await clearJournal(id);
    else await writeJournal(id, { document: now().document ?? document, basedOn: saved.revision, at: saved.updatedAt });
    return 'done';
  } catch (error) {
    const { status, message } = error as ApiError;
    if (status !== 0 && !before) unanswered.delete(document);
    const own = status === 409 ? await revisionOfMine(id, revision + 1, page) : undefined;
    if (now().id !== id) return 'done';
    if (own) {
      const same = now().document === own.document;
      tell({ state: same ? 'saved' : 'unsaved', revision: revision + 1, at: own.at });
      if (!same) return sendSave(id, now(), page);
      await clearJournal(id);
      return 'done';
    }
    if (status === 409) tell({ state: 'conflict', message });
    else if (status === 0 || status >= 500) {
      tell({ state: status === 507 ? 'full' : 'offline', message });
      return 'again';
    } else tell({ state: 'refused', message });
    return 'done';
  }
}
