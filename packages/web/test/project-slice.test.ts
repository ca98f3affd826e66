import { emptyDocument, type KelpDocument } from '@kelp/core';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  edited,
  gestureEnded,
  opened,
  projectReducer,
  redone,
  saveChanged,
  settled,
  steppedTo,
  undone,
} from '../src/state/project-slice.js';

const named = (name: string): KelpDocument => emptyDocument(name);
const start = () =>
  projectReducer(
    undefined,
    opened({ id: 'p', document: named('0'), revision: 3, at: '2026-01-01T00:00:00Z', unsaved: false }),
  );

describe('undo', () => {
  it('any run of edits, undos, redos, jumps and settled conflicts agrees with an honest list of documents', () => {
    const action = fc.constantFrom('edit', 'undo', 'redo', 'jump', 'settle');
    fc.assert(
      fc.property(fc.array(action, { maxLength: 60 }), (actions) => {
        let state = start();
        let list = ['0'];
        let at = 0;
        actions.forEach((what, i) => {
          if (what === 'edit') {
            list = [...list.slice(0, at + 1), `${i + 1}`];
            at++;
            state = projectReducer(state, edited({ document: named(`${i + 1}`), label: 'Edit' }));
          } else if (what === 'settle') {
            list = [...list.slice(0, at + 1), `both ${i}`];
            at++;
            state = projectReducer(state, settled({ document: named(`both ${i}`), revision: 9 + i, at: 'then' }));
            expect([state.save.state, state.revision]).toEqual(['unsaved', 9 + i]);
          } else if (what === 'jump') {
            at = (7 * i) % list.length;
            state = projectReducer(state, steppedTo(at));
          } else if (what === 'undo') {
            at = Math.max(0, at - 1);
            state = projectReducer(state, undone());
          } else {
            at = Math.min(list.length - 1, at + 1);
            state = projectReducer(state, redone());
          }
          expect(state.document?.name).toBe(list[at]);
          expect(state.past).toHaveLength(at);
          expect(state.future).toHaveLength(list.length - 1 - at);
        });
      }),
    );
  });

  it('all edits of one gesture are one step; the next gesture is another', () => {
    let state = start();
    for (const name of ['a', 'b', 'c'])
      state = projectReducer(state, edited({ document: named(name), label: 'Drag', gesture: 'drag 1' }));
    state = projectReducer(state, gestureEnded());
    state = projectReducer(state, edited({ document: named('d'), label: 'Drag', gesture: 'drag 2' }));
    expect(state.past.map((step) => step.document.name)).toEqual(['0', 'c']);
    expect(projectReducer(projectReducer(state, undone()), undone()).document?.name).toBe('0');
  });

  it('keeps the newest 300 steps', () => {
    let state = start();
    for (let i = 1; i <= 400; i++) state = projectReducer(state, edited({ document: named(`${i}`), label: 'Edit' }));
    expect(state.past).toHaveLength(300);
    expect(state.past[0].document.name).toBe('100');
  });
});

describe('saving state', () => {
  it('an edit makes it unsaved, an acknowledged save raises the revision, a conflict stays until it is decided', () => {
    let state = projectReducer(start(), edited({ document: named('a'), label: 'Edit' }));
    expect(state.save.state).toBe('unsaved');
    state = projectReducer(state, saveChanged({ state: 'saved', revision: 4, at: '2026-01-02T00:00:00Z' }));
    expect(state).toMatchObject({ revision: 4, save: { state: 'saved' } });
    state = projectReducer(state, saveChanged({ state: 'conflict', message: 'elsewhere' }));
    state = projectReducer(state, edited({ document: named('b'), label: 'Edit' }));
    expect(state.save.state).toBe('conflict');
  });
});
