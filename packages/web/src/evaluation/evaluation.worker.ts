import {
  type Bounds,
  type Build,
  type BuildCache,
  bendProfiles,
  boundsOf,
  type CurveSet,
  copyMesh,
  copyPart,
  createCache,
  crossings,
  evaluatePiece,
  type KelpDocument,
  LINK,
  meshBuffers,
  partBounds,
  partBuffers,
  SurfaceStore,
  skeletonOf,
  sliceAt,
  World,
} from '@kelp/core';
import { decodeProp, readShades } from '@kelp/formats';
import { sampleOf } from '../look/samples.js';
import { type DocumentChanges, withChanges } from './changes.js';
import { fairly, isPinch } from './fairly.js';
import {
  type Answer,
  DRAFT_DENSITY,
  type Guide,
  MAX_SHOWN,
  type PieceBuild,
  type Question,
  type Request,
  type Wanted,
} from './protocol.js';
import { ready } from './ready.js';

/** How far one piece is is reported no more often than this, milliseconds. */
const TELL_AFTER = 120;

/** Milliseconds of work before newer messages are let in. */
const AT_A_STRETCH = 4;

const surfaces = new SurfaceStore();
const cache = createCache();
/** Trials are many of one piece, one after the other: what does not differ between them is made once. */
const trials = createCache();
/** What the page has of each piece, to send only what changed; and the build itself, to be asked about. */
const sent = new Map<string, { build: Build; findings: string; watched: CurveSet | undefined; how: string }>();
let document: KelpDocument | null = null;
let world: World | null = null;

const answer = (message: Answer, buffers: ArrayBuffer[] = []) => self.postMessage(message, { transfer: buffers });

self.onmessage = async ({ data }: MessageEvent<Request>) => {
  switch (data.kind) {
    case 'prop':
      return addProp(data);
    case 'picture':
      return addPicture(data);
    case 'shades':
      surfaces.addShades(data.hash, data.shades);
      world = null;
      return;
    case 'document':
      document = withChanges(document, JSON.parse(data.changes) as DocumentChanges);
      world = null;
      return;
    case 'compute':
      return compute(data.batch, data.pieces);
    case 'forget':
      for (const piece of data.pieces) {
        sent.delete(piece);
        wholePinches.delete(piece);
        cache.forget(piece);
      }
      return;
    case 'ask':
      return refusing(data.id, () =>
        answer({ kind: 'answer', id: data.id, value: answerTo(data.piece, data.question) }),
      );
    case 'sample':
      return refusing(data.id, async () => {
        const sitters = await sampleOf('make', data.unit, data.preset);
        answer(
          { kind: 'sample', id: data.id, sitters },
          sitters.flatMap(({ mesh }) => meshBuffers(mesh)),
        );
      });
    case 'meetings':
      return refusing(data.id, () => answer({ kind: 'answer', id: data.id, value: crossings(data.pieces) }));
    case 'trial':
      return refusing(data.id, () => attempt(data));
  }
};

async function refusing(id: number, work: () => void | Promise<void>): Promise<void> {
  try {
    await work();
  } catch (error) {
    answer({ kind: 'refused', id, message: (error as Error).message });
  }
}

async function addProp({ hash, bytes, mesh, tell }: Extract<Request, { kind: 'prop' }>): Promise<void> {
  try {
    if (mesh) surfaces.add(hash, mesh);
    else if (bytes) {
      const decoded = await decodeProp(bytes);
      surfaces.add(hash, decoded);
      if (tell) {
        const copy = copyMesh(decoded);
        answer({ kind: 'prop', hash, mesh: copy }, meshBuffers(copy));
      }
    }
    world = null;
  } catch (error) {
    answer({ kind: 'file-failed', hash, message: (error as Error).message });
  }
}

function addPicture({ hash, bytes }: Extract<Request, { kind: 'picture' }>): void {
  try {
    const shades = readShades('The image', bytes);
    surfaces.addShades(hash, shades);
    world = null;
    answer({ kind: 'shades', hash, shades });
  } catch (error) {
    answer({ kind: 'file-failed', hash, message: (error as Error).message });
  }
}

/** A document whose pieces are computed to be looked at. */
function viewed(document: KelpDocument, cache: BuildCache): World {
  const made = new World(document, surfaces.surroundings(document), cache);
  made.forView = true;
  return made;
}

/** Piece by piece; now and then it lets other messages in. */
async function compute(batch: number, pieces: readonly Wanted[]): Promise<void> {
  if (document) await ready(document);
  let breathed = performance.now();
  for (const [i, wanted] of pieces.entries()) {
    const last = i === pieces.length - 1;
    try {
      computeOne(batch, wanted, last);
    } catch (error) {
      answer({ kind: 'piece-failed', batch, piece: wanted.piece, message: (error as Error).message, last });
    }
    if (performance.now() - breathed < AT_A_STRETCH || last) continue;
    await yieldToEventLoop();
    breathed = performance.now();
  }
}

