import type { KelpDocument } from '@kelp/core';
import { createListenerMiddleware, isAnyOf } from '@reduxjs/toolkit';
import { type ApiError, api } from '../api/client.js';
import { clearJournal, writeJournal } from './journal.js';
import { edited, opened, type ProjectState, redone, saveChanged, settled, steppedTo, undone } from './project-slice.js';

/** After the last edit the save waits so long, milliseconds. */
const REST = 700;
/** A server that does not answer is asked again after so long, milliseconds. */
const RETRY = 4000;

/**
 * Saving without being asked. Every edit goes to the journal in the browser at once and to the server once the hand
 * rests; an edit during a save starts the next one after it. A save that is refused as stale stops here: the conflict
 * is for a person to decide.
 */
export const savingListener = createListenerMiddleware();

savingListener.startListening({
  matcher: isAnyOf(edited, undone, redone, steppedTo, opened, settled),
  effect: async (_action, listener) => {
    listener.cancelActiveListeners();
    const now = () => (listener.getState() as { project: ProjectState }).project;
    const { id, document, revision, save } = now();
    if (!id || !document || save.state === 'saved' || save.state === 'conflict') return;
    void writeJournal(id, { document, basedOn: revision, at: new Date().toISOString() });
    await listener.delay(REST);
    for (;;) {
      const outcome = inTurn(async () => {
        const state = now();
        // a newer edit saves for this one too
        if (listener.signal.aborted || state.id !== id || !state.document || state.save.state === 'conflict')
          return 'done';
        return sendSave(id, state, (change) => listener.dispatch(saveChanged(change)), now);
      });
      if ((await outcome) !== 'again') return;
      await listener.delay(RETRY);
    }
  },
});

let underWay: Promise<unknown> = Promise.resolve();

/** One save after the other: one that began before the last was answered would be stale by its own hand. */
function inTurn<T>(save: () => Promise<T>): Promise<T> {
  const turn = underWay.then(save);
  underWay = turn.catch(() => {});
  return turn;
}

/** What was sent without an answer: the server may have kept it all the same, and only its word was lost. */
const unanswered = new Set<KelpDocument>();

/** The revision, where it is one of those that were never answered: then nobody else has saved. */
async function revisionOfMine(id: string, number: number): Promise<{ document: KelpDocument; at: string } | undefined> {
  if (unanswered.size === 0) return undefined;
  const stored = await api.revision(id, number).catch(() => undefined);
  if (!stored) return undefined;
  const text = JSON.stringify(stored.document);
  const document = [...unanswered].find((sent) => JSON.stringify(sent) === text);
  unanswered.clear();
  return document && { document, at: stored.updatedAt };
}

async function sendSave(
  id: string,
  state: ProjectState,
  tell: (change: Parameters<typeof saveChanged>[0]) => void,
  now: () => ProjectState,
): Promise<'done' | 'again'> {
  const { document, revision } = state;
  if (!document) return 'done';
  tell({ state: 'saving' });
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
    if (status === 0) unanswered.add(document);
    const own = status === 409 ? await revisionOfMine(id, revision + 1) : undefined;
    if (now().id !== id) return 'done';
    if (own) {
      const same = now().document === own.document;
      tell({ state: same ? 'saved' : 'unsaved', revision: revision + 1, at: own.at });
      if (!same) return sendSave(id, now(), tell, now);
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
