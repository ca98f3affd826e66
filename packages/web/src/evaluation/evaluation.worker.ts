import { type Build, copyMesh, createCache, evaluatePiece, meshBuffers, SurfaceStore } from '@kelp/core';
import { decodeProp } from '@kelp/formats';
import type { Answer, PieceBuild, Request } from './protocol.js';
import { sampleMesh } from './sample.js';

/** Divisions of a piece under a drag, as a factor. */
const DRAFT_DENSITY = 0.5;

const surfaces = new SurfaceStore();
const cache = createCache();
/** What the page has of each piece, to send only what changed. */
const sent = new Map<string, { parts: Build['parts']; findings: string }>();
let newest = 0;

const answer = (message: Answer, buffers: ArrayBuffer[] = []) => self.postMessage(message, { transfer: buffers });

self.onmessage = async ({ data }: MessageEvent<Request>) => {
  switch (data.kind) {
    case 'prop':
      return addProp(data.hash, data.bytes);
    case 'evaluate':
      newest = data.job;
      return evaluate(data);
    case 'sample': {
      const { mesh, material } = sampleMesh(data.unit, data.preset);
      return answer({ kind: 'sample', id: data.id, mesh, material }, meshBuffers(mesh));
    }
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

/** Piece by piece; between two it lets newer messages in, and gives up as soon as one asks for something newer. */
async function evaluate({ job, document, draft }: Extract<Request, { kind: 'evaluate' }>): Promise<void> {
  try {
    const { surroundings, key } = surfaces.surroundings(document);
    const visible = document.pieces.filter((piece) => piece.visible);
    // the piece under the hand comes first
    const ordered = draft ? [...visible].sort((a, b) => Number(b.id === draft) - Number(a.id === draft)) : visible;
    for (const piece of ordered) {
      const started = performance.now();
      const isDraft = piece.id === draft;
      const build = evaluatePiece(document, piece, surroundings, key, { density: isDraft ? DRAFT_DENSITY : 1, cache });
      sendIfChanged(job, build, performance.now() - started, isDraft);
      await breathe();
      if (job !== newest) return;
    }
    const ids = visible.map((piece) => piece.id);
    for (const id of sent.keys()) if (!ids.includes(id)) forget(id);
    answer({ kind: 'done', job, pieces: ids });
  } catch (error) {
    answer({ kind: 'failed', job, message: (error as Error).message });
  }
}

function sendIfChanged(job: number, build: Build, ms: number, draft: boolean): void {
  const findings = JSON.stringify(build.findings);
  const old = sent.get(build.piece);
  if (old && old.parts === build.parts && old.findings === findings) return;
  sent.set(build.piece, { parts: build.parts, findings });
  // the cache keeps its own: the page gets copies, which are moved
  const parts = build.parts.map((part) => ({ ...part, mesh: copyMesh(part.mesh) }));
  const rails = {
    position: build.rails.position.slice(),
    start: build.rails.start.slice(),
    closed: build.rails.closed.slice(),
  };
  const { piece, materials, measures, bends } = build;
  const message: PieceBuild = { piece, rails, parts, materials, findings: build.findings, measures, bends, ms, draft };
  answer({ kind: 'piece', job, build: message }, [
    ...parts.flatMap((part) => meshBuffers(part.mesh)),
    rails.position.buffer as ArrayBuffer,
  ]);
}

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
