import type { KelpDocument, Mesh, Shades } from '@kelp/core';
import { changesSince } from './changes.js';
import type { Answer, Request, Wanted } from './protocol.js';

/** Workers at first, and at most: this many heavy pieces may run before another one has to wait. */
const MAX_WORKERS = Math.max(3, Math.min(6, (globalThis.navigator?.hardwareConcurrency ?? 2) + 1));
/** A batch is about so long, milliseconds, and at most this many pieces: between batches the order may change. */
const BATCH = { ms: 40, pieces: 16 };
/** What a piece is taken to cost before it was ever made, milliseconds. */
const FIRST_COST = 12;

/** What the last worker was sent; the next one is sent the same. */
let lastTold: { since: KelpDocument | null; document: KelpDocument; text: string } | undefined;

function changesText(since: KelpDocument | null, document: KelpDocument): string {
  if (lastTold?.since !== since || lastTold.document !== document)
    lastTold = { since, document, text: JSON.stringify(changesSince(since, document)) };
  return lastTold.text;
}

/** One worker: what it has, and what it is doing. */
export class WorkerHandle {
  private readonly worker = new Worker(new URL('./evaluation.worker.ts', import.meta.url), {
    type: 'module',
    name: 'kelp-evaluation',
  });
  private reported: KelpDocument | null = null;
  /** Pieces it was asked for and has not answered, in their order, each with the number of the request. */
  readonly waiting = new Map<string, number>();
  /** Since when it has been at the first of them. */
  since = 0;
  /** Progress of that one, where it is reported. */
  share = 0;
  /** And what that comes to, in words. */
  says: string | undefined;

  constructor(
    readonly take: (handle: WorkerHandle, answer: Answer) => void,
    failed: (handle: WorkerHandle, message: string) => void,
  ) {
    this.worker.onmessage = ({ data }: MessageEvent<Answer>) => this.take(this, data);
    this.worker.onerror = (event) => failed(this, event.message);
  }

  get idle(): boolean {
    return this.waiting.size === 0;
  }

  tell(document: KelpDocument): void {
    if (this.reported === document) return;
    this.send({ kind: 'document', changes: changesText(this.reported, document) });
    this.reported = document;
  }

  send(request: Request): void {
    this.worker.postMessage(request);
  }

  dismiss(): void {
    this.worker.terminate();
  }
}

/** The workers, and who has which piece. A worker that has made a piece has kept what need not be made again. */
export class WorkerPool {
  readonly workers: WorkerHandle[] = [];
  private readonly owner = new Map<string, WorkerHandle>();
  private readonly costs = new Map<string, number>();
  private readonly props = new Map<string, Pick<Mesh, 'position' | 'index'>>();
  private readonly shades = new Map<string, Shades>();
  private batches = 0;

  constructor(
    private readonly take: (handle: WorkerHandle, answer: Answer) => void,
    private readonly failed: (handle: WorkerHandle, message: string) => void,
  ) {}

  /** The first worker; it is there from the beginning. */
  get first(): WorkerHandle {
    return this.workers[0] ?? this.engage();
  }

  /** Someone for a picture or a comparison: who has least to do. */
  get freest(): WorkerHandle {
    return this.workers.toSorted((a, b) => a.waiting.size - b.waiting.size)[0] ?? this.engage();
  }

  ownerOf(piece: string): WorkerHandle | undefined {
    return this.owner.get(piece);
  }

  private engage(): WorkerHandle {
    const handle = new WorkerHandle(this.take, this.failed);
    this.workers.push(handle);
    for (const [hash, mesh] of this.props) handle.send({ kind: 'prop', hash, mesh, tell: false });
    for (const [hash, shades] of this.shades) handle.send({ kind: 'shades', hash, shades });
    return handle;
  }

