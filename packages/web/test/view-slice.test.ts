import { demoProject } from '@kelp/demo';
import { configureStore } from '@reduxjs/toolkit';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { AppState } from '../src/app/store.js';
import { edited, opened, projectReducer, undone } from '../src/state/project-slice.js';
import {
  bakingShown,
  checksShown,
  compared,
  panelFolded,
  panelToggled,
  penTaken,
  pictureChosen,
  pieceChosen,
  piecesChosen,
  pointsChosen,
  propChosen,
  reset,
  stageWatched,
  viewReducer,
} from '../src/state/view-slice.js';
import { STEPS } from '../src/tour/steps.js';

const { document } = await demoProject();
const bench = () => {
  const store = configureStore({
    reducer: { project: projectReducer, view: viewReducer },
    middleware: (defaults) => defaults({ serializableCheck: false, immutableCheck: false }),
  });
  store.dispatch(opened({ id: 'p', document, revision: 1, at: '', unsaved: false }));
  return store;
};

describe('what is chosen', () => {
  const id = fc.constantFrom('a', 'b', 'c');
  const step = fc.oneof(
    id.map((one) => pieceChosen(one)),
    fc.constant(pieceChosen(null)),
    fc.uniqueArray(id).map((many) => piecesChosen(many)),
    id.map((one) => propChosen(one)),
    id.map((one) => pictureChosen(one)),
    fc.nat(5).map((index) => pointsChosen([{ curve: 'x', index }])),
    id.map((variant) => compared({ variant, at: 0.5 })),
    fc.nat(3).map((stage) => stageWatched(stage)),
    fc.constant(penTaken('stroke')),
  );

  it('is one kind of thing at a time, the last of many is the one that is shown, and nothing of the former stays', () => {
    fc.assert(
      fc.property(fc.array(step, { maxLength: 20 }), (steps) => {
        const store = bench();
        for (const action of steps) {
          store.dispatch(action);
          const { view } = store.getState();
          expect(
            [view.pieces.length > 0, view.prop !== null, view.picture !== null].filter(Boolean).length,
          ).toBeLessThan(2);
          expect(view.piece).toBe(view.pieces.at(-1) ?? null);
          if (/Chosen$/.test(action.type) && !/points/.test(action.type))
            expect([view.point, view.watch, view.compare]).toEqual([null, null, null]);
        }
      }),
    );
  });

  it('is let go with the project; folded panels stay folded', () => {
    const store = bench();
    store.dispatch(piecesChosen(['a', 'b']));
    store.dispatch(panelFolded({ panel: 'strip', folded: true }));
    store.dispatch(panelToggled('stem'));
    store.dispatch(reset());
    expect(store.getState().view).toMatchObject({
      piece: null,
      pieces: [],
      folded: { stem: true, strip: true, manifest: false },
    });
  });
});

describe('the first minute', () => {
  it('each step is done by doing it, and not before', () => {
    const store = bench();
    const state = () => store.getState() as AppState;
    const { dispatch } = store;
    const rename = (label: string, pieces = document.pieces) =>
      dispatch(edited({ document: { ...document, name: label, pieces }, label }));
    const doing = [
      () => dispatch(pieceChosen('mooring-line')),
      () => rename('Radius of Mooring line'),
      () => dispatch(undone()),
      () => rename('Draw a line', [...document.pieces, { ...document.pieces[0], id: 'new' }]),
      () => dispatch(checksShown(true)),
      () => dispatch(bakingShown(true)),
    ];
    expect(doing).toHaveLength(STEPS.length);
    STEPS.forEach((step, i) => {
      const began = state();
      expect(step.done(began, began), step.title).toBe(false);
      doing[i]();
      expect(step.done(state(), began), step.title).toBe(true);
    });
  });
});