function computeOne(batch: number, { piece: id, draft, watch, has }: Wanted, last: boolean): void {
  if (document) world ??= viewed(document, cache);
  const piece = world?.piece(id);
  if (!world || !piece) {
    answer({ kind: 'piece', batch, piece: id, build: null, last });
    return;
  }
  const started = performance.now();
  let reported = started;
  let said: string | undefined;
  world.onStep = (share, says) => {
    const now = performance.now();
    // what it comes to is said before it is begun
    if (now - reported < TELL_AFTER && says === said) return;
    [reported, said] = [now, says];
    answer({ kind: 'step', share, says });
  };
  const density = draft || piece.detail ? DRAFT_DENSITY : 1;
  const made = evaluatePiece(world, piece, { density, most: MAX_SHOWN });
  const pinches = made.findings.filter(isPinch).length;
  if (density === 1) wholePinches.set(id, pinches);
  const build = fairly(made, density, draft ? wholePinches.get(id) : undefined);
  const watched = watch === null ? undefined : build.stages[watch];
  const findings = JSON.stringify(build.findings);
  const how = `${density} ${piece.detail ?? ''}`;
  const old = sent.get(id);
  const same =
    has && old?.build.parts === build.parts && old.findings === findings && old.watched === watched && old.how === how;
  sent.set(id, { build, findings, watched, how });
  if (same) {
    answer({ kind: 'piece', batch, piece: id, build: null, last });
    return;
  }
  const { message, buffers } = packed(build, watched, { ms: performance.now() - started, draft, detail: piece.detail });
  answer({ kind: 'piece', batch, piece: id, build: message, last }, buffers);
}

function answerTo(piece: string, question: Question): unknown {
  const build = sent.get(piece)?.build;
  if (!build) throw new Error('This piece was not computed here.');
  switch (question.what) {
    case 'slice':
      return sliceAt(build.parts, build.guide, question.share, question.near) ?? null;
    case 'bends':
      return bendProfiles(build.made);
    case 'tables':
      return build.tables;
  }
}

/** A piece of a document that is not the project's: computed beside what is kept, so that nothing of that is lost. */
async function attempt({
  id,
  document: other,
  piece: pieceId,
  draft,
}: Extract<Request, { kind: 'trial' }>): Promise<void> {
  const piece = other.pieces.find((candidate) => candidate.id === pieceId);
  if (!piece) throw new Error('The piece no longer exists.');
  await ready({ pieces: [piece] });
  const started = performance.now();
  const density = draft ? DRAFT_DENSITY : 1;
  const build = evaluatePiece(viewed(other, trials), piece, {
    density,
    most: MAX_SHOWN,
  });
  const { message, buffers } = packed(build, undefined, { ms: performance.now() - started, draft });
  answer({ kind: 'trial', id, build: message }, buffers);
}

/** Bends that were too tight when a piece was last made whole. */
const wholePinches = new Map<string, number>();

/** What the page needs of a build. The cache keeps its own: the page gets copies, which are moved. */
function packed(
  build: Build,
  curves: CurveSet | undefined,
  how: Pick<PieceBuild, 'ms' | 'draft' | 'detail'>,
): { message: PieceBuild; buffers: ArrayBuffer[] } {
  const parts = build.parts.map(copyPart);
  const guide = guideOf(build.guide);
  const skeleton = skeletonOf(build.made.bodies);
  const { piece, materials, measures, marks, motion, findings } = build;
  const message: PieceBuild = {
    piece,
    guide,
    watched: curves ? guideOf(curves) : null,
    parts,
    bounds: boundsOfBuild(build),
    materials,
    marks,
    motion,
    tables: build.tables.map(({ label }) => label),
    findings,
    skeleton,
    measures,
    ...how,
  };
  return { message, buffers: [...parts.flatMap(partBuffers), guide.position.buffer as ArrayBuffer] };
}

function boundsOfBuild({ parts, guide }: Build): Bounds | null {
  const all = parts.flatMap((part) => partBounds(part) ?? []);
  if (all.length === 0) return guide.position.length > 0 ? boundsOf(guide.position) : null;
  return boundsOf(all.flatMap(({ min, max }) => [...min, ...max]));
}

const guideOf = ({ position, start, closed, id, curveData }: CurveSet): Guide => ({
  ...(curveData[LINK.from]
    ? { links: { from: Uint32Array.from(curveData[LINK.from]), to: Uint32Array.from(curveData[LINK.to]) } }
    : {}),
  id: id.slice(),
  position: Float32Array.from(position),
  start: start.slice(),
  closed: closed.slice(),
});

const channel = new MessageChannel();
const waiting: (() => void)[] = [];
channel.port1.onmessage = () => waiting.shift()?.();

/** Lets the messages that wait be handled; quicker than a timer, which browsers hold back by 4 ms. */
function yieldToEventLoop(): Promise<void> {
  return new Promise((resolve) => {
    waiting.push(resolve);
    channel.port2.postMessage(null);
  });
}
