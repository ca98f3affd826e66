import {
  type AnchorPick,
  connectionId,
  type DrawnPoint,
  freeName,
  type KelpDocument,
  keyOfPick,
  type LinkChange,
  newPiece,
  type Piece,
  withPiece,
} from '@kelp/core';
import type { AppDispatch, AppState } from '../app/store.js';
import { edit, newId } from '../state/edits.js';
import { linkChosen, pieceChosen } from '../state/view-slice.js';

/** A connection between two anchors, by their stable numbers. */
export interface Link {
  from: number;
  to: number;
}

/** Places of one thing that are named: of a line or an arm, both ends and a few more. */
const NAMED = 8;

export const anchorsOf = (piece: Piece): readonly AnchorPick[] =>
  (piece.path.parameters['anchors'] as readonly AnchorPick[] | undefined) ?? [];

/** What the anchors of a piece are called, by their stable numbers; of things with several places, each. */
export function anchorNames(document: KelpDocument, piece: Piece): Map<number, string> {
  const out = new Map<number, string>();
  let places = 0;
  for (const pick of anchorsOf(piece)) {
    const list = { prop: document.props, piece: document.pieces, curve: document.curves };
    const name =
      pick.on === 'place'
        ? `Point ${++places}`
        : (list[pick.on].find(({ id }) => id === pick.id)?.name ?? `Deleted ${pick.on}`);
    for (let k = 0; k < NAMED; k++) out.set(keyOfPick(pick, k), k === 0 ? name : `${name}, ${k + 1}`);
  }
  return out;
}

const same = (a: Link, b: Link): boolean => connectionId(a.from, a.to) === connectionId(b.from, b.to);

const withChanges = (piece: Piece, change: (now: readonly LinkChange[]) => readonly LinkChange[]): Piece => {
  const { path } = piece;
  const changes = change((path.parameters['changes'] as readonly LinkChange[]) ?? []);
  return { ...piece, path: { ...path, parameters: { ...path.parameters, changes } } };
};

/** Takes one connection out, leads it elsewhere or adds one; what was done to it before gives way. */
export const changeLink = (piece: Piece, words: string, change: LinkChange) =>
  edit(`${words} of ${piece.name}`, (document) =>
    withPiece(document, piece.id, (now) =>
      withChanges(now, (changes) => {
        const others = changes.filter((one) => !same(one, change));
        // an added one that is taken out was never there
        const added = changes.some((one) => same(one, change) && one.how === 'added');
        return change.how === 'out' && added ? others : [...others, change];
      }),
    ),
  );

/** A line that hangs becomes one that is drawn: a piece of its own along it, and the connection is taken out. */
export const drawByHand =
  (piece: Piece, link: Link, points: DrawnPoint[]) =>
  (dispatch: AppDispatch, getState: () => AppState): void => {
    const { document } = getState().project;
    if (!document || points.length < 2) return;
    const curve = { id: newId(), name: freeName('Line', document.curves), closed: false, points };
    const begun = newPiece(newId(), freeName(piece.name, document.pieces), [curve.id], false);
    const { make, dress, bake } = piece;
    const { from, to } = link;
    const own: Piece = { ...begun, shape: [], make, dress, bake };
    dispatch(
      edit(`Draw a line of ${piece.name} by hand`, (now) => {
        const without = withPiece(now, piece.id, (old) =>
          withChanges(old, (changes) => [...changes.filter((one) => !same(one, link)), { from, to, how: 'out' }]),
        );
        return { ...without, curves: [...now.curves, curve], pieces: [...without.pieces, own] };
      }),
    );
    dispatch(linkChosen(null));
    dispatch(pieceChosen(own.id));
  };
