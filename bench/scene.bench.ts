import {
  bake,
  createCache,
  createHit,
  evaluatePiece,
  type KelpDocument,
  SurfaceStore,
  World,
  withParameter,
  withPiece,
} from '@kelp/core';
import { demoProject, manyCorners } from '@kelp/demo';
import { decodeProp, type Project } from '@kelp/formats';
import { fastestPair, type Result } from './measure.js';

async function storeOf({ props }: Project): Promise<SurfaceStore> {
  const store = new SurfaceStore();
  for (const [hash, bytes] of props) store.add(hash, await decodeProp(bytes));
  return store;
}

/** Scenes of any size: the demo's corner many times side by side. */
export async function sceneBench(): Promise<Result[]> {
  const one = await demoProject();
  const store = await storeOf(one);
  const twelve = (await manyCorners(12)).document;
  const hundred = (await manyCorners(100)).document;
  const baking = (document: KelpDocument) => () => bake(document, store);
  const [once, dozen] = fastestPair(baking(one.document), baking(twelve), 5);
  const started = performance.now();
  baking(hundred)();
  const many = performance.now() - started;
  return [
    {
      name: `baking 12 corners (108 pieces, 144 props) over one (${once.toFixed(0)} ms)`,
      value: dozen / once,
      goal: 1.3 * 12,
      better: 'less',
    },
    {
      name: 'baking 100 corners (900 pieces, 1,200 props) over one',
      value: many / once,
      goal: 1.5 * 100,
      better: 'less',
    },
    queries(one.document, hundred, store),
    edit(one.document, hundred, [store, await storeOf(one)]),
  ];
}

/** A thousand questions for a closest place near the first corner, among 1,200 props and among 12. */
function queries(small: KelpDocument, large: KelpDocument, store: SurfaceStore): Result {
  const [few, many] = [small, large].map((document) => store.surroundings(document));
  const hit = createHit();
  const ask = (surroundings: typeof few) => () => {
    for (let i = 0; i < 20_000; i++)
      surroundings.closest(-3 + (i % 200) * 0.03, 0.9 + (i % 7) * 0.05, -1 + Math.floor(i / 200) * 0.02, hit);
  };
  const [a, b] = fastestPair(ask(few), ask(many), 9);
  return { name: 'a closest place among 1,200 props over among 12', value: b / a, goal: 1.5, better: 'less' };
}

/** One number of one piece is changed: from the new document to the piece's mesh. */
function edit(small: KelpDocument, large: KelpDocument, stores: readonly SurfaceStore[]): Result {
  const editing = (first: KelpDocument, store: SurfaceStore) => {
    const cache = createCache();
    const world = new World(first, store.surroundings(first), cache);
    for (const piece of first.pieces) evaluatePiece(world, piece);
    let radius = 0.01;
    return () => {
      radius += 1e-6;
      const document = withPiece(first, 'mooring-line', (piece) =>
        withParameter(piece, { stage: 'make' }, 'radius', radius),
      );
      evaluatePiece(
        new World(document, store.surroundings(document), cache),
        document.pieces.find(({ id }) => id === 'mooring-line')!,
      );
    };
  };
  const [a, b] = fastestPair(editing(small, stores[0]), editing(large, stores[1]), 40);
  return {
    name: `an edit of one piece of 900 over one of 9 (${a.toFixed(1)} ms)`,
    value: b / a,
    goal: 1.3,
    better: 'less',
  };
}
