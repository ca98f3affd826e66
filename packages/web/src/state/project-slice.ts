import type { KelpDocument } from '@kelp/core';
import { createSlice, original, type PayloadAction, SHOULD_AUTOBATCH } from '@reduxjs/toolkit';

export type SaveState = 'saved' | 'unsaved' | 'saving' | 'offline' | 'full' | 'conflict' | 'refused';

/** A step that can be undone: what was done, and the document before (or, in `future`, after) it. */
export interface Step {
  label: string;
  document: KelpDocument;
}

/** A change of the document; edits of the same `gesture` are one step. */
interface Edit {
  document: KelpDocument;
  label: string;
  gesture?: string;
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
  /** `kept`: what is not saved yet is in the browser's storage too, and outlives the page. */
  save: { state: SaveState; at: string | null; message: string | null; kept: boolean };
  /** What had to be done to the document to open it; until it was read. */
  notes: string[];
  /** What was opened is what the cover in the list shows. */
  covered: boolean;
}

const initialState: ProjectState = {
  id: null,
  document: null,
  revision: 0,
  past: [],
  future: [],
  gesture: null,
  save: { state: 'saved', at: null, message: null, kept: true },
  notes: [],
  covered: false,
};

/** Steps that are kept; older ones stay reachable as revisions. */
const MAX_STEPS = 300;

const slice = createSlice({
  name: 'project',
  initialState,
  reducers: {
    opened(
      _state,
      {
        payload,
      }: PayloadAction<{
        id: string;
        document: KelpDocument;
        revision: number;
        at: string;
        unsaved: boolean;
        notes?: string[];
        covered?: boolean;
      }>,
    ) {
      const { id, document, revision, at, unsaved, notes = [], covered = false } = payload;
      return {
        ...initialState,
        id,
        document,
        revision,
        save: { state: unsaved ? 'unsaved' : 'saved', at, message: null, kept: true },
        notes,
        covered,
      };
    },
    closed: () => initialState,
    notesRead: (state) => ({ ...state, notes: [] }),
    /** Every change of the document goes through here. The same `gesture` as before joins the step before. */
    edited: {
      // a step of a drag: the page is drawn in a task of its own, after that of the pointer
      prepare: (payload: Edit) => ({ payload, meta: { [SHOULD_AUTOBATCH]: payload.gesture !== undefined } }),
      reducer(draft, { payload }: PayloadAction<Edit>) {
        // a draft's parts are stand-ins: an edit that changed nothing shows only beside the state itself
        const state: ProjectState = original(draft) ?? draft;
        if (!state.document || payload.document === state.document) return draft;
        const joins = payload.gesture !== undefined && payload.gesture === state.gesture;
        const past = joins ? state.past : withStep(state.past, { label: payload.label, document: state.document });
        return {
          ...state,
          document: payload.document,
          past,
          future: [],
          gesture: payload.gesture ?? null,
          save: unsaved(state),
        };
      },
    },
    /** A conflict is settled: from here on the project grows from the server's revision. A step like any other. */
    settled(state, { payload }: PayloadAction<{ document: KelpDocument; revision: number; at: string }>) {
      const { document, revision, at } = payload;
      if (!state.document) return state;
      const past = withStep(state.past, { label: 'Resolve changes made elsewhere', document: state.document });
      const save: ProjectState['save'] = { ...state.save, state: 'unsaved', at, message: null };
      return { ...state, document, revision, past, future: [], gesture: null, save };
    },
    gestureEnded: (state) => ({ ...state, gesture: null }),
    undone: (state) => atStep(state, state.past.length - 1),
    redone: (state) => atStep(state, state.past.length + 1),
    /** Goes to the state after this many steps: back or forward by any number at once. */
    steppedTo: (state, { payload }: PayloadAction<number>) => atStep(state, payload),
    saveChanged(
      state,
      { payload }: PayloadAction<{ state: SaveState; message?: string; revision?: number; at?: string }>,
    ) {
      const { at, kept } = state.save;
      const save = { state: payload.state, at: payload.at ?? at, message: payload.message ?? null, kept };
      return { ...state, save, revision: payload.revision ?? state.revision };
    },
    journalWritten(state, { payload: kept }: PayloadAction<boolean>) {
      return { ...state, save: { ...state.save, kept } };
    },
  },
});

const withStep = (past: readonly Step[], step: Step): Step[] => [...past, step].slice(-MAX_STEPS);

/** The project as it was after `count` steps; what is beyond can be redone. */
function atStep(state: ProjectState, count: number): ProjectState {
  let { document, past, future } = state;
  while (document && past.length > count && past.length > 0) {
    const step = past[past.length - 1];
    future = [...future, { label: step.label, document }];
    document = step.document;
    past = past.slice(0, -1);
  }
  while (document && past.length < count && future.length > 0) {
    const step = future[future.length - 1];
    past = [...past, { label: step.label, document }];
    document = step.document;
    future = future.slice(0, -1);
  }
  if (document === state.document) return state;
  return { ...state, document, past, future, gesture: null, save: unsaved(state) };
}

const unsaved = ({ save }: ProjectState): ProjectState['save'] =>
  save.state === 'conflict' ? save : { ...save, state: 'unsaved', message: null };

export const projectReducer = slice.reducer;
export const {
  opened,
  closed,
  notesRead,
  edited,
  settled,
  gestureEnded,
  undone,
  redone,
  steppedTo,
  saveChanged,
  journalWritten,
} = slice.actions;
