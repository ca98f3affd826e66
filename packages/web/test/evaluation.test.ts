import { emptyDocument, type KelpDocument } from '@kelp/core';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { Evaluation } from '../src/evaluation/evaluation.js';
import type { Answer, PieceBuild, Request } from '../src/evaluation/protocol.js';

/** A worker that hears everything and says what it is told to. */
class FakeWorker {
  static last: FakeWorker;
  heard: Request[] = [];
  closed = false;
  onmessage: (event: { data: Answer }) => void = () => {};
  onerror: (event: { message: string }) => void = () => {};
  constructor() {
    FakeWorker.last = this;
  }
  postMessage(request: Request) {
    this.heard.push(request);
  }
  say(data: Answer) {
    this.onmessage({ data });
  }
  terminate() {
    this.closed = true;
  }
}

beforeEach(() => {
  vi.stubGlobal('Worker', FakeWorker);
  vi.useFakeTimers();
});
afterEach(() => {
  vi.unstubAllGlobals();
  vi.useRealTimers();
});

const named = (name: string): KelpDocument => emptyDocument(name);
const built = (piece: string, ms = 1): PieceBuild => ({ piece, ms, parts: [], findings: [] }) as unknown as PieceBuild;
const opened = () => ({ evaluation: new Evaluation(), worker: FakeWorker.last });

describe('the worker as the page sees it', () => {
  it('is done when the newest document is, and forgets pieces that are not in it any more', () => {
    const { evaluation, worker } = opened();
    evaluation.evaluate(named('first'), null, null);
    evaluation.evaluate(named('second'), 'a', null);
    worker.say({ kind: 'piece', job: 1, build: built('a') });
    worker.say({ kind: 'piece', job: 1, build: built('b') });
    worker.say({ kind: 'done', job: 1, pieces: ['a', 'b'] });
    expect(evaluation.current().busy).toBe(true);
    worker.say({ kind: 'done', job: 2, pieces: ['a'] });
    expect(evaluation.current().busy).toBe(false);
    expect([...evaluation.current().builds.keys()]).toEqual(['a']);
  });

  it('tells once of answers that come together', () => {
    const { evaluation, worker } = opened();
    const told = vi.fn();
    const leave = evaluation.subscribe(told);
    for (const piece of ['a', 'b', 'c']) worker.say({ kind: 'piece', job: 1, build: built(piece) });
    expect(told).not.toHaveBeenCalled();
    vi.advanceTimersByTime(20);
    expect(told).toHaveBeenCalledTimes(1);
    leave();
    worker.say({ kind: 'piece', job: 1, build: built('d') });
    vi.advanceTimersByTime(20);
    expect(told).toHaveBeenCalledTimes(1);
  });

  it('answers each trial by its own number, good or bad, and leaves the project’s builds alone', async () => {
    const { evaluation, worker } = opened();
    const [one, two, three] = ['one', 'two', 'three'].map((name) => evaluation.trial(named(name), 'a', true));
    const ids = worker.heard.map((request) => ('id' in request ? request.id : -1));
    worker.say({ kind: 'trial', id: ids[2], build: built('a', 3) });
    worker.say({ kind: 'trial-failed', id: ids[1], message: 'The piece is not there any more.' });
    worker.say({ kind: 'trial', id: ids[0], build: built('a', 1) });
    expect((await one).ms).toBe(1);
    await expect(two).rejects.toThrow('not there any more');
    expect((await three).ms).toBe(3);
    expect(evaluation.current().builds.size).toBe(0);
  });

  it('a mesh that could not be had may be asked for again; one on its way may not', () => {
    const { evaluation, worker } = opened();
    expect(evaluation.wants('h')).toBe(true);
    expect(evaluation.wants('h')).toBe(false);
    evaluation.propFailed('h', 'gone');
    expect(evaluation.current().failed.get('h')).toBe('gone');
    expect(evaluation.wants('h')).toBe(true);
    evaluation.close();
    expect(worker.closed).toBe(true);
  });

  it('a worker that dies says what to do, and stops being busy', () => {
    const { evaluation, worker } = opened();
    evaluation.evaluate(named('a'), null, null);
    worker.onerror({ message: '' });
    expect(evaluation.current()).toMatchObject({ busy: false, error: expect.stringContaining('Reload the page') });
    evaluation.evaluate(named('b'), null, null);
    expect(evaluation.current().error).toBeNull();
  });
});
