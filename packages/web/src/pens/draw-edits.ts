import {
  breadthOf,
  curveIdsOf,
  curvesParameter,
  type DrawnPoint,
  distance,
  freeName,
  greatest,
  type KelpDocument,
  newPiece,
  type ShapeUse,
  sizeParameter,
  thicknessOf,
  withCurve,
  withParameter,
  withPiece,
} from '@kelp/core';
import type { AppDispatch, AppState } from '../app/store.js';
import { edit, newId } from '../state/edits.js';
import { floatOpened, type PointPlace, penTaken, pieceChosen, pointChosen } from '../state/view-slice.js';
import type { Reach } from './clearance.js';

/** A new line lies on what is nearer than this many of its radii; one that was laid already only on what it touches. */
const AROUND = 16;
const TOUCHED = 2.5;
/** What is taken for the radius of a piece that says none, metres. */
const USUAL = 0.01;
/** A new line is at least this many radii long. */
const MIN_LENGTH_RADII = 40;

/** A finished line becomes a curve and a piece along it, chosen and open at Make; or it joins the piece the pen draws into. */
export const lineDrawn =
  (points: DrawnPoint[], closed: boolean, { shape, laid }: { shape?: ShapeUse; laid?: boolean } = {}) =>
  (dispatch: AppDispatch, getState: () => AppState): void => {
    const { document } = getState().project;
    const { into } = getState().view;
    if (!document || points.length < 2) return;
    const curve = { id: newId(), name: freeName('Line', document.curves), closed, points };
    const joined = document.pieces.find((candidate) => candidate.id === into);
    if (joined) {
      const curves = [...curveIdsOf(joined), curve.id];
      dispatch(
        edit(`Draw another line into ${joined.name}`, (now) =>
          withPiece({ ...now, curves: [...now.curves, curve] }, joined.id, (piece) =>
            withParameter(piece, { stage: 'path' }, curvesParameter(piece.path.unit) ?? '', curves),
          ),
        ),
      );
      dispatch(penTaken(null));
      return;
    }
    const onProp = !shape && points.some((point) => point.anchor);
    const made = newPiece(newId(), freeName('Cable', document.pieces), [curve.id], onProp);
    const size = sizeParameter(made.make.unit) ?? '';
    const fitted = fittingRadius(made.make.parameters[size] as number, points);
    // what was drawn in the air, or past a prop, stays there: it lies on what it was drawn on
    const lying = made.shape.map((use) => ({
      ...use,
      parameters: { ...use.parameters, reach: (laid ? TOUCHED : AROUND) * fitted },
    }));
    const piece = withParameter({ ...made, shape: shape ? [shape] : lying }, { stage: 'make' }, size, fitted);
    dispatch(
      edit('Draw a line', (now) => ({ ...now, curves: [...now.curves, curve], pieces: [...now.pieces, piece] })),
    );
    dispatch(penTaken(null));
    dispatch(pieceChosen(piece.id));
    dispatch(floatOpened('make'));
  };

/** The radius of what will run along a line: of the piece it is drawn into, or of a new one. */
function radiusFor(document: KelpDocument | null, into: string | null, points: readonly DrawnPoint[]): number {
  const joined = document?.pieces.find(({ id }) => id === into);
  const usual = greatest(thicknessOf(joined ?? newPiece('', '', [], false))) || USUAL;
  return joined ? usual : fittingRadius(usual, points);
}

/** How far the skin of what will hang along a line is from it at least, and at most to any side. */
export function reachFor(document: KelpDocument | null, into: string | null, points: readonly DrawnPoint[]): Reach {
  const near = radiusFor(document, into, points);
  const joined = document?.pieces.find(({ id }) => id === into);
  return { near, far: joined ? Math.max(near, greatest(breadthOf(joined))) : near };
}

/** The usual radius, or a round one that a line so short can carry: a cable as thick as it is long shows nothing. */
function fittingRadius(usual: number, points: readonly DrawnPoint[]): number {
  const length = points.reduce(
    (sum, point, i) => (i === 0 ? 0 : sum + distance(points[i - 1].position, point.position)),
    0,
  );
  return Math.min(usual, +(length / MIN_LENGTH_RADII).toPrecision(1));
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

/** Moves a point; all else of it stays. All moves of one `gesture` are one step. */
export const movePoint = (place: PointPlace, to: Pick<DrawnPoint, 'position' | 'anchor'>, gesture?: string) =>
  edit(
    'Move a point',
    (document) =>
      withPoint(document, place, ({ position: _position, anchor: _anchor, ...kept }) => ({ ...kept, ...to })),
    gesture,
  );

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