  /** A prop that one worker has decoded is given to the others, present and to come. */
  addProp(hash: string, mesh: Mesh): void {
    const shape = { position: mesh.position, index: mesh.index };
    this.props.set(hash, shape);
    for (const handle of this.workers)
      if (handle !== this.first) handle.send({ kind: 'prop', hash, mesh: shape, tell: false });
  }

  /** And so is what one has read of a picture. */
  addShades(hash: string, shades: Shades): void {
    this.shades.set(hash, shades);
    for (const handle of this.workers) if (handle !== this.first) handle.send({ kind: 'shades', hash, shades });
  }

  /** Notes what a piece took, and who has it. */
  made(piece: string, handle: WorkerHandle, ms: number | undefined): void {
    this.owner.set(piece, handle);
    if (ms !== undefined) this.costs.set(piece, ms);
  }

  forget(pieces: readonly string[]): void {
    const by = new Map<WorkerHandle, string[]>();
    for (const piece of pieces) {
      const handle = this.owner.get(piece);
      if (handle) by.set(handle, [...(by.get(handle) ?? []), piece]);
      this.owner.delete(piece);
      this.costs.delete(piece);
    }
    for (const [handle, gone] of by) handle.send({ kind: 'forget', pieces: gone });
  }

  /** Lets a worker go, whatever it is doing. What it had is made again by others. */
  dismiss(handle: WorkerHandle): void {
    handle.dismiss();
    this.workers.splice(this.workers.indexOf(handle), 1);
    for (const [piece, owner] of this.owner) if (owner === handle) this.owner.delete(piece);
  }

  close(): void {
    for (const handle of this.workers) handle.dismiss();
    this.workers.length = 0;
  }

  /**
   * Gives waiting pieces to workers that have nothing to do, the first ones first. Each goes to the worker that has it;
   * where that one is at something for longer than a moment, to another. What is given out leaves `queue`.
   * @param numbered gives each piece the number of its request
   */
  giveOut(queue: Map<string, Omit<Wanted, 'has'>>, document: KelpDocument, now: number, numbered: () => number): void {
    if (this.workers.length === 0) this.engage();
    for (let i = 0; i < this.workers.length && queue.size > 0; i++) {
      const handle = this.workers[i];
      if (handle.idle) this.giveTo(handle, queue, document, now, numbered);
    }
    const held = this.workers.every(({ idle, since }) => !idle && now - since > PATIENCE);
    if (
      queue.size > 0 &&
      this.workers.length < MAX_WORKERS &&
      (held || queue.size > this.workers.length * BATCH.pieces)
    ) {
      this.giveTo(this.engage(), queue, document, now, numbered);
    }
  }

  private giveTo(
    handle: WorkerHandle,
    queue: Map<string, Omit<Wanted, 'has'>>,
    document: KelpDocument,
    now: number,
    numbered: () => number,
  ): void {
    const batch: Wanted[] = [];
    let cost = 0;
    for (const [piece, wanted] of queue) {
      const owner = this.owner.get(piece);
      const at = this.workers.find(({ waiting }) => waiting.has(piece));
      // one who is at this very piece is waited for a moment, and so is one who has it
      const held = at ?? (owner === handle ? undefined : owner);
      if (held && held !== handle && !held.idle && now - held.since <= PATIENCE) continue;
      if (held && held !== handle && held.idle) continue;
      const one = this.costs.get(piece) ?? FIRST_COST;
      if (batch.length > 0 && cost + one > BATCH.ms) break;
      batch.push({ ...wanted, has: owner === handle });
      cost += one;
      if (batch.length === BATCH.pieces) break;
    }
    if (batch.length === 0) return;
    handle.tell(document);
    handle.since = now;
    for (const { piece } of batch) {
      queue.delete(piece);
      handle.waiting.set(piece, numbered());
    }
    handle.send({ kind: 'compute', batch: this.batches++, pieces: batch });
  }
}

/** This long a piece waits for the worker that has it before another takes it over, milliseconds. */
export const PATIENCE = 80;
