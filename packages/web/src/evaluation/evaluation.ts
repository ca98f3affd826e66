import { type Finding, type KelpDocument, type Mesh, SurfaceStore } from '@kelp/core';
import type { Sitter } from '../look/photograph.js';
import { affectedPieces } from './affected.js';
import { Meetings } from './meetings.js';
import { PagePace, TOGETHER } from './page-pace.js';
import type { Answer, AnswerTo, PieceBuild, Question, Wanted } from './protocol.js';
import { PATIENCE, type WorkerHandle, WorkerPool } from './worker-pool.js';

/** More pieces than this are given out in a task of their own: telling the workers of so large a project takes time. */
const MANY = 200;

/** How far the work is. */
export interface Progress {
  done: number;
  total: number;
  /** What the pieces at hand come to together, where they tell: 0.5 is half a piece. */
  part: number;
  /** And what that will be, in words. */
  says: string | undefined;
}

/** What the page knows of the computed project at one moment. A new object at every change. */
export interface Computed {
  builds: ReadonlyMap<string, PieceBuild>;
  /** Prop meshes by content hash. */
  meshes: ReadonlyMap<string, Mesh>;
  /** Pictures whose shades the workers know, by content hash. */
  read: ReadonlySet<string>;
  /** Why a prop or a picture is not there, by content hash. */
  failed: ReadonlyMap<string, string>;
  busy: boolean;
  /** Pieces made of those that were to be made; null while nothing is computed. */
  progress: Progress | null;
  /** Pieces that were not made, because the work was stopped. */
  left: number;
  error: string | null;
}

/** This many new pieces are taken into one picture: more would make the page stand still. */
const AT_ONCE = 40;
/** A worker that is at one piece for longer than this is let go when the work is stopped. */
const STUCK = 300;

const EMPTY: Computed = {
  builds: new Map(),
  meshes: new Map(),
  read: new Set(),
  failed: new Map(),
  busy: false,
  progress: null,
  left: 0,
  error: null,
};

type Met = ReadonlyMap<string, Finding[]>;

interface Waiting {
  resolve(value: unknown): void;
  reject(error: Error): void;
  /** Who was asked. */
  worker: WorkerHandle;
}

/** What else decides how pieces are made: the one under a drag, the one whose line is watched, what comes first. */
export interface Focus {
  draft: string | null;
  watch: { piece: string; stage: number } | null;
  first: readonly string[];
}

/**
 * The workers as the page sees them: takes documents, gives builds. Only pieces that may be another are asked for; those
 * under the hand come first, and an older answer never overwrites a newer.
 */
export class Evaluation {
  /** Trees over the props for the page's own use: a pointer cannot wait for a worker. Built when first asked for. */
  readonly surfaces = new SurfaceStore();
  private readonly pool = new WorkerPool(
    (worker, answer) => this.take(worker, answer),
    (worker, message) => this.lost(worker, message),
  );
  private readonly meetings = new Meetings();
  private readonly listeners = new Set<() => void>();
  private readonly waiting = new Map<number, Waiting>();
  private readonly asked = new Set<string>();
  private computed = EMPTY;
  private document: KelpDocument | null = null;
  private focus: Focus = { draft: null, watch: null, first: [] };
  /** Pieces to be made, in this order. */
  private queue = new Map<string, Omit<Wanted, 'has'>>();
  /** Pieces that were to be made when the work was stopped. */
  private readonly left = new Set<string>();
  /** Number of the request whose answer each piece shows. */
  private readonly shown = new Map<string, number>();
  /** Answers that are not shown yet. */
  private arrived = new Map<string, PieceBuild>();
  private readonly progress = { done: 0, total: 0 };
  private numbers = 0;
  private telling: ReturnType<typeof setTimeout> | undefined;
  private looking: ReturnType<typeof setTimeout> | undefined;
  private readonly pace = new PagePace();

  readonly subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  readonly current = (): Computed => this.computed;

  /** Computes what a document needs that is not as it was. */
  evaluate(document: KelpDocument, focus: Focus): void {
    const before = this.document;
    const old = this.focus;
    this.document = document;
    this.focus = focus;
    const wanted = affectedPieces(before, document);
    // whoever was or is under the hand is made otherwise than the rest
    for (const piece of [old.draft, focus.draft, old.watch?.piece, focus.watch?.piece])
      if (piece && !sameFocus(old, focus, piece)) wanted.add(piece);
    const visible = new Set(document.pieces.flatMap(({ id, visible: shown }) => (shown ? [id] : [])));
    const gone = [...(before?.pieces ?? [])].flatMap(({ id, visible: shown }) =>
      shown && !visible.has(id) ? [id] : [],
    );
    this.drop(gone);
    for (const id of wanted) if (visible.has(id)) this.put(id);
    this.order();
    this.change({ error: null });
    if (this.queue.size <= MANY) this.work();
    else {
      clearTimeout(this.looking);
      this.looking = setTimeout(() => this.work());
    }
  }

