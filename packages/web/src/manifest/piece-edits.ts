import {
  curveIdsOf,
  type Detail,
  findUnit,
  freeName,
  type KelpDocument,
  type Piece,
  type UnitUse,
  unitAt,
  withoutPiece,
  withParameter,
} from '@kelp/core';
import type { AppDispatch, AppState } from '../app/store.js';
import { edit, newId } from '../state/edits.js';
import { piecesChosen } from '../state/view-slice.js';

/** "Mooring line", or "3 pieces": how the history speaks of them. */
export const wordsFor = (pieces: readonly Piece[]): string =>
  pieces.length === 1 ? pieces[0].name : `${pieces.length} pieces`;

/** Changes each of the pieces in one step. */
export const editPieces = (
  pieces: readonly Piece[],
  label: string,
  change: (piece: Piece) => Piece,
  gesture?: string,
) => {
  const ids = new Set(pieces.map(({ id }) => id));
  const all = (document: KelpDocument) => ({
    ...document,
    pieces: document.pieces.map((piece) => (ids.has(piece.id) ? change(piece) : piece)),
  });
  return edit(label, all, gesture);
};

export const showPieces = (pieces: readonly Piece[], visible: boolean) =>
  editPieces(pieces, `${visible ? 'Show' : 'Hide'} ${wordsFor(pieces)}`, (piece) => ({ ...piece, visible }));

/** Shows the pieces so; where they all are already, nothing is done that would have to be undone. */
export const detailPieces =
  (pieces: readonly Piece[], detail: Detail | undefined) =>
  (dispatch: AppDispatch): void => {
    if (pieces.every((piece) => piece.detail === detail)) return;
    const label = `${DETAIL_WORDS[detail ?? 'full']}: ${wordsFor(pieces)}`;
    dispatch(editPieces(pieces, label, (piece) => ({ ...piece, detail })));
  };

/** How much of a piece is shown, in words. */
export const DETAIL_WORDS = { path: 'Line only', draft: 'Draft', full: 'Full detail' } as const;

export const lockPieces = (pieces: readonly Piece[], locked: boolean) =>
  editPieces(pieces, `${locked ? 'Lock' : 'Unlock'} ${wordsFor(pieces)}`, (piece) => ({ ...piece, locked }));

export const renamePiece = (piece: Piece, name: string) =>
  editPieces([piece], `Rename ${piece.name}`, (now) => ({ ...now, name }));

/** The first colour that a dressing declares: what the manifest shows of a piece. */
export const colourOf = (use: UnitUse): string | undefined =>
  Object.entries(findUnit(use.unit)?.parameters ?? {}).find(([, { kind }]) => kind === 'colour')?.[0];

export const colourPieces = (pieces: readonly Piece[], colour: string, gesture: string) =>
  editPieces(
    pieces,
    `Colour of ${wordsFor(pieces)}`,
    (piece) => {
      const place = { stage: 'dress' } as const;
      const use = unitAt(piece, place);
      const name = use && colourOf(use);
      return name ? withParameter(piece, place, name, colour) : piece;
    },
    gesture,
  );

/** Takes the pieces out, but for locked ones. */
export const deletePieces =
  (pieces: readonly Piece[]) =>
  (dispatch: AppDispatch): void => {
    const free = pieces.filter(({ locked }) => !locked);
    if (free.length === 0) return;
    dispatch(
      edit(`Delete ${wordsFor(free)}`, (document) => free.reduce((now, { id }) => withoutPiece(now, id), document)),
    );
    dispatch(piecesChosen([]));
  };

/** Second pieces like these, each with lines of its own, so that changing one leaves the first alone. */
export const duplicatePieces =
  (pieces: readonly Piece[]) =>
  (dispatch: AppDispatch, getState: () => AppState): void => {
    const { document } = getState().project;
    if (!document) return;
    const names = [...document.pieces];
    const copies = pieces.map((piece) => {
      const copy = copyOf(piece, document, freeName(piece.name.replace(/ \d+$/, ''), names));
      names.push(copy.piece);
      return copy;
    });
    dispatch(
      edit(`Duplicate ${wordsFor(pieces)}`, (now) => ({
        ...now,
        curves: [...now.curves, ...copies.flatMap(({ curves }) => curves)],
        pieces: now.pieces.flatMap((old) => [
          old,
          ...copies.filter(({ of }) => of === old.id).map(({ piece }) => piece),
        ]),
      })),
    );
    dispatch(piecesChosen(copies.map(({ piece }) => piece.id)));
  };

/** Kept states stay with the first: they hold its lines, not those of the copy. */
function copyOf(original: Piece, document: KelpDocument, name: string) {
  const of = curveIdsOf(original).flatMap((id) => document.curves.find((candidate) => candidate.id === id) ?? []);
  const curves = of.map((curve) => ({ ...curve, id: newId() }));
  const ids = new Map(of.map(({ id }, i) => [id, curves[i].id]));
  const named = Object.entries(findUnit(original.path.unit)?.parameters ?? {}).filter(
    ([, { kind }]) => kind === 'curves',
  );
  const parameters = Object.fromEntries(
    named.map(([name]) => [name, (original.path.parameters[name] as string[]).flatMap((id) => ids.get(id) ?? [])]),
  );
  const { variants: _, ...rest } = original;
  const piece: Piece = {
    ...rest,
    id: newId(),
    name,
    locked: false,
    path: { ...original.path, parameters: { ...original.path.parameters, ...parameters } },
  };
  return { of: original.id, piece, curves };
}

/** Hides every other piece; where they are all hidden already, shows all again. */
export const isolatePieces = (pieces: readonly Piece[]) =>
  edit(`Show only ${wordsFor(pieces)}`, (document) => {
    const ids = new Set(pieces.map(({ id }) => id));
    const alone = document.pieces.every((piece) => piece.visible === ids.has(piece.id));
    return {
      ...document,
      pieces: document.pieces.map((piece) => ({ ...piece, visible: alone || ids.has(piece.id) })),
    };
  });

/** Moves a piece up or down in the list, which is also the order of baking. */
export const movePiece = ({ id, name }: Piece, by: 1 | -1) =>
  edit(`Reorder ${name}`, (document) => {
    const from = document.pieces.findIndex((piece) => piece.id === id);
    const to = from + by;
    if (from < 0 || to < 0 || to >= document.pieces.length) return document;
    return { ...document, pieces: document.pieces.toSpliced(from, 1).toSpliced(to, 0, document.pieces[from]) };
  });
