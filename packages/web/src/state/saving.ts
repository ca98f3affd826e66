import { createListenerMiddleware, isAnyOf } from '@reduxjs/toolkit';
import { type ApiError, api } from '../api/client.js';
import { clearJournal, writeJournal } from './journal.js';
import { edited, opened, type ProjectState, redone, saveChanged, undone } from './project-slice.js';

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
  matcher: isAnyOf(edited, undone, redone, opened),
  effect: async (_action, listener) => {
    listener.cancelActiveListeners();
    const now = () => (listener.getState() as { project: ProjectState }).project;
    const { id, document, revision, save } = now();
    if (!id || !document || save.state === 'saved' || save.state === 'conflict') return;
    void writeJournal(id, { document, basedOn: revision, at: new Date().toISOString() });
    await listener.delay(REST);
    for (;;) {
      // a save that is under way for an older edit must end first, or this one would be stale by its own hand
      await underWay;
      const state = now();
      if (state.id !== id || !state.document || state.save.state === 'conflict') return;
      const outcome = sendSave(id, state, (change) => listener.dispatch(saveChanged(change)), now);
      underWay = outcome.then(() => {});
      if ((await outcome) !== 'again') return;
      await listener.delay(RETRY);
    }
  },
});

let underWay: Promise<void> = Promise.resolve();

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
    if (now().id !== id) return 'done';
    const same = now().document === document;
    tell({ state: same ? 'saved' : 'unsaved', revision: saved.revision, at: saved.updatedAt });
    if (same) await clearJournal(id);
    else await writeJournal(id, { document: now().document ?? document, basedOn: saved.revision, at: saved.updatedAt });
    return 'done';
  } catch (error) {
    const { status, message } = error as ApiError;
    if (now().id !== id) return 'done';
    if (status === 409) tell({ state: 'conflict', message });
    else if (status === 0 || status >= 500) {
      tell({ state: 'offline', message });
      return 'again';
    } else tell({ state: 'refused', message });
    return 'done';
  }
}
