import { freeName, knownUnit, MAIN_SLOT, newPiece, newUse, type WheelPick, withParameter, withPiece } from '@kelp/core';
import type { AppDispatch, AppState } from '../app/store.js';
import { edit, newId } from '../state/edits.js';
import { floatOpened, penTakenInto, pieceChosen } from '../state/view-slice.js';
import { wheelsIn } from './WheelGrips.js';

/** Adds a wheel to a piece that runs round wheels; without one, a new piece begins with it. */
export const wheelAdded =
  (into: string | null, pick: WheelPick, axis: readonly [number, number, number]) =>
  (dispatch: AppDispatch, getState: () => AppState): void => {
    const { document } = getState().project;
    if (!document) return;
    const known = document.pieces.find(({ id }) => id === into);
    const list = known && wheelsIn(known);
    if (known && list) {
      dispatch(
        edit(`Add a wheel to ${known.name}`, (now) =>
          withPiece(now, known.id, (piece) => {
            const first =
              list.wheels.length === 0 ? withParameter(piece, { stage: 'path' }, list.axisName, axis) : piece;
            return withParameter(first, { stage: 'path' }, list.name, [...list.wheels, pick]);
          }),
        ),
      );
      return;
    }
    const begins = knownUnit('path', 'wheels')?.begins;
    const use = newUse('path', 'wheels');
    const begun = newPiece(newId(), freeName('Belt', document.pieces), [], false);
    const piece = {
      ...begun,
      path: { ...use, parameters: { ...use.parameters, wheels: [pick], axis } },
      shape: [],
      ...(begins ? { make: newUse('make', begins.make), dress: { [MAIN_SLOT]: newUse('dress', begins.dress) } } : {}),
    };
    dispatch(edit(`Add ${piece.name}`, (now) => ({ ...now, pieces: [...now.pieces, piece] })));
    dispatch(pieceChosen(piece.id));
    dispatch(floatOpened('path'));
    // the next click goes on with it
    dispatch(penTakenInto({ pen: 'wheels', piece: piece.id }));
  };
