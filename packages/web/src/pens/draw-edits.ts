import { type DrawnPoint, type KelpDocument, newPiece, withCurve } from '@kelp/core';
import type { AppDispatch, AppState } from '../app/store.js';
import { edit, freeName, newId } from '../state/edits.js';
import { floatOpened, penTaken, pieceChosen, pointChosen } from '../state/view-slice.js';

/** A new line is at least so many radii long. */
const THINNEST = 40;

/** A finished line becomes a curve and a piece along it, chosen and open at Make. */
export const lineDrawn =
  (points: DrawnPoint[], closed: boolean) =>
  (dispatch: AppDispatch, getState: () => AppState): void => {
    const { document } = getState().project;
    if (!document || points.length < 2) return;
    const curve = { id: newId(), name: freeName('Line', document.curves), closed, points };
    const made = newPiece(
      newId(),
      freeName('Cable', document.pieces),
      [curve.id],
      points.some((point) => point.anchor),
    );
    const piece = {
      ...made,
      make: {
        ...made.make,
        parameters: {
          ...made.make.parameters,
          radius: fittingRadius(made.make.parameters['radius'] as number, points),
        },
      },
    };
    dispatch(
      edit('Draw a line', (now) => ({ ...now, curves: [...now.curves, curve], pieces: [...now.pieces, piece] })),
    );
    dispatch(penTaken(null));
    dispatch(pieceChosen(piece.id));
    dispatch(floatOpened('make'));
  };

/** The usual radius, or a round one that a line so short can carry: a cable as thick as it is long shows nothing. */
function fittingRadius(usual: number, points: readonly DrawnPoint[]): number {
  const length = points.reduce(
    (sum, point, i) => (i === 0 ? 0 : sum + distance(points[i - 1].position, point.position)),
    0,
  );
  return Math.min(usual, +(length / THINNEST).toPrecision(1));
}

const distance = (a: readonly number[], b: readonly number[]): number =>
  Math.hypot(a[0] - b[0], a[1] - b[1], a[2] - b[2]);

export interface PointPlace {
  curve: string;
  index: number;
}

const withPoint = (
  document: KelpDocument,
  { curve, index }: PointPlace,
  change: (point: DrawnPoint) => DrawnPoint,
): KelpDocument =>
  withCurve(document, curve, (old) => ({
    ...old,
    points: old.points.map((point, i) => (i === index ? change(point) : point)),
  }));

/** Moves a point; its corner and thickness stay. All moves of one `gesture` are one step. */
export const movePoint = (place: PointPlace, to: Pick<DrawnPoint, 'position' | 'anchor'>, gesture?: string) =>
  edit(
    'Move a point',
    (document) => withPoint(document, place, ({ corner, radius }) => ({ ...to, corner, radius })),
    gesture,
  );

export const setPointCorner = (place: PointPlace, corner: boolean) =>
  edit(corner ? 'Make a point a corner' : 'Make a point smooth', (document) =>
    withPoint(document, place, (point) => ({ ...point, corner })),
  );

/** Takes a point out. A line keeps two. */
export const deletePoint =
  (place: PointPlace) =>
  (dispatch: AppDispatch, getState: () => AppState): void => {
    const curve = getState().project.document?.curves.find((candidate) => candidate.id === place.curve);
    if (!curve || curve.points.length <= 2) return;
    dispatch(
      edit('Delete a point', (document) =>
        withCurve(document, place.curve, (old) => ({ ...old, points: old.points.filter((_, i) => i !== place.index) })),
      ),
    );
    dispatch(pointChosen(null));
  };

/** Puts a point before `place.index` and chooses it. */
export const insertPoint =
  (place: PointPlace, point: DrawnPoint) =>
  (dispatch: AppDispatch): void => {
    dispatch(
      edit('Insert a point', (document) =>
        withCurve(document, place.curve, (old) => ({ ...old, points: old.points.toSpliced(place.index, 0, point) })),
      ),
    );
    dispatch(pointChosen(place));
  };

export const setCurveClosed = (curve: string, closed: boolean) =>
  edit(closed ? 'Close a line' : 'Open a line', (document) =>
    withCurve(document, curve, (old) => ({ ...old, closed })),
  );