  private put(piece: string): void {
    const { draft, watch } = this.focus;
    if (!this.queue.has(piece)) this.progress.total++;
    this.left.delete(piece);
    this.queue.set(piece, { piece, draft: draft === piece, watch: watch?.piece === piece ? watch.stage : null });
  }

  /** What is under the hand comes first, then the order of the project. */
  private order(): void {
    const { draft, first } = this.focus;
    const early = [...(draft ? [draft] : []), ...first].filter((id) => this.queue.has(id));
    if (early.length === 0) return;
    const ordered = new Map(early.map((id) => [id, this.queue.get(id)!]));
    for (const [id, wanted] of this.queue) if (!ordered.has(id)) ordered.set(id, wanted);
    this.queue = ordered;
  }

  private drop(pieces: readonly string[]): void {
    if (pieces.length === 0) return;
    for (const id of pieces) {
      if (this.queue.delete(id)) this.progress.total--;
      this.left.delete(id);
      this.arrived.delete(id);
      this.meetings.forget(id);
      // whatever is still on its way is not wanted any more
      this.shown.set(id, this.numbers);
    }
    this.pool.forget(pieces);
    const builds = new Map(this.computed.builds);
    for (const id of pieces) builds.delete(id);
    this.change({ builds });
  }

  /** Gives out what waits, and looks again before long: who waits for a busy worker goes to another. */
  private work(): void {
    clearTimeout(this.looking);
    if (this.document && this.queue.size > 0) {
      this.pool.giveOut(this.queue, this.document, performance.now(), () => ++this.numbers);
      if (this.queue.size > 0) this.looking = setTimeout(() => this.work(), PATIENCE);
    }
    const busy = this.queue.size > 0 || this.pool.workers.some(({ idle }) => !idle);
    if (!busy) Object.assign(this.progress, { done: 0, total: 0 });
    if (!busy) this.lookForMeetings();
    this.change({ busy, progress: busy ? this.howFar() : null, left: this.left.size });
  }

  private howFar(): Progress {
    const { workers } = this.pool;
    return {
      ...this.progress,
      part: workers.reduce((sum, { share }) => sum + share, 0),
      says: workers.find(({ says }) => says)?.says,
    };
  }

  private lookForMeetings(): void {
    this.meetings.look(
      () => {
        const { busy, builds } = this.computed;
        return this.document && !busy && this.arrived.size === 0 ? { document: this.document, builds } : null;
      },
      (pieces) => this.asking(this.pool.freest, (id) => ({ kind: 'meetings', id, pieces })) as Promise<Met>,
      (changed) => {
        const builds = new Map(this.computed.builds);
        for (const build of changed) builds.set(build.piece, build);
        this.change({ builds });
      },
    );
  }

  /** Stops the work: what is made stays, what is not is left as it is until it is wanted again. */
  stop(): void {
    for (const id of this.queue.keys()) this.left.add(id);
    this.queue.clear();
    const now = performance.now();
    for (const worker of [...this.pool.workers])
      if (!worker.idle && now - worker.since > STUCK) {
        for (const id of worker.waiting.keys()) this.left.add(id);
        this.dismiss(worker, 'The computation was stopped.');
      }
    this.work();
  }

  /** Makes what was left when the work was stopped. */
  goOn(): void {
    for (const id of [...this.left]) this.put(id);
    this.order();
    this.work();
  }

  /** True the first time a mesh or a picture is asked for. */
  wants(hash: string): boolean {
    if (this.asked.has(hash)) return false;
    this.asked.add(hash);
    return true;
  }

  addProp(hash: string, bytes: Uint8Array): void {
    this.asked.add(hash);
    this.pool.first.send({ kind: 'prop', hash, bytes, tell: true });
  }

  addPicture(hash: string, bytes: Uint8Array): void {
    this.pool.first.send({ kind: 'picture', hash, bytes });
  }

  fileFailed(hash: string, message: string): void {
    this.asked.delete(hash);
    this.change({ failed: new Map(this.computed.failed).set(hash, message) });
  }

  /** A preset on a short line, for its picture. */
  sample(unit: string, preset: string): Promise<Sitter[]> {
    return this.asking(this.pool.freest, (id) => ({ kind: 'sample', id, unit, preset })) as Promise<Sitter[]>;
  }

  /** A piece as another document makes it; the project's own builds stay as they are. */
  trial(document: KelpDocument, piece: string, draft: boolean): Promise<PieceBuild> {
    return this.asking(this.pool.freest, (id) => ({
      kind: 'trial',
      id,
      document,
      piece,
      draft,
    })) as Promise<PieceBuild>;
  }

  /** Something about a piece that is not sent along with it. Rejected where it is not made, or is being made again. */
  ask<Q extends Question>(piece: string, question: Q): Promise<AnswerTo<Q['what']>> {
    const worker = this.pool.ownerOf(piece);
    if (!worker) return Promise.reject(new Error('This piece is not computed yet.'));
    return this.asking(worker, (id) => ({ kind: 'ask', id, piece, question })) as Promise<AnswerTo<Q['what']>>;
  }

