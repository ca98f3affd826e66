import type { KelpDocument } from '@kelp/core';
import type { AppDispatch, AppState } from '../app/store.js';
import { edited } from './project-slice.js';

/**
 * Changes the document: one step of undo, or part of the step of a running gesture.
 * @param label what was done, as the history shows it: "Twist of Mooring line"
 */
export const edit =
  (label: string, change: (document: KelpDocument) => KelpDocument, gesture?: string) =>
  (dispatch: AppDispatch, getState: () => AppState): void => {
    const { document } = getState().project;
    if (document) dispatch(edited({ document: change(document), label, gesture }));
  };

/** An id for something new: short, random, never used again. */
export const newId = (): string =>
  crypto.getRandomValues(new Uint32Array(2)).reduce((text, value) => text + value.toString(36), '');
