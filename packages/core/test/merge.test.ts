import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  differences,
  type KelpDocument,
  merged,
  newPiece,
  parseDocument,
  type Side,
  withCurve,
  withoutPiece,
  withParameter,
  withPiece,
} from '../src/index.js';
import { alongPoints } from './projects.js';

/** Four pieces, each along a line of its own. */
const base: KelpDocument = (() => {
  const { document } = alongPoints([
    [0, 0, 0],
    [1, 0, 0],
  ]);
  const [line] = document.curves;
  const ids = ['a', 'b', 'c', 'd'];
  return {
    ...document,
    curves: ids.map((id) => ({ ...line, id: `line-${id}` })),
    pieces: ids.map((id) => newPiece(id, id.toUpperCase(), [`line-${id}`], false)),
  };
})();

type Edit = (document: KelpDocument) => KelpDocument;
const edit = (ids: string[], side: number) =>
  fc.constantFrom(...ids).chain((id) =>
    fc.constantFrom<Edit>(
      (document) => withPiece(document, id, (piece) => withParameter(piece, { stage: 'make' }, 'radius', 0.01 * side)),
      (document) =>
        withCurve(document, `line-${id}`, (curve) => ({ ...curve, closed: side === 1, name: `By ${side}` })),
      (document) => withoutPiece(document, id),
      (document) => ({
        ...document,
        pieces: [
          ...document.pieces.filter((piece) => piece.id !== `new-${side}`),
          newPiece(`new-${side}`, 'New', [], false),
        ],
      }),
      (document) => ({ ...document, name: `Named by ${side}` }),
    ),
  );
const after = (edits: readonly Edit[]) => edits.reduce((document, one) => one(document), base);
const edits = (ids: string[], side: number) => fc.array(edit(ids, side), { maxLength: 5 });
const byId = (document: KelpDocument) => ({
  ...document,
  pieces: document.pieces.toSorted((x, y) => x.id.localeCompare(y.id)),
  curves: document.curves.toSorted((x, y) => x.id.localeCompare(y.id)),
});
const all = (mine: KelpDocument, theirs: KelpDocument, side: Side) =>
  new Map(differences(base, mine, theirs).map(({ key }) => [key, side]));

describe('two people on one project', () => {
  it('who changed different pieces lose nothing: the order does not matter', () => {
    fc.assert(
      fc.property(edits(['a', 'b'], 1), edits(['c', 'd'], 2), (one, two) => {
        const both = merged(base, after(one), after(two));
        const { name: _, ...rest } = byId(both);
        const { name: __, ...wanted } = byId(after([...one, ...two]));
        expect(rest).toEqual(wanted);
        expect(parseDocument(JSON.parse(JSON.stringify(both)))).toEqual(both);
      }),
    );
  });

  it('each side can be taken whole, and what differs is reported by name', () => {
    fc.assert(
      fc.property(edits(['a', 'b', 'c'], 1), edits(['b', 'c', 'd'], 2), (one, two) => {
        const [mine, theirs] = [after(one), after(two)];
        const reported = differences(base, mine, theirs);
        for (const { mine: here, theirs: there, suggested } of reported) {
          expect(here === 'unchanged' && there === 'unchanged').toBe(false);
          if (here === 'unchanged') expect(suggested).toBe('theirs');
          if (there === 'unchanged') expect(suggested).toBe('mine');
        }
        const name = mine.name === base.name ? theirs.name : mine.name;
        expect(byId(merged(base, mine, theirs, all(mine, theirs, 'theirs')))).toEqual({ ...byId(theirs), name });
        expect(byId(merged(base, mine, theirs, all(mine, theirs, 'mine')))).toEqual({ ...byId(mine), name });
        expect(differences(base, mine, mine)).toEqual([]);
      }),
    );
  });
});