  private asking(worker: WorkerHandle, request: (id: number) => Parameters<WorkerHandle['send']>[0]): Promise<unknown> {
    const id = ++this.numbers;
    return new Promise((resolve, reject) => {
      this.waiting.set(id, { resolve, reject, worker });
      worker.send(request(id));
    });
  }

  close(): void {
    clearTimeout(this.telling);
    clearTimeout(this.looking);
    this.meetings.close();
    this.pool.close();
    this.listeners.clear();
  }

  private take(worker: WorkerHandle, answer: Answer): void {
    switch (answer.kind) {
      case 'prop':
        this.pool.addProp(answer.hash, answer.mesh);
        this.change({ meshes: new Map(this.computed.meshes).set(answer.hash, answer.mesh) });
        return;
      case 'shades':
        this.pool.addShades(answer.hash, answer.shades);
        this.change({ read: new Set(this.computed.read).add(answer.hash) });
        return;
      case 'file-failed':
        this.fileFailed(answer.hash, answer.message);
        return;
      case 'piece':
      case 'piece-failed':
        this.takePiece(worker, answer);
        return;
      case 'step':
        worker.share = answer.share;
        worker.says = answer.says;
        if (this.computed.busy) this.change({ progress: this.howFar() });
        return;
      case 'answer':
        this.settle(answer.id, ({ resolve }) => resolve(answer.value));
        return;
      case 'sample':
        this.settle(answer.id, ({ resolve }) => resolve(answer.sitters));
        return;
      case 'trial':
        this.settle(answer.id, ({ resolve }) => resolve(answer.build));
        return;
      case 'refused':
        this.settle(answer.id, ({ reject }) => reject(new Error(answer.message)));
    }
  }

  private settle(id: number, how: (waiting: Waiting) => void): void {
    const waiting = this.waiting.get(id);
    this.waiting.delete(id);
    if (waiting) how(waiting);
  }

  private takePiece(worker: WorkerHandle, answer: Extract<Answer, { kind: 'piece' | 'piece-failed' }>): void {
    const { piece } = answer;
    const number = worker.waiting.get(piece) ?? 0;
    worker.waiting.delete(piece);
    worker.since = performance.now();
    worker.share = 0;
    worker.says = undefined;
    this.progress.done++;
    if (number > (this.shown.get(piece) ?? 0)) {
      this.shown.set(piece, number);
      this.pool.made(piece, worker, answer.kind === 'piece' ? answer.build?.ms : undefined);
      if (answer.kind === 'piece' && answer.build) this.arrived.set(piece, answer.build);
      if (answer.kind === 'piece-failed') this.change({ error: answer.message });
    }
    this.work();
  }

  /** A worker that died takes one piece with it: what it was at. The rest of its batch goes to others. */
  private lost(worker: WorkerHandle, message: string): void {
    const [at, ...others] = worker.waiting.keys();
    if (at) this.progress.done++;
    for (const piece of others) {
      this.progress.total--;
      this.put(piece);
    }
    const name = this.document?.pieces.find(({ id }) => id === at)?.name;
    this.dismiss(worker, message || 'The computation stopped.');
    this.change({
      error: `${name ? `${name} could not be computed` : 'The computation stopped'}${message ? ` (${message})` : ''}. Nothing is lost; change the piece, or reload the page.`,
    });
    this.work();
  }

  private dismiss(worker: WorkerHandle, why: string): void {
    for (const [id, waiting] of this.waiting)
      if (waiting.worker === worker) {
        this.waiting.delete(id);
        waiting.reject(new Error(why));
      }
    this.pool.dismiss(worker);
  }

  private change(change: Partial<Computed>): void {
    this.computed = { ...this.computed, ...change };
    // answers come in bursts: the page draws once for all that arrive together
    this.telling ??= setTimeout(() => this.tell(), this.soon());
  }

  private soon(): number {
    const { busy, meshes, read } = this.computed;
    const awaited = busy || this.asked.size > meshes.size + read.size;
    return awaited && !this.underHand() ? this.pace.next(this.queue.size) : TOGETHER;
  }

  /** True when something that is looked at has arrived. */
  private underHand(): boolean {
    const { draft, first } = this.focus;
    return (draft !== null && this.arrived.has(draft)) || first.some((id) => this.arrived.has(id));
  }

  private tell(): void {
    this.telling = undefined;
    if (this.arrived.size > 0) {
      const builds = new Map(this.computed.builds);
      let taken = 0;
      for (const [piece, build] of this.arrived) {
        if (++taken > AT_ONCE) break;
        builds.set(piece, this.meetings.added(build, this.document));
        this.arrived.delete(piece);
      }
      this.computed = { ...this.computed, builds };
      if (this.arrived.size > 0) this.telling = setTimeout(() => this.tell(), TOGETHER);
      else if (!this.computed.busy) this.lookForMeetings();
    }
    this.pace.reported();
    for (const listener of this.listeners) listener();
  }
}

/** True when a piece is made the same way under both. */
const sameFocus = (a: Focus, b: Focus, piece: string): boolean =>
  (a.draft === piece) === (b.draft === piece) &&
  (a.watch?.piece === piece ? a.watch.stage : null) === (b.watch?.piece === piece ? b.watch.stage : null);
