import { type AnchorPick, freeName, newPiece, newUse, sizeParameter, withParameter, withPiece } from '@kelp/core';
import type { AppDispatch, AppState } from '../app/store.js';
import { edit, newId } from '../state/edits.js';
import { floatOpened, penTakenInto, pieceChosen } from '../state/view-slice.js';
import { anchorsOf } from './link-edits.js';

/** A new line is this many times as long as it is thick, or thinner. */
const MIN_LENGTH_RADII = 160;

/** Leads a strung piece on to one more thing; without one, a new piece hangs between the two. */
export const stringTo =
  (into: string | null, [from, to]: readonly [AnchorPick, AnchorPick], far: number) =>
  (dispatch: AppDispatch, getState: () => AppState): void => {
    const { document } = getState().project;
    if (!document) return;
    const known = document.pieces.find(({ id }) => id === into);
    if (known) {
      dispatch(
        edit(`Add ${known.name} to the string`, (now) =>
          withPiece(now, known.id, (piece) =>
            withParameter(piece, { stage: 'path' }, 'anchors', [...anchorsOf(piece), to]),
          ),
        ),
      );
      return;
    }
    const made = newPiece(newId(), freeName('Strung', document.pieces), [], false);
    const use = newUse('path', 'strung');
    const size = sizeParameter(made.make.unit) ?? '';
    const radius = Math.min(made.make.parameters[size] as number, +(far / MIN_LENGTH_RADII).toPrecision(1));
    const path = { ...use, parameters: { ...use.parameters, anchors: [from, to] } };
    const piece = withParameter({ ...made, path, shape: [] }, { stage: 'make' }, size, radius);
    dispatch(edit(`String ${piece.name}`, (now) => ({ ...now, pieces: [...now.pieces, piece] })));
    dispatch(pieceChosen(piece.id));
    dispatch(floatOpened('path'));
    // the next click leads it on
    dispatch(penTakenInto({ pen: 'string', piece: piece.id }));
  };
