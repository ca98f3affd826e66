import { emptyDocument, type KelpDocument, newPiece } from '@kelp/core';
import fc from 'fast-check';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { affectedPieces } from '../src/evaluation/affected.js';
import { withChanges } from '../src/evaluation/changes.js';
import { Evaluation, type Focus } from '../src/evaluation/evaluation.js';
import type { Answer, PieceBuild, Request, Wanted } from '../src/evaluation/protocol.js';

/** A worker that hears everything and answers when it is asked to. */
class FakeWorker {
  static all: FakeWorker[] = [];
  document: KelpDocument | null = null;
  batches: { batch: number; pieces: Wanted[] }[] = [];
  heard: Request[] = [];
  closed = false;
  onmessage: (event: { data: Answer }) => void = () => {};
  onerror: (event: { message: string }) => void = () => {};
  constructor() {
    FakeWorker.all.push(this);
  }
  postMessage(request: Request) {
    this.heard.push(request);
    if (request.kind === 'document') this.document = withChanges(this.document, JSON.parse(request.changes));
    if (request.kind === 'compute') this.batches.push({ batch: request.batch, pieces: [...request.pieces] });
  }
  say(data: Answer) {
    this.onmessage({ data });
  }
  /** Answers the next piece it was asked for; says which. */
  answer(ms = 1): string | undefined {
    const [next] = this.batches;
    const wanted = next?.pieces.shift();
    if (!wanted) return undefined;
    const last = next.pieces.length === 0;
    if (last) this.batches.shift();
    const name = this.document?.pieces.find(({ id }) => id === wanted.piece)?.name ?? '';
    this.say({ kind: 'piece', batch: next.batch, piece: wanted.piece, build: built(wanted.piece, ms, name), last });
    return wanted.piece;
  }
  terminate() {
    this.closed = true;
  }
}

beforeEach(() => {
  FakeWorker.all = [];
  vi.stubGlobal('Worker', FakeWorker);
  vi.useFakeTimers();
});
afterEach(() => {
  vi.unstubAllGlobals();
  vi.useRealTimers();
});

const built = (piece: string, ms = 1, name = ''): PieceBuild =>
  ({ piece, ms, parts: [], findings: [], name }) as unknown as PieceBuild;
const FOCUS: Focus = { draft: null, watch: null, first: [] };
const project = (...ids: string[]): KelpDocument => ({
  ...emptyDocument('Any'),
  pieces: ids.map((id) => newPiece(id, id, [], false)),
});
const renamed = (document: KelpDocument, id: string, name: string): KelpDocument => ({
  ...document,
  pieces: document.pieces.map((piece) => (piece.id === id ? { ...piece, name } : piece)),
});
/** Lets all workers answer until nothing is asked any more. */
const finish = () => {
  for (let round = 0; round < 1000; round++) {
    vi.advanceTimersByTime(100);
    if (!FakeWorker.all.some((worker) => !worker.closed && worker.answer() !== undefined)) break;
  }
  vi.advanceTimersByTime(500);
};

