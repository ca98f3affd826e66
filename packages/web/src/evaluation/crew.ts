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
export class Hand {
  private readonly worker = new Worker(new URL('./evaluation.worker.ts', import.meta.url), {
    type: 'module',
    name: 'kelp-evaluation',
  });
  private told: KelpDocument | null = null;
  /** Pieces it was asked for and has not answered, in their order, each with the number of the request. */
  readonly waiting = new Map<string, number>();
  /** Since when it has been at the first of them. */
  since = 0;
  /** Progress of that one, where it is reported. */
  share = 0;
  /** And what that comes to, in words. */
  says: string | undefined;

  constructor(
    readonly take: (hand: Hand, answer: Answer) => void,
    failed: (hand: Hand, message: string) => void,
  ) {
    this.worker.onmessage = ({ data }: MessageEvent<Answer>) => this.take(this, data);
    this.worker.onerror = (event) => failed(this, event.message);
  }

  get idle(): boolean {
    return this.waiting.size === 0;
  }

  tell(document: KelpDocument): void {
    if (this.told === document) return;
    this.send({ kind: 'document', changes: changesText(this.told, document) });
    this.told = document;
  }

  send(request: Request): void {
    this.worker.postMessage(request);
  }

  dismiss(): void {
    this.worker.terminate();
  }
}

/** The workers, and who has which piece. A worker that has made a piece has kept what need not be made again. */
export class Crew {
  readonly hands: Hand[] = [];
  private readonly owner = new Map<string, Hand>();
  private readonly costs = new Map<string, number>();
  private readonly props = new Map<string, Pick<Mesh, 'position' | 'index'>>();
  private readonly shades = new Map<string, Shades>();
  private batches = 0;

  constructor(
    private readonly take: (hand: Hand, answer: Answer) => void,
    private readonly failed: (hand: Hand, message: string) => void,
  ) {}

  /** The first worker; it is there from the beginning. */
  get first(): Hand {
    return this.hands[0] ?? this.engage();
  }

  /** Someone for a picture or a comparison: who has least to do. */
  get freest(): Hand {
    return this.hands.toSorted((a, b) => a.waiting.size - b.waiting.size)[0] ?? this.engage();
  }

  ownerOf(piece: string): Hand | undefined {
    return this.owner.get(piece);
  }

  private engage(): Hand {
    const hand = new Hand(this.take, this.failed);
    this.hands.push(hand);
    for (const [hash, mesh] of this.props) hand.send({ kind: 'prop', hash, mesh, tell: false });
    for (const [hash, shades] of this.shades) hand.send({ kind: 'shades', hash, shades });
    return hand;
  }

  /** A prop that one worker has decoded is given to the others, present and to come. */
  addProp(hash: string, mesh: Mesh): void {
    const shape = { position: mesh.position, index: mesh.index };
    this.props.set(hash, shape);
    for (const hand of this.hands) if (hand !== this.first) hand.send({ kind: 'prop', hash, mesh: shape, tell: false });
  }

  /** And so is what one has read of a picture. */
  addShades(hash: string, shades: Shades): void {
    this.shades.set(hash, shades);
    for (const hand of this.hands) if (hand !== this.first) hand.send({ kind: 'shades', hash, shades });
  }

  /** Notes what a piece took, and who has it. */
  made(piece: string, hand: Hand, ms: number | undefined): void {
    this.owner.set(piece, hand);
    if (ms !== undefined) this.costs.set(piece, ms);
  }

  forget(pieces: readonly string[]): void {
    const by = new Map<Hand, string[]>();
    for (const piece of pieces) {
      const hand = this.owner.get(piece);
      if (hand) by.set(hand, [...(by.get(hand) ?? []), piece]);
      this.owner.delete(piece);
      this.costs.delete(piece);
    }
    for (const [hand, gone] of by) hand.send({ kind: 'forget', pieces: gone });
  }

  /** Lets a worker go, whatever it is doing. What it had is made again by others. */
  dismiss(hand: Hand): void {
    hand.dismiss();
    this.hands.splice(this.hands.indexOf(hand), 1);
    for (const [piece, owner] of this.owner) if (owner === hand) this.owner.delete(piece);
  }

  close(): void {
    for (const hand of this.hands) hand.dismiss();
    this.hands.length = 0;
  }

  /**
   * Gives waiting pieces to workers that have nothing to do, the first ones first. Each goes to the worker that has it;
   * where that one is at something for longer than a moment, to another. What is given out leaves `queue`.
   * @param numbered gives each piece the number of its request
   */
  giveOut(queue: Map<string, Omit<Wanted, 'has'>>, document: KelpDocument, now: number, numbered: () => number): void {
    if (this.hands.length === 0) this.engage();
    for (let i = 0; i < this.hands.length && queue.size > 0; i++) {
      const hand = this.hands[i];
      if (hand.idle) this.giveTo(hand, queue, document, now, numbered);
    }
    const held = this.hands.every(({ idle, since }) => !idle && now - since > PATIENCE);
    if (queue.size > 0 && this.hands.length < MAX_WORKERS && (held || queue.size > this.hands.length * BATCH.pieces)) {
      this.giveTo(this.engage(), queue, document, now, numbered);
    }
  }

  private giveTo(
    hand: Hand,
    queue: Map<string, Omit<Wanted, 'has'>>,
    document: KelpDocument,
    now: number,
    numbered: () => number,
  ): void {
    const batch: Wanted[] = [];
    let cost = 0;
    for (const [piece, wanted] of queue) {
      const owner = this.owner.get(piece);
      const at = this.hands.find(({ waiting }) => waiting.has(piece));
      // one who is at this very piece is waited for a moment, and so is one who has it
      const held = at ?? (owner === hand ? undefined : owner);
      if (held && held !== hand && !held.idle && now - held.since <= PATIENCE) continue;
      if (held && held !== hand && held.idle) continue;
      const one = this.costs.get(piece) ?? FIRST_COST;
      if (batch.length > 0 && cost + one > BATCH.ms) break;
      batch.push({ ...wanted, has: owner === hand });
      cost += one;
      if (batch.length === BATCH.pieces) break;
    }
    if (batch.length === 0) return;
    hand.tell(document);
    hand.since = now;
    for (const { piece } of batch) {
      queue.delete(piece);
      hand.waiting.set(piece, numbered());
    }
    hand.send({ kind: 'compute', batch: this.batches++, pieces: batch });
  }
}

/** This long a piece waits for the worker that has it before another takes it over, milliseconds. */
export const PATIENCE = 80;
