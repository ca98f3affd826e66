import { type KelpDocument, type Material, type Mesh, SurfaceStore } from '@kelp/core';
import { changesSince } from './changes.js';
import type { Answer, PieceBuild, Request, Watch } from './protocol.js';

/** What the page knows of the computed project at one moment. A new object at every change. */
export interface Computed {
  builds: ReadonlyMap<string, PieceBuild>;
  /** Prop meshes by content hash. */
  meshes: ReadonlyMap<string, Mesh>;
  /** Why a prop is not there, by content hash. */
  failed: ReadonlyMap<string, string>;
  busy: boolean;
  error: string | null;
}

/** Answers within so many milliseconds are shown together. */
const TOGETHER = 8;

const EMPTY: Computed = { builds: new Map(), meshes: new Map(), failed: new Map(), busy: false, error: null };

/**
 * The worker as the page sees it: takes documents, gives builds. Only the newest request counts: while one is computed
 * at most one more waits, and an answer to an older one never overwrites a newer.
 */
export class Evaluation {
  private readonly worker = new Worker(new URL('./evaluation.worker.ts', import.meta.url), {
    type: 'module',
    name: 'kelp-evaluation',
  });
  /** Trees over the props for the page's own use: a pointer cannot wait for a worker. Built when first asked for. */
  readonly surfaces = new SurfaceStore();
  private readonly listeners = new Set<() => void>();
  private readonly samples = new Map<number, (sample: { mesh: Mesh; material: Material }) => void>();
  private readonly trials = new Map<number, { resolve(build: PieceBuild): void; reject(error: Error): void }>();
  private readonly asked = new Set<string>();
  private computed = EMPTY;
  private job = 0;
  /** The document the worker has. */
  private told: KelpDocument | null = null;
  private nextId = 0;
  private telling: ReturnType<typeof setTimeout> | undefined;

  constructor() {
    this.worker.onmessage = ({ data }: MessageEvent<Answer>) => this.take(data);
    this.worker.onerror = (event) =>
      this.change({
        busy: false,
        error: event.message || 'The computation stopped. Reload the page; nothing is lost.',
      });
  }

  readonly subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  readonly current = (): Computed => this.computed;

  /** Computes a document; `draft` names the piece under a drag. */
  evaluate(document: KelpDocument, draft: string | null, watch: Watch | null): void {
    this.job++;
    this.send({ kind: 'evaluate', job: this.job, changes: changesSince(this.told, document), draft, watch });
    this.told = document;
    this.change({ busy: true, error: null });
  }

  /** True the first time a mesh is asked for. */
  wants(hash: string): boolean {
    if (this.asked.has(hash)) return false;
    this.asked.add(hash);
    return true;
  }

  addProp(hash: string, bytes: Uint8Array): void {
    this.asked.add(hash);
    this.send({ kind: 'prop', hash, bytes });
  }

  propFailed(hash: string, message: string): void {
    this.asked.delete(hash);
    this.change({ failed: new Map(this.computed.failed).set(hash, message) });
  }

  /** A preset on a short line, for its picture. */
  sample(unit: string, preset: string): Promise<{ mesh: Mesh; material: Material }> {
    const id = this.nextId++;
    return new Promise((resolve) => {
      this.samples.set(id, resolve);
      this.send({ kind: 'sample', id, unit, preset });
    });
  }

  /** A piece as another document makes it; the project's own builds stay as they are. */
  trial(document: KelpDocument, piece: string, draft: boolean): Promise<PieceBuild> {
    const id = this.nextId++;
    return new Promise((resolve, reject) => {
      this.trials.set(id, { resolve, reject });
      this.send({ kind: 'trial', id, document, piece, draft });
    });
  }

  close(): void {
    clearTimeout(this.telling);
    this.worker.terminate();
    this.listeners.clear();
  }

  private send(request: Request): void {
    this.worker.postMessage(request);
  }

  private take(answer: Answer): void {
    switch (answer.kind) {
      case 'prop':
        this.change({ meshes: new Map(this.computed.meshes).set(answer.hash, answer.mesh) });
        return;
      case 'prop-failed':
        this.propFailed(answer.hash, answer.message);
        return;
      case 'piece':
        this.change({ builds: new Map(this.computed.builds).set(answer.build.piece, answer.build) });
        return;
      case 'done':
        if (answer.job === this.job) this.change({ busy: false, builds: only(this.computed.builds, answer.pieces) });
        return;
      case 'failed':
        if (answer.job === this.job) this.change({ busy: false, error: answer.message });
        return;
      case 'sample':
        this.samples.get(answer.id)?.({ mesh: answer.mesh, material: answer.material });
        this.samples.delete(answer.id);
        return;
      case 'trial':
        this.trials.get(answer.id)?.resolve(answer.build);
        this.trials.delete(answer.id);
        return;
      case 'trial-failed':
        this.trials.get(answer.id)?.reject(new Error(answer.message));
        this.trials.delete(answer.id);
    }
  }

  private change(change: Partial<Computed>): void {
    this.computed = { ...this.computed, ...change };
    // answers come in bursts: the page draws once for all that arrive together
    this.telling ??= setTimeout(() => {
      this.telling = undefined;
      for (const listener of this.listeners) listener();
    }, TOGETHER);
  }
}

/** The builds of these pieces; the same map where there are no others, so that nothing is drawn again for it. */
function only(builds: Computed['builds'], pieces: readonly string[]): Computed['builds'] {
  const wanted = new Set(pieces);
  const kept = [...builds].filter(([id]) => wanted.has(id));
  return kept.length === builds.size ? builds : new Map(kept);
}
