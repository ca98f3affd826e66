import { type KelpDocument, parseDocument } from '@kelp/core';
import { api, type StoredProject } from '../api/client.js';
import type { AppDispatch } from '../app/store.js';
import { type JournalEntry, readJournal } from './journal.js';
import { opened, saveChanged } from './project-slice.js';
import { isSameDocument } from './same-document.js';
import { pieceChosen, reset } from './view-slice.js';

/**
 * Opens a project from the server, with the edits of this browser that never got there on top. Edits that grew from an
 * older revision than the server has now are a conflict: both sides are kept until a person decides.
 * @param imported what was done to the file it was just imported from
 */
export const openProject =
  (id: string, imported: readonly string[] = []) =>
  async (dispatch: AppDispatch): Promise<void> => {
    const [stored, journal] = await Promise.all([api.project(id), readJournal(id)]);
    dispatch(reset());
    const mine = journal && unlike(journal, stored.document);
    // frozen: the store need not go through all of a large project to see that nothing of it is a draft
    const document = Object.freeze(mine?.document ?? stored.document);
    const basedOn = mine && keptOwn(mine, stored) ? stored.revision : (mine?.basedOn ?? stored.revision);
    dispatch(
      opened({
        id,
        document,
        revision: basedOn,
        at: mine?.at ?? stored.updatedAt,
        unsaved: mine !== undefined,
        notes: [...imported, ...(stored.notes ?? [])],
        covered: stored.covered && mine === undefined,
      }),
    );
    if (basedOn !== stored.revision)
      dispatch(
        saveChanged({
          state: 'conflict',
          message: 'This project was changed elsewhere while this browser held unsaved edits.',
        }),
      );
    dispatch(pieceChosen(document.pieces[0]?.id ?? null));
  };

/** The journal's edits where they are not on the server already. What cannot be read does not keep the project shut. */
function unlike(journal: JournalEntry, stored: KelpDocument): JournalEntry | undefined {
  if (isSameDocument(journal.document, stored)) return undefined;
  try {
    return { ...journal, document: parseDocument(journal.document) };
  } catch (error) {
    console.warn('The edits kept in this browser could not be read', error);
    return undefined;
  }
}

/** Whether what the server has is a save of this browser whose answer never came. */
const keptOwn = ({ basedOn, sent = [] }: JournalEntry, { revision, document }: StoredProject): boolean =>
  revision === basedOn + 1 && sent.some((one) => isSameDocument(one, document));
