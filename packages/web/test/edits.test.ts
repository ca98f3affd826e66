import {
  createHit,
  evaluatePiece,
  type KelpDocument,
  parseDocument,
  SurfaceStore,
  Surroundings,
  World,
  withParameter,
} from '@kelp/core';
import { demoProject, templateProject } from '@kelp/demo';
import { decodeProp, readCurves } from '@kelp/formats';
import { configureStore } from '@reduxjs/toolkit';
import fc from 'fast-check';
import { beforeAll, describe, expect, it } from 'vitest';
import type { AppDispatch, AppState } from '../src/app/store.js';
import { keepNow } from '../src/compare/variant-edits.js';
import { takeInCurves } from '../src/importing/take-in-curves.js';
import {
  colourPieces,
  deletePieces,
  duplicatePieces,
  isolatePieces,
  lockPieces,
  movePiece,
  showPieces,
} from '../src/manifest/piece-edits.js';
import { lineDrawn, movePoint } from '../src/pens/draw-edits.js';
import {
  chooseLines,
  deleteChosen,
  duplicateLine,
  evenOutChosen,
  joinLines,
  reverseCurves,
  setChosen,
  shiftChosen,
  smoothChosen,
  splitAt,
  straightenChosen,
  turnChosen,
} from '../src/pens/line-edits.js';
import { changePicture, deletePicture } from '../src/pictures/picture-edits.js';
import { opened, projectReducer, redone, steppedTo, undone } from '../src/state/project-slice.js';
import { penTakenInto, pieceChosen, viewReducer } from '../src/state/view-slice.js';
import { addPiece, setPathUnit } from '../src/stem/new-piece.js';

const nowhere = new Surroundings(new Map());
let demo: KelpDocument;
beforeAll(async () => {
  demo = (await demoProject()).document;
});

/** The store as the workbench has it, without saving. */
function bench(document = demo) {
  const store = configureStore({
    reducer: { project: projectReducer, view: viewReducer },
    middleware: (defaults) => defaults({ serializableCheck: false, immutableCheck: false }),
  });
  const dispatch = store.dispatch as unknown as AppDispatch;
  dispatch(opened({ id: 'p', document, revision: 1, at: '', unsaved: false }));
  const state = () => store.getState() as AppState;
  return { dispatch, state, document: () => state().project.document as KelpDocument };
}
const hose = (document: KelpDocument) => document.pieces.find(({ id }) => id === 'bridge-hose')!;
const linesOf = (document: KelpDocument, piece = hose(document)) => piece.path.parameters['curves'] as string[];
const free = (x: number, z: number) => ({ position: [x, 1, z] as [number, number, number], corner: false, radius: 1 });

it('a point that is moved keeps its corner, thickness and roll; a line drawn on a prop lies on what is near it only', () => {
  const { dispatch, document } = bench();
  const anchor = { prop: demo.props[0].id, triangle: 0, barycentric: [1, 0, 0] as [number, number, number], height: 0 };
  const drawn = { ...free(0, 0), corner: true, radius: 1.5, roll: 0.4, anchor };
  dispatch(lineDrawn([drawn, free(1, 0), free(2, 0)], false));
  const made = document().pieces.at(-1)!;
  const [curve] = linesOf(document(), made);
  dispatch(movePoint({ curve, index: 0 }, { position: [0, 1, 0.5] }));
  const moved = document().curves.find(({ id }) => id === curve)!.points[0];
  expect(moved).toEqual({ position: [0, 1, 0.5], corner: true, radius: 1.5, roll: 0.4 });
  expect(made.shape.map(({ unit }) => unit)).toEqual(['cling']);
  expect(made.shape[0].parameters['reach']).toBeLessThan(0.5);
});

