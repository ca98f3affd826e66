import { emptyDocument } from '@kelp/core';
import { configureStore } from '@reduxjs/toolkit';
import fc from 'fast-check';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { edited, opened, projectReducer } from '../src/state/project-slice.js';
import { createSaving } from '../src/state/saving.js';

/** The server as the page sees it: what arrived, and what it answers next. */
interface Arrived {
  basedOn: number;
  name: string;
}
let arrived: Arrived[];
let answer: (request: Arrived) => Promise<Response> | Response;

const saved = ({ basedOn, name }: Arrived): Response =>
  Response.json({ id: 'p', name, revision: basedOn + 1, updatedAt: '2026-01-01T00:00:00Z', deletedAt: null });

function open() {
  const store = configureStore({
    reducer: { project: projectReducer },
    middleware: (defaults) => defaults({ serializableCheck: false }).prepend(createSaving().middleware),
  });
  store.dispatch(
    opened({ id: 'p', document: emptyDocument('0'), revision: 5, at: '2026-01-01T00:00:00Z', unsaved: false }),
  );
  const edit = (name: string) => store.dispatch(edited({ document: emptyDocument(name), label: 'Edit' }));
  return { edit, state: () => store.getState().project };
}

beforeEach(() => {
  vi.useFakeTimers();
  vi.spyOn(console, 'warn').mockImplementation(() => {});
  arrived = [];
  answer = saved;
  vi.stubGlobal('fetch', async (_url: string, init: RequestInit) => {
    const { basedOn, document } = JSON.parse(String(init.body));
    arrived.push({ basedOn, name: document.name });
    return answer(arrived[arrived.length - 1]);
  });
});
afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
  vi.restoreAllMocks();
});

describe('saving without being asked', () => {
  it('waits until the hand rests and sends the last of a run of edits', async () => {
    const { edit, state } = open();
    for (const name of ['a', 'b', 'c']) {
      edit(name);
      await vi.advanceTimersByTimeAsync(200);
    }
    expect(arrived).toEqual([]);
    await vi.advanceTimersByTimeAsync(1000);
    expect(arrived).toEqual([{ basedOn: 5, name: 'c' }]);
    expect(state()).toMatchObject({ revision: 6, save: { state: 'saved' } });
  });

  it('an edit during a save is sent after it, on the revision that the save made', async () => {
    const { edit, state } = open();
    let release: () => void = () => {};
    answer = (request) => new Promise((resolve) => (release = () => resolve(saved(request))));
    edit('a');
    await vi.advanceTimersByTimeAsync(800);
    edit('b');
    await vi.advanceTimersByTimeAsync(2000);
    expect(arrived).toHaveLength(1);
    answer = saved;
    release();
    await vi.advanceTimersByTimeAsync(2000);
    expect(arrived).toEqual([
      { basedOn: 5, name: 'a' },
      { basedOn: 6, name: 'b' },
    ]);
    expect(state()).toMatchObject({ revision: 7, save: { state: 'saved' } });
  });

  it('however slow the server, quick the hand and lost its answers, no save is stale by its own hand, and the last edit arrives', async () => {
    const pause = fc.record({
      wait: fc.integer({ min: 0, max: 3000 }),
      latency: fc.integer({ min: 0, max: 4000 }),
      // what happens to the next save: the connection breaks before it is kept, after, or in the middle of the answer
      loss: fc.constantFrom('none', 'none', 'before', 'after', 'halfway'),
    });
    await fc.assert(
      fc.asyncProperty(fc.array(pause, { minLength: 1, maxLength: 12 }), async (pauses) => {
        const { edit, state } = open();
        let revision = 5;
        let latency = 0;
        let loss = 'none';
        const kept = new Map<number, string>();
        vi.stubGlobal('fetch', async (url: string, init: RequestInit) => {
          const asked = Number(url.match(/revisions\/(\d+)$/)?.[1]);
          if (asked)
            return Response.json({ revision, updatedAt: 'then', document: emptyDocument(kept.get(asked) ?? '') });
          const { basedOn, document } = JSON.parse(String(init.body));
          arrived.push({ basedOn, name: document.name });
          return answer({ basedOn, name: document.name });
        });
        answer = async (request) => {
          await new Promise((resolve) => setTimeout(resolve, latency));
          const lost = loss;
          loss = 'none';
          if (lost === 'before') throw new TypeError('reset');
          if (request.basedOn !== revision) return Response.json({ status: 409, detail: 'stale' }, { status: 409 });
          revision++;
          kept.set(revision, request.name);
          if (lost === 'after') throw new TypeError('reset');
          if (lost === 'halfway') return new Response('{"id":"p","rev', { status: 200 });
          return saved(request);
        };
        for (const [i, next] of pauses.entries()) {
          latency = next.latency;
          loss = next.loss;
          edit(`edit ${i}`);
          await vi.advanceTimersByTimeAsync(next.wait);
        }
        await vi.advanceTimersByTimeAsync(30_000);
        expect(state()).toMatchObject({ revision, save: { state: 'saved' } });
        expect(kept.get(revision)).toBe(`edit ${pauses.length - 1}`);
      }),
    );
  });

  it('a server that does not answer is asked again until it does', async () => {
    const { edit, state } = open();
    answer = () => Promise.reject(new TypeError('refused'));
    edit('a');
    await vi.advanceTimersByTimeAsync(6000);
    // there is no storage here: what was not saved is in this page alone, and it says so
    expect(state().save).toMatchObject({ state: 'offline', kept: false });
    expect(arrived.length).toBeGreaterThan(1);
    answer = saved;
    await vi.advanceTimersByTimeAsync(6000);
    expect(state()).toMatchObject({ revision: 6, save: { state: 'saved' } });
  });

  it('a stale save stops for a person; a refused one says why; a full disk is tried again', async () => {
    const problem = (status: number, detail: string) => () => Response.json({ status, detail }, { status });
    const { edit, state } = open();
    answer = problem(507, 'The disk of the server is full');
    edit('a');
    await vi.advanceTimersByTimeAsync(1000);
    expect(state().save).toMatchObject({ state: 'full', message: 'The disk of the server is full' });
    answer = problem(400, 'pieces must be a list');
    await vi.advanceTimersByTimeAsync(5000);
    expect(state().save).toMatchObject({ state: 'refused', message: 'pieces must be a list' });
    answer = problem(409, 'at revision 9');
    edit('b');
    await vi.advanceTimersByTimeAsync(1000);
    expect(state().save.state).toBe('conflict');
    const count = arrived.length;
    edit('c');
    await vi.advanceTimersByTimeAsync(20_000);
    expect(arrived).toHaveLength(count);
  });
});
