import type { KelpDocument } from '@kelp/core';
import { createSlice, type PayloadAction } from '@reduxjs/toolkit';

export type SaveState = 'saved' | 'unsaved' | 'saving' | 'offline' | 'conflict' | 'refused';

/** A step that can be undone: what was done, and the document before (or, in `future`, after) it. */
export interface Step {
  label: string;
  document: KelpDocument;
}

export interface ProjectState {
  id: string | null;
  document: KelpDocument | null;
  /** Revision on the server that `document` was last the same as, or grew from. */
  revision: number;
  past: Step[];
  future: Step[];
  /** While a gesture (one drag) runs, its edits are one step. */
  gesture: string | null;
  save: { state: SaveState; at: string | null; message: string | null };
}

const initialState: ProjectState = {
  id: null,
  document: null,
  revision: 0,
  past: [],
  future: [],
  gesture: null,
  save: { state: 'saved', at: null, message: null },
};

/** Steps that are kept; older ones stay reachable as revisions. */
const MOST_STEPS = 300;

const slice = createSlice({
  name: 'project',
  initialState,
  reducers: {
    opened(
      _state,
      {
        payload,
      }: PayloadAction<{ id: string; document: KelpDocument; revision: number; at: string; unsaved: boolean }>,
    ) {
      const { id, document, revision, at, unsaved } = payload;
      return {
        ...initialState,
        id,
        document,
        revision,
        save: { state: unsaved ? 'unsaved' : 'saved', at, message: null },
      };
    },
    closed: () => initialState,
    /** Every change of the document goes through here. The same `gesture` as before joins the step before. */
    edited(state, { payload }: PayloadAction<{ document: KelpDocument; label: string; gesture?: string }>) {
      if (!state.document || payload.document === state.document) return state;
      const joins = payload.gesture !== undefined && payload.gesture === state.gesture;
      const past = joins
        ? state.past
        : [...state.past, { label: payload.label, document: state.document }].slice(-MOST_STEPS);
      return {
        ...state,
        document: payload.document,
        past,
        future: [],
        gesture: payload.gesture ?? null,
        save: unsaved(state),
      };
    },
    gestureEnded: (state) => ({ ...state, gesture: null }),
    undone(state) {
      const step = state.past.at(-1);
      if (!step || !state.document) return state;
      const future = [...state.future, { label: step.label, document: state.document }];
      return {
        ...state,
        document: step.document,
        past: state.past.slice(0, -1),
        future,
        gesture: null,
        save: unsaved(state),
      };
    },
    redone(state) {
      const step = state.future.at(-1);
      if (!step || !state.document) return state;
      const past = [...state.past, { label: step.label, document: state.document }];
      return {
        ...state,
        document: step.document,
        past,
        future: state.future.slice(0, -1),
        gesture: null,
        save: unsaved(state),
      };
    },
    saveChanged(
      state,
      { payload }: PayloadAction<{ state: SaveState; message?: string; revision?: number; at?: string }>,
    ) {
      const save = { state: payload.state, at: payload.at ?? state.save.at, message: payload.message ?? null };
      return { ...state, save, revision: payload.revision ?? state.revision };
    },
  },
});

const unsaved = ({ save }: ProjectState): ProjectState['save'] =>
  save.state === 'conflict' ? save : { ...save, state: 'unsaved', message: null };

export const projectReducer = slice.reducer;
export const { opened, closed, edited, gestureEnded, undone, redone, saveChanged } = slice.actions;
