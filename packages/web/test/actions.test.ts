import { type KelpDocument, parseDocument } from '@kelp/core';
import { demoProject } from '@kelp/demo';
import { configureStore } from '@reduxjs/toolkit';
import { beforeAll, beforeEach, expect, it, vi } from 'vitest';
import type { AppDispatch, AppState } from '../src/app/store.js';
import { opened, projectReducer } from '../src/state/project-slice.js';
import { pieceChosen, viewReducer } from '../src/state/view-slice.js';

let demo: KelpDocument;
beforeAll(async () => {
  demo = (await demoProject()).document;
});
beforeEach(() => {
  vi.stubGlobal('localStorage', { getItem: () => null, setItem: () => {} });
  vi.stubGlobal('document', { querySelectorAll: () => [], documentElement: { dataset: {}, style: {} } });
  vi.stubGlobal('matchMedia', () => ({ matches: false, addEventListener: () => {} }));
});

function bench() {
  const store = configureStore({
    reducer: { project: projectReducer, view: viewReducer },
    middleware: (defaults) => defaults({ serializableCheck: false, immutableCheck: false }),
  });
  const dispatch = store.dispatch as unknown as AppDispatch;
  dispatch(opened({ id: 'p', document: demo, revision: 1, at: '', unsaved: false }));
  return { dispatch, state: () => store.getState() as AppState };
}

it('have one name and one place each, and no two have the same keys', async () => {
  const { FIXED, projectActions } = await import('../src/actions/actions.js');
  const { dispatch, state } = bench();
  dispatch(pieceChosen('mooring-line'));
  const all = [...FIXED, ...projectActions(state())];
  expect(new Set(all.map(({ id }) => id)).size).toBe(all.length);
  const keys = all.flatMap((action) => (action.keys ? [action.keys] : []));
  expect(new Set(keys).size).toBe(keys.length);
  for (const { label, group } of all) expect(`${group}: ${label}`).toMatch(/^\w.*: \w/);
});

it('reach every piece, prop, stage, shape and number of the project', async () => {
  const { projectActions } = await import('../src/actions/actions.js');
  const { dispatch, state } = bench();
  expect(projectActions(state()).filter(({ group }) => group === 'Pieces')).toHaveLength(demo.pieces.length);
  expect(projectActions(state()).filter(({ group }) => group === 'Props')).toHaveLength(demo.props.length);
  dispatch(pieceChosen('mooring-line'));
  const labels = projectActions(state()).map(({ label }) => label);
  for (const wanted of [/^Open bake$/, /^Add sag: /, /^Radius: /, /^Roughness: /])
    expect(labels.some((label) => wanted.test(label))).toBe(true);
});

it('each does one thing that leaves a valid project, and can be taken back', async () => {
  const { FIXED, projectActions } = await import('../src/actions/actions.js');
  const { dispatch, state } = bench();
  dispatch(pieceChosen('mooring-line'));
  for (const action of [...projectActions(state()), ...FIXED]) {
    const fresh = bench();
    fresh.dispatch(pieceChosen('mooring-line'));
    action.run(fresh.dispatch);
    const { document, past } = fresh.state().project;
    expect(parseDocument(structuredClone(document))).toEqual(document);
    // it is in full already
    const edits = /^(preset|shape|detail) /.test(action.id) && action.id !== 'detail full';
    expect(past.length).toBe(edits ? 1 : 0);
  }
});
