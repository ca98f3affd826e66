import {
  curveIdsOf,
  findUnit,
  freeName,
  greatest,
  knownUnit,
  MAIN_SLOT,
  newPiece,
  newShape,
  newUse,
  type ParameterValue,
  type Piece,
  presetParameters,
  thicknessOf,
  unitOf,
  type WheelPick,
  withPiece,
} from '@kelp/core';
import type { AppDispatch, AppState } from '../app/store.js';
import { edit, newId } from '../state/edits.js';
import { floatOpened, pieceChosen } from '../state/view-slice.js';

/** Keeping off the props, by its preset of that name. */
const CLEAR = presetParameters(unitOf('shape', 'cling'), 'clear');

/** A path unit with its settings, fitted to what is there: the prop that is chosen, a place, a line so far off the props. */
function fittedUse(unit: string, { project, view }: AppState, off: number, at?: readonly [number, number, number]) {
  const use = newUse('path', unit);
  const parameters: Record<string, ParameterValue> = { ...use.parameters };
  const declared = findUnit(unit)?.parameters ?? {};
  const props = project.document?.props.filter((prop) => prop.visible) ?? [];
  const prop = props.find(({ id }) => id === view.prop) ?? props[0];
  for (const [name, parameter] of Object.entries(declared)) {
    if (parameter.kind === 'prop' && prop) parameters[name] = prop.id;
    if (parameter.kind === 'point' && parameter.grip?.kind === 'place' && at)
      parameters[name] = [at[0], at[1] + off, at[2]];
    if (parameter.kind === 'length' && parameter.gauge === 'distance') parameters[name] = off;
    if (parameter.kind === 'wheels' && at) parameters[name] = twoWheels(at, Number(parameters[parameter.radius]), off);
  }
  return { ...use, parameters };
}

/** Two wheels beside each other that are clear of what is under them. */
function twoWheels([x, y, z]: readonly [number, number, number], radius: number, off: number): WheelPick[] {
  const high = y + 1.2 * radius + 2 * off;
  return [-2, 2].map((far) => ({ id: newId(), position: [x + far * radius, high, z] }));
}

/** How far the line of a piece stands off what the piece lies on, metres: a hair more than it reaches. */
const reachOf = (piece: Piece): number => 1.02 * greatest(thicknessOf(piece));

/** A new piece whose path is not drawn but computed: beside the props, not in them, and it stays there when it grows. */
export const addPiece =
  (unit: string, at: readonly [number, number, number]) =>
  (dispatch: AppDispatch, getState: () => AppState): void => {
    const { document } = getState().project;
    const label = findUnit(unit)?.label ?? 'Piece';
    const begun = newPiece(newId(), freeName(label, document?.pieces ?? []), [], false);
    const path = fittedUse(unit, getState(), reachOf(begun), at);
    const begins = knownUnit('path', unit)?.begins;
    const shape = !begins && document?.props.length ? [newShape('cling', CLEAR)] : [];
    const piece: Piece = {
      ...begun,
      path,
      shape,
      ...(begins ? { make: newUse('make', begins.make), dress: { [MAIN_SLOT]: newUse('dress', begins.dress) } } : {}),
    };
    dispatch(edit(`Add ${piece.name}`, (now) => ({ ...now, pieces: [...now.pieces, piece] })));
    dispatch(pieceChosen(piece.id));
    dispatch(floatOpened('path'));
  };

/** Another source for a piece's path; what it was drawn along stays in the project and can be chosen again. */
export const setPathUnit =
  (piece: Piece, unit: string, at?: readonly [number, number, number]) =>
  (dispatch: AppDispatch, getState: () => AppState): void => {
    const use = fittedUse(unit, getState(), reachOf(piece), at);
    // what it was drawn along goes on being named where the new source takes lines too
    const curves = [...curveIdsOf(piece)];
    const named = Object.entries(findUnit(unit)?.parameters ?? {}).filter(([, { kind }]) => kind === 'curves');
    // the first of them: others are for lines of another kind
    const lines = curves.length > 0 ? Object.fromEntries(named.slice(0, 1).map(([name]) => [name, curves])) : {};
    const parameters = { ...use.parameters, ...lines };
    dispatch(
      edit(`Path of ${piece.name}`, (document) =>
        withPiece(document, piece.id, (now) => ({ ...now, path: { ...use, parameters } })),
      ),
    );
  };
