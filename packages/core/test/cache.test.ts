import fc from 'fast-check';
import { expect, it } from 'vitest';
import {
  type Build,
  createCache,
  evaluatePiece,
  HOME,
  type KelpDocument,
  newPiece,
  newShape,
  type Piece,
  realMesh,
  SurfaceStore,
  World,
} from '../src/index.js';
import { bunnyMesh } from './helpers.js';
import { lyingOnBunny } from './projects.js';

const surfaces = new SurfaceStore();
surfaces.add('bunny', { ...bunnyMesh(), normal: new Float32Array(0) } as never);

function beginning(): KelpDocument {
  const { document } = lyingOnBunny();
  const free = [0, 1, 2, 3].map((i) => ({
    position: [0.05 * i, 0.2 + 0.02 * Math.sin(2 * i), 0.1] as [number, number, number],
    corner: i === 2,
    radius: 1,
  }));
  return {
    ...document,
    curves: [...document.curves, { id: 'free', name: 'Free', closed: false, points: free }],
    pieces: [...document.pieces, newPiece('other', 'Other', ['free'], false)],
  };
}

const onPiece = (document: KelpDocument, at: number, change: (piece: Piece) => Piece): KelpDocument => {
  const index = at % document.pieces.length;
  return { ...document, pieces: document.pieces.with(index, change(document.pieces[index])) };
};
const setMake =
  (name: string, value: number) =>
  (piece: Piece): Piece => ({
    ...piece,
    make: { ...piece.make, parameters: { ...piece.make.parameters, [name]: value } },
  });

/** What people do, each as the workbench does it: what changes is replaced, the rest stays the same object. */
const EDITS: Record<string, (document: KelpDocument, n: number) => KelpDocument> = {
  twist: (document, n) => onPiece(document, n, setMake('twist', (n % 7) - 3)),
  radius: (document, n) => onPiece(document, n, setMake('radius', 0.001 + 0.0001 * (n % 9))),
  sides: (document, n) => onPiece(document, n, setMake('sides', 5 + (n % 6))),
  'add a shape': (document, n) =>
    onPiece(document, n, (piece) => ({
      ...piece,
      shape: [...piece.shape, newShape(['smooth', 'resample', 'wobble'][n % 3])].slice(-3),
    })),
  'switch a shape': (document, n) =>
    onPiece(document, n, (piece) => ({
      ...piece,
      shape: piece.shape.map((use, i) => (i === n % piece.shape.length ? { ...use, enabled: !use.enabled } : use)),
    })),
  'drag a point': (document, n) => {
    const c = n % document.curves.length;
    const curve = document.curves[c];
    const p = n % curve.points.length;
    const [x, y, z] = curve.points[p].position;
    const points = curve.points.with(p, { ...curve.points[p], anchor: undefined, position: [x, y + 0.003, z] });
    return { ...document, curves: document.curves.with(c, { ...curve, points }) };
  },
  'move the prop': (document, n) => ({
    ...document,
    props: document.props.map((prop) => ({
      ...prop,
      placement: { ...HOME, position: [0.01 * (n % 4), 0, 0] as [number, number, number] },
    })),
  }),
  'hide the prop': (document) => ({
    ...document,
    props: document.props.map((prop) => ({ ...prop, visible: !prop.visible })),
  }),
  'swap the pieces': (document) => ({ ...document, pieces: document.pieces.toReversed() }),
};

/** All that a build says, without the memory it lies in. */
const said = ({ piece, guide, parts, materials, findings, measures }: Build) => ({
  piece,
  guide: [...guide.position],
  parts: parts.map((part) => {
    const { position, index } = realMesh(part);
    return { name: part.name, position: [...position], index: [...index] };
  }),
  materials,
  findings,
  measures,
});

it('what is kept from edit to edit is what is made anew, whatever was done, undone and done again', () => {
  const step = fc.record({
    edit: fc.constantFrom(...Object.keys(EDITS), 'undo'),
    n: fc.nat(1000),
    density: fc.constantFrom(1, 0.5),
  });
  fc.assert(
    fc.property(fc.array(step, { minLength: 1, maxLength: 7 }), (steps) => {
      const cache = createCache();
      const past = [beginning()];
      const all = (document: KelpDocument, density: number, kept?: typeof cache) => {
        const world = new World(document, surfaces.surroundings(document), kept);
        return document.pieces.map((piece) => said(evaluatePiece(world, piece, { density })));
      };
      all(past[0], 1, cache);
      for (const { edit, n, density } of steps) {
        if (edit === 'undo') past.splice(1, past.length > 1 ? 1 : 0);
        else past.unshift(EDITS[edit](past[0], n));
        expect(all(past[0], density, cache)).toEqual(all(past[0], density));
      }
    }),
    { numRuns: 25 },
  );
});