describe('every edit leaves a document that is valid, and is one step back', () => {
  const all = (count: number, curve: string) => Array.from({ length: count }, (_, index) => ({ curve, index }));
  const LINE = 'bridge-hose-line';
  const edits: Record<string, (dispatch: AppDispatch) => void> = {
    'draw a line': (d) => d(lineDrawn([free(0, 0), free(1, 0), free(1, 1)], true)),
    'move many points': (d) => d(shiftChosen(all(8, LINE), [0.1, 0, 0], nowhere)),
    'set thickness and roll': (d) => d(setChosen(all(3, LINE), { radius: 2, roll: 1, corner: true }, nowhere)),
    smooth: (d) => d(smoothChosen(all(8, LINE), nowhere)),
    straighten: (d) => d(straightenChosen(all(8, LINE), nowhere)),
    'even out': (d) => d(evenOutChosen(all(8, LINE), nowhere)),
    'turn what follows': (d) => d(turnChosen({ curve: LINE, index: 3 }, 'after', [0, 1, 0], 0.4, nowhere)),
    reverse: (d) => d(reverseCurves([LINE, 'shore-power-line'])),
    'delete points': (d) => d(deleteChosen(all(3, LINE))),
    split: (d) => d(splitAt('bridge-hose', { curve: LINE, index: 3 })),
    'duplicate a line': (d) => d(duplicateLine('bridge-hose', LINE, [0, 0, 0.1], nowhere)),
    'duplicate a piece': (d) => d(duplicatePieces([hose(demo)])),
    'duplicate all': (d) => d(duplicatePieces(demo.pieces)),
    'hide many': (d) => d(showPieces(demo.pieces.slice(2), false)),
    'lock many': (d) => d(lockPieces(demo.pieces.slice(1, 3), true)),
    'colour many': (d) => d(colourPieces(demo.pieces, '#112233', `try ${Math.random()}`)),
    'delete many': (d) => d(deletePieces(demo.pieces.slice(0, 3))),
    'keep a state': (d) => d(keepNow(hose(demo))),
    'show alone': (d) => d(isolatePieces([hose(demo)])),
    order: (d) => d(movePiece(hose(demo), -1)),
    'a helix': (d) => d(addPiece('helix', [1, 2, 3])),
    'contours of a prop': (d) => d(addPiece('contours', [0, 0, 0])),
    'another path': (d) => d(setPathUnit(hose(demo), 'figure', [0, 1, 0])),
  };

  it.each(Object.keys(edits))('%s', (name) => {
    const { dispatch, state, document } = bench();
    edits[name](dispatch);
    expect(state().project.past).toHaveLength(1);
    expect(document()).not.toEqual(demo);
    expect(parseDocument(JSON.parse(JSON.stringify(document())))).toEqual(document());
    const after = document();
    dispatch(undone());
    expect(document()).toEqual(demo);
    dispatch(redone());
    expect(document()).toEqual(after);
  });

  it('any row of them, and any way through the history, comes back to the same states', () => {
    const names = fc.array(fc.constantFrom(...Object.keys(edits)), { minLength: 1, maxLength: 8 });
    fc.assert(
      fc.property(names, fc.array(fc.nat(9), { maxLength: 50 }), (row, jumps) => {
        const { dispatch, state, document } = bench();
        const states = [document()];
        for (const name of row) {
          edits[name](dispatch);
          // an edit that changes nothing is no step
          if (document() !== states[states.length - 1]) states.push(document());
        }
        for (const jump of jumps) {
          const to = Math.min(jump, states.length - 1);
          dispatch(steppedTo(to));
          expect(document()).toEqual(states[to]);
          expect(state().project.past.length + state().project.future.length).toBe(states.length - 1);
        }
      }),
      { numRuns: 25 },
    );
  });
});

it.each(['helix', 'figure'])(
  'a new %s rests on what is under it, and goes on doing so when it is made thicker',
  async (unit) => {
    const { document: deck, props } = await templateProject('deck', 'Deck');
    const store = new SurfaceStore();
    for (const [hash, bytes] of props) store.add(hash, await decodeProp(bytes));
    const around = store.surroundings(deck);
    const hit = createHit();
    around.cast([0, 100, 0], [0, -1, 0], hit);
    const { dispatch, document } = bench(deck);
    dispatch(addPiece(unit, [hit.point[0], hit.point[1], hit.point[2]]));
    const piece = document().pieces[document().pieces.length - 1];
    for (const thicker of [1, 2.5]) {
      const radius = thicker * Number(piece.make.parameters['radius']);
      const made = withParameter(piece, { stage: 'make' }, 'radius', radius);
      expect(evaluatePiece(new World(document(), around), made).findings).toEqual([]);
    }
    // what is begun from a prop stands off it by its own reach
    dispatch(addPiece('edges', [0, 0, 0]));
    expect(document().pieces[document().pieces.length - 1].path.parameters['lift']).toBeCloseTo(0.01224, 6);
  },
);