describe('the workers as the page sees them', () => {
  it('make every visible piece once, what is under the hand first, and forget what is not there any more', () => {
    const evaluation = new Evaluation();
    const document = project('a', 'b', 'c', 'd');
    evaluation.evaluate(document, { ...FOCUS, first: ['c'] });
    expect(FakeWorker.all[0].batches[0].pieces[0].piece).toBe('c');
    expect(evaluation.current()).toMatchObject({ busy: true, progress: { done: 0, total: 4 } });
    finish();
    expect([...evaluation.current().builds.keys()].sort()).toEqual(['a', 'b', 'c', 'd']);
    expect(evaluation.current()).toMatchObject({ busy: false, progress: null });
    evaluation.evaluate({ ...document, pieces: document.pieces.slice(0, 2) }, FOCUS);
    finish();
    expect([...evaluation.current().builds.keys()].sort()).toEqual(['a', 'b']);
    const asked = FakeWorker.all.flatMap(({ heard }) => heard).filter(({ kind }) => kind === 'compute');
    expect(asked.flatMap((request) => (request.kind === 'compute' ? request.pieces : []))).toHaveLength(4);
  });

  it('show in the end what the newest document says, whatever was changed while they worked', () => {
    const step = fc.record({ piece: fc.constantFrom('a', 'b', 'c', 'd', 'e'), answers: fc.nat(3), worker: fc.nat(5) });
    fc.assert(
      fc.property(fc.array(step, { maxLength: 12 }), (steps) => {
        FakeWorker.all = [];
        const evaluation = new Evaluation();
        let document = project('a', 'b', 'c', 'd', 'e');
        evaluation.evaluate(document, FOCUS);
        steps.forEach(({ piece, answers, worker }, i) => {
          document = renamed(document, piece, `${piece} ${i}`);
          evaluation.evaluate(document, FOCUS);
          vi.advanceTimersByTime(100);
          for (let k = 0; k < answers; k++) FakeWorker.all[worker % FakeWorker.all.length].answer();
        });
        finish();
        const shown = [...evaluation.current().builds.values()] as unknown as { piece: string; name: string }[];
        expect(Object.fromEntries(shown.map(({ piece, name }) => [piece, name]))).toEqual(
          Object.fromEntries(document.pieces.map(({ id, name }) => [id, name])),
        );
        evaluation.close();
      }),
      { numRuns: 60 },
    );
  });

  it('one heavy piece holds nobody up, and stopping lets its worker go', () => {
    const evaluation = new Evaluation();
    const ids = Array.from({ length: 60 }, (_, i) => `p${i}`);
    evaluation.evaluate(project('heavy', ...ids), { ...FOCUS, first: ['heavy'] });
    const [first] = FakeWorker.all;
    expect(first.batches[0].pieces[0].piece).toBe('heavy');
    for (let round = 0; round < 200; round++) {
      vi.advanceTimersByTime(100);
      for (const worker of FakeWorker.all.slice(1)) worker.answer();
    }
    const behind = first.batches[0].pieces.map(({ piece }) => piece);
    expect([...ids].filter((id) => !behind.includes(id) && !evaluation.current().builds.has(id))).toEqual([]);
    evaluation.stop();
    vi.advanceTimersByTime(20);
    expect(first.closed).toBe(true);
    expect(evaluation.current()).toMatchObject({ busy: false, left: behind.length });
    evaluation.goOn();
    finish();
    expect(evaluation.current()).toMatchObject({ busy: false, left: 0 });
    expect(evaluation.current().builds.size).toBe(61);
  });

  it('tell how far they are within a piece', () => {
    const evaluation = new Evaluation();
    evaluation.evaluate(project('long'), FOCUS);
    vi.advanceTimersByTime(20);
    FakeWorker.all[0].say({ kind: 'step', share: 0.5 });
    expect(evaluation.current().progress).toEqual({ done: 0, total: 1, part: 0.5 });
    evaluation.evaluate(renamed(project('long', 'other'), 'long', 'Longer'), FOCUS);
    FakeWorker.all[0].answer();
    expect(evaluation.current().progress).toMatchObject({ part: 0 });
    finish();
    FakeWorker.all[0].say({ kind: 'step', share: 0.9 });
    expect(evaluation.current().progress).toBe(null);
    evaluation.close();
  });

  it('tell once of answers that come together', () => {
    const evaluation = new Evaluation();
    evaluation.evaluate(project('a', 'b', 'c'), FOCUS);
    vi.advanceTimersByTime(20);
    const reported = vi.fn();
    const leave = evaluation.subscribe(reported);
    for (let i = 0; i < 3; i++) FakeWorker.all[0].answer();
    expect(reported).not.toHaveBeenCalled();
    vi.advanceTimersByTime(20);
    expect(reported).toHaveBeenCalledTimes(1);
    expect(evaluation.current().builds.size).toBe(3);
    leave();
  });

  it('answer each trial by its own number, good or bad, and leave the project’s builds alone', async () => {
    const evaluation = new Evaluation();
    const asked = ['one', 'two', 'three'].map((name) => evaluation.trial(emptyDocument(name), 'a', true));
    const [worker] = FakeWorker.all;
    const ids = worker.heard.map((request) => ('id' in request ? request.id : -1));
    worker.say({ kind: 'trial', id: ids[2], build: built('a', 3) });
    worker.say({ kind: 'refused', id: ids[1], message: 'The piece is not there any more.' });
    worker.say({ kind: 'trial', id: ids[0], build: built('a', 1) });
    expect((await asked[0]).ms).toBe(1);
    await expect(asked[1]).rejects.toThrow('not there any more');
    expect((await asked[2]).ms).toBe(3);
    expect(evaluation.current().builds.size).toBe(0);
  });

  it('a mesh that could not be had may be asked for again; one on its way may not', () => {
    const evaluation = new Evaluation();
    expect(evaluation.wants('h')).toBe(true);
    expect(evaluation.wants('h')).toBe(false);
    evaluation.fileFailed('h', 'gone');
    expect(evaluation.current().failed.get('h')).toBe('gone');
    expect(evaluation.wants('h')).toBe(true);
  });

  it('ask where pieces meet once all are made, and tell it with what each found out; what is meant is not reported', async () => {
    const evaluation = new Evaluation();
    const document = project('a', 'b');
    evaluation.evaluate(document, FOCUS);
    finish();
    const asked = () =>
      FakeWorker.all.flatMap((worker) =>
        worker.heard.flatMap((one) => (one.kind === 'meetings' ? [{ worker, one }] : [])),
      );
    expect(asked()).toHaveLength(1);
    const [{ worker, one }] = asked();
    expect(one.pieces.map(({ id }) => id)).toEqual(['a', 'b']);
    const met = { code: 'cuts-piece', severity: 'warning' as const, message: 'It runs through a here.' };
    worker.say({ kind: 'answer', id: one.id, value: new Map([['b', [met]]]) });
    await vi.advanceTimersByTimeAsync(500);
    const findings = () => evaluation.current().builds.get('b')?.findings;
    expect(findings()).toEqual([met]);
    expect(evaluation.current().builds.get('a')?.findings).toEqual([]);
    const ignored = { code: 'cuts-piece', reason: 'spliced' };
    evaluation.evaluate(
      { ...document, pieces: [document.pieces[0], { ...document.pieces[1], ignored: [ignored] }] },
      FOCUS,
    );
    finish();
    await vi.advanceTimersByTimeAsync(500);
    expect(findings()).toEqual([]);
    evaluation.close();
  });

  it('a worker that dies costs one piece, which is named; the others are made all the same', () => {
    const evaluation = new Evaluation();
    evaluation.evaluate(project('a', 'b', 'c'), FOCUS);
    FakeWorker.all[0].onerror({ message: 'out of memory' });
    expect(evaluation.current().error).toContain('a could not be computed');
    finish();
    expect([...evaluation.current().builds.keys()].sort()).toEqual(['b', 'c']);
    expect(evaluation.current().busy).toBe(false);
  });
});

it('a change asks for what it may change, and for all that follows it', () => {
  const before = project('a', 'b', 'c', 'd');
  const carried = { unit: 'carried', parameters: { piece: 'a', reversed: false } };
  before.pieces[1] = { ...before.pieces[1], path: carried };
  before.pieces[2] = { ...before.pieces[2], path: { ...carried, parameters: { ...carried.parameters, piece: 'b' } } };
  expect([...affectedPieces(before, renamed(before, 'a', 'other'))].sort()).toEqual(['a', 'b', 'c']);
  expect([...affectedPieces(before, renamed(before, 'd', 'other'))]).toEqual(['d']);
  expect([...affectedPieces(before, { ...before, pieces: before.pieces.slice(1) })].sort()).toEqual(['b', 'c']);
  expect(affectedPieces(before, { ...before, props: [] }).size).toBe(4);
});
