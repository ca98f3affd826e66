import {
  type Build,
  type CurveSet,
  copyMesh,
  createCache,
  evaluatePiece,
  type Finding,
  type KelpDocument,
  mergeMeshes,
  meshBuffers,
  SurfaceStore,
} from '@kelp/core';
import { decodeProp } from '@kelp/formats';
import { sampleOf } from '../look/samples.js';
import { withChanges } from './changes.js';
import { type Answer, DRAFT_DENSITY, type PieceBuild, type Rails, type Request } from './protocol.js';

/** Milliseconds of work before newer messages are let in. */
const AT_A_STRETCH = 4;

const surfaces = new SurfaceStore();
const cache = createCache();
/** Trials are many of one piece, one after the other: what does not differ between them is made once. */
const trials = createCache();
/** What the page has of each piece, to send only what changed. */
const sent = new Map<
  string,
  { parts: Build['parts']; findings: string; watched: CurveSet | undefined; detail: How['detail'] }
>();
let newest = 0;
let document: KelpDocument | null = null;

const answer = (message: Answer, buffers: ArrayBuffer[] = []) => self.postMessage(message, { transfer: buffers });

self.onmessage = async ({ data }: MessageEvent<Request>) => {
  switch (data.kind) {
    case 'prop':
      return addProp(data.hash, data.bytes);
    case 'evaluate':
      newest = data.job;
      document = withChanges(document, data.changes);
      return evaluate(document, data);
    case 'sample': {
      const sitters = sampleOf('make', data.unit, data.preset);
      const mesh = mergeMeshes(sitters.map((sitter) => sitter.mesh));
      const { material } = sitters[0];
      return answer({ kind: 'sample', id: data.id, mesh, material }, meshBuffers(mesh));
    }
    case 'trial':
      return attempt(data);
  }
};

async function addProp(hash: string, bytes: Uint8Array): Promise<void> {
  try {
    const mesh = await decodeProp(bytes);
    surfaces.add(hash, mesh);
    const copy = copyMesh(mesh);
    answer({ kind: 'prop', hash, mesh: copy }, meshBuffers(copy));
  } catch (error) {
    answer({ kind: 'prop-failed', hash, message: (error as Error).message });
  }
}

/** Piece by piece; now and then it lets newer messages in, and gives up as soon as one asks for something newer. */
async function evaluate(
  document: KelpDocument,
  { job, draft, watch }: Extract<Request, { kind: 'evaluate' }>,
): Promise<void> {
  try {
    const { surroundings, key } = surfaces.surroundings(document);
    const visible = document.pieces.filter((piece) => piece.visible);
    // the piece under the hand comes first
    const ordered = draft ? [...visible].sort((a, b) => Number(b.id === draft) - Number(a.id === draft)) : visible;
    let breathed = performance.now();
    for (const piece of ordered) {
      const started = performance.now();
      const isDraft = piece.id === draft;
      const density = isDraft || piece.detail ? DRAFT_DENSITY : 1;
      const build = fairly(evaluatePiece(document, piece, surroundings, key, { density, cache }), density);
      const watched = watch?.piece === piece.id ? build.stages[watch.stage] : undefined;
      sendIfChanged(job, build, watched, { ms: performance.now() - started, draft: isDraft, detail: piece.detail });
      if (performance.now() - breathed < AT_A_STRETCH) continue;
      await breathe();
      if (job !== newest) return;
      breathed = performance.now();
    }
    const ids = visible.map((piece) => piece.id);
    const there = new Set(ids);
    for (const id of sent.keys()) if (!there.has(id)) forget(id);
    answer({ kind: 'done', job, pieces: ids });
  } catch (error) {
    answer({ kind: 'failed', job, message: (error as Error).message });
  }
}

/** A piece of a document that is not the project's: computed beside what is kept, so that nothing of that is lost. */
function attempt({ id, document, piece: pieceId, draft }: Extract<Request, { kind: 'trial' }>): void {
  try {
    const piece = document.pieces.find((candidate) => candidate.id === pieceId);
    if (!piece) throw new Error('The piece is not there any more.');
    const started = performance.now();
    const { surroundings, key } = surfaces.surroundings(document);
    const density = draft ? DRAFT_DENSITY : 1;
    const build = evaluatePiece(document, piece, surroundings, key, { density, cache: trials });
    const { message, buffers } = packed(build, undefined, { ms: performance.now() - started, draft });
    answer({ kind: 'trial', id, build: message }, buffers);
  } catch (error) {
    answer({ kind: 'trial-failed', id, message: (error as Error).message });
  }
}

/** A draft is coarser on purpose: its facets are told only where the whole would show them too. */
function fairly(build: Build, density: number): Build {
  if (density === 1) return build;
  const shows = ({ code, size }: Finding) => code !== 'coarse' || !size || size.value * density > size.limit;
  return { ...build, findings: build.findings.filter(shows) };
}

/** How a piece was made. */
type How = Pick<PieceBuild, 'ms' | 'draft' | 'detail'>;

function sendIfChanged(job: number, build: Build, curves: CurveSet | undefined, how: How): void {
  const findings = JSON.stringify(build.findings);
  const old = sent.get(build.piece);
  const { detail } = how;
  if (old?.parts === build.parts && old.findings === findings && old.watched === curves && old.detail === detail)
    return;
  sent.set(build.piece, { parts: build.parts, findings, watched: curves, detail });
  const { message, buffers } = packed(build, curves, how);
  answer({ kind: 'piece', job, build: message }, buffers);
}

/** What the page needs of a build. The cache keeps its own: the page gets copies, which are moved. */
function packed(build: Build, curves: CurveSet | undefined, how: How): { message: PieceBuild; buffers: ArrayBuffer[] } {
  const parts = build.parts.map((part) => ({ ...part, mesh: copyMesh(part.mesh) }));
  const rails = copyRails(build.rails);
  const watched = curves ? copyRails(curves) : null;
  const { piece, materials, measures, bends } = build;
  const message: PieceBuild = {
    piece,
    rails,
    watched,
    parts,
    materials,
    findings: build.findings,
    measures,
    bends,
    ...how,
  };
  return {
    message,
    buffers: [...parts.flatMap((part) => meshBuffers(part.mesh)), rails.position.buffer as ArrayBuffer],
  };
}

const copyRails = ({ position, start, closed, id }: CurveSet): Rails => ({
  id: id.slice(),
  position: position.slice(),
  start: start.slice(),
  closed: closed.slice(),
});

function forget(piece: string): void {
  sent.delete(piece);
  cache.forget(`${piece} `);
}

const channel = new MessageChannel();
const waiting: (() => void)[] = [];
channel.port1.onmessage = () => waiting.shift()?.();

/** Lets the messages that wait be handled; quicker than a timer, which browsers hold back by 4 ms. */
function breathe(): Promise<void> {
  return new Promise((resolve) => {
    waiting.push(resolve);
    channel.port2.postMessage(null);
  });
}