describe('lines of one piece', () => {
  it('a second line joins the piece it is drawn into; split and joined again it is one; a copy is its own', () => {
    const { dispatch, document, state } = bench();
    dispatch(pieceChosen('bridge-hose'));
    dispatch(penTakenInto({ pen: 'points', piece: 'bridge-hose' }));
    dispatch(lineDrawn([free(0, 0), free(1, 0), free(2, 0)], false));
    expect(document().pieces).toHaveLength(demo.pieces.length);
    const [first, second] = linesOf(document());
    dispatch(splitAt('bridge-hose', { curve: second, index: 1 }));
    expect(linesOf(document())).toHaveLength(3);
    const [, a, b] = linesOf(document());
    dispatch(joinLines('bridge-hose', a, b, nowhere));
    expect(linesOf(document())).toEqual([first, a]);
    expect(document().curves.find(({ id }) => id === a)?.points).toHaveLength(3);
    dispatch(chooseLines([first, a]));
    expect(state().view.points).toHaveLength(8 + 3);
    dispatch(duplicatePieces([hose(document())]));
    const copy = document().pieces.find(({ name }) => name === 'Bridge hose 2');
    expect(linesOf(document(), copy).some((id) => linesOf(document()).includes(id))).toBe(false);
  });

  it('deleting all points of a line leaves it its two ends', () => {
    const { dispatch, document } = bench();
    const every = Array.from({ length: 8 }, (_, index) => ({ curve: 'bridge-hose-line', index }));
    dispatch(deleteChosen(every));
    const line = document().curves.find(({ id }) => id === 'bridge-hose-line')!;
    expect(line.points).toHaveLength(2);
    expect(line.points[0]).toEqual(demo.curves.find(({ id }) => id === line.id)?.points[0]);
  });
});

it('curves of a file become one piece in metres; a very long one is thinned to what a curve may have', async () => {
  const rows = Array.from({ length: 30_000 }, (_, i) => `${i},${(1000 * Math.sin(i / 900)).toFixed(3)},0`);
  const bytes = new TextEncoder().encode(`${rows.join('\n')}\n\n0,0,0\n10,0,0\n`);
  const { dispatch, document, state } = bench();
  dispatch(
    takeInCurves({ kind: 'curves', name: 'survey.csv', file: await readCurves('survey.csv', bytes) }, 'mm', true),
  );
  const piece = document().pieces.at(-1)!;
  expect([piece.name, piece.path.unit, piece.path.parameters['lay']]).toEqual(['survey', 'imported', 'flat']);
  const [long, short] = linesOf(document(), piece).map((id) => document().curves.find((curve) => curve.id === id)!);
  expect(short.points[1].position).toEqual([0.01, 0, 0]);
  expect(long.points.length).toBeLessThanOrEqual(10_000);
  expect(long.points.at(-1)?.position[0]).toBeCloseTo(29.999, 9);
  expect(state().view.piece).toBe(piece.id);
  expect(() => parseDocument(document())).not.toThrow();
});

it('pictures are changed and taken out by their own id', () => {
  const picture = {
    id: 'plan',
    name: 'Plan',
    image: 'ab'.repeat(32),
    plane: 'top' as const,
    position: [0, 0, 0] as [number, number, number],
    width: 2,
    aspect: 0.5,
    opacity: 1,
    visible: true,
    locked: false,
  };
  const { dispatch, document } = bench({ ...demo, pictures: [picture, { ...picture, id: 'other' }] });
  dispatch(changePicture('plan', 'Lock', (old) => ({ ...old, locked: true })));
  expect(document().pictures.map(({ locked }) => locked)).toEqual([true, false]);
  dispatch(deletePicture('plan', 'Plan'));
  expect(document().pictures.map(({ id }) => id)).toEqual(['other']);
});
