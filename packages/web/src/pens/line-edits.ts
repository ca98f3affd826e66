import {
  curveIdsOf,
  curvesParameter,
  type DrawnCurve,
  evenOut,
  freeName,
  joinedCurve,
  type KelpDocument,
  reversedCurve,
  type Surroundings,
  setPoints,
  shiftPoints,
  smoothStretch,
  splitCurve,
  straighten,
  turnRest,
  withCurve,
  withParameter,
  withPiece,
} from '@kelp/core';
import type { AppDispatch, AppState } from '../app/store.js';
import { edit, newId } from '../state/edits.js';
import { type PointPlace, pointChosen, pointsChosen } from '../state/view-slice.js';

/** Chosen points by the curve they belong to. */
export function byCurve(points: readonly PointPlace[]): Map<string, number[]> {
  const out = new Map<string, number[]>();
  for (const { curve, index } of points) out.set(curve, [...(out.get(curve) ?? []), index]);
  return out;
}

type Change = (curve: DrawnCurve, chosen: number[], surroundings: Surroundings) => DrawnCurve;

/** One step of undo over all curves that have chosen points. */
const onCurves = (
  label: string,
  points: readonly PointPlace[],
  surroundings: Surroundings,
  change: Change,
  gesture?: string,
) =>
  edit(
    label,
    (document) => {
      const chosen = byCurve(points);
      return [...chosen].reduce(
        (now, [id, indices]) => withCurve(now, id, (curve) => change(curve, indices, surroundings)),
        document,
      );
    },
    gesture,
  );

const count = (points: readonly PointPlace[]) => (points.length === 1 ? 'a point' : `${points.length} points`);

export const shiftChosen = (
  points: readonly PointPlace[],
  by: [number, number, number],
  s: Surroundings,
  gesture?: string,
) => onCurves(`Move ${count(points)}`, points, s, (curve, chosen) => shiftPoints(curve, chosen, by, s), gesture);

export const setChosen = (
  points: readonly PointPlace[],
  values: Parameters<typeof setPoints>[2],
  s: Surroundings,
  gesture?: string,
) => onCurves(`Change ${count(points)}`, points, s, (curve, chosen) => setPoints(curve, chosen, values), gesture);

export const smoothChosen = (points: readonly PointPlace[], s: Surroundings) =>
  onCurves('Smooth points', points, s, smoothStretch);
export const straightenChosen = (points: readonly PointPlace[], s: Surroundings) =>
  onCurves('Straighten points', points, s, straighten);
export const evenOutChosen = (points: readonly PointPlace[], s: Surroundings) =>
  onCurves('Even out points', points, s, evenOut);

export const turnChosen = (
  { curve, index }: PointPlace,
  which: 'after' | 'before',
  axis: [number, number, number],
  angle: number,
  s: Surroundings,
) =>
  edit('Rotate part of a line', (document) =>
    withCurve(document, curve, (old) => turnRest(old, index, which, axis, angle, s)),
  );

export const reverseCurves = (ids: readonly string[]) =>
  edit(ids.length === 1 ? 'Reverse a line' : `Reverse ${ids.length} lines`, (document) => ({
    ...document,
    curves: document.curves.map((curve) => (ids.includes(curve.id) ? reversedCurve(curve) : curve)),
  }));

/** Takes all chosen points out; every line keeps two. */
export const deleteChosen =
  (points: readonly PointPlace[]) =>
  (dispatch: AppDispatch): void => {
    const chosen = byCurve(points);
    dispatch(
      edit(`Delete ${count(points)}`, (document) =>
        [...chosen].reduce(
          (now, [id, indices]) =>
            withCurve(now, id, (curve) => {
              const kept = curve.points.filter((_, i) => !indices.includes(i));
              const least = curve.points.filter((_, i) => i === 0 || i === curve.points.length - 1);
              return { ...curve, points: kept.length >= 2 ? kept : least, closed: curve.closed && kept.length > 2 };
            }),
          document,
        ),
      ),
    );
    dispatch(pointChosen(null));
  };

/** Replaces one curve of a piece by others, in its place in the list. */
function withCurvesOf(document: KelpDocument, pieceId: string, old: string, made: readonly DrawnCurve[]): KelpDocument {
  const keepsId = made.some(({ id }) => id === old);
  const curves = document.curves.flatMap((curve) => (curve.id === old ? made : [curve]));
  return withPiece({ ...document, curves }, pieceId, (piece) => {
    const ids = curveIdsOf(piece).flatMap((id) => (id === old ? made.map((curve) => curve.id) : [id]));
    return keepsId && made.length === 1
      ? piece
      : withParameter(piece, { stage: 'path' }, curvesParameter(piece.path.unit) ?? '', ids);
  });
}

/** "Line 2" is followed by the first free "Line n". */
const nextName = (name: string, taken: readonly DrawnCurve[]): string => freeName(name.replace(/ \d+$/, ''), taken);

/** Cuts a line at a point; both parts stay with the piece. */
export const splitAt =
  (piece: string, { curve, index }: PointPlace) =>
  (dispatch: AppDispatch, getState: () => AppState): void => {
    const old = getState().project.document?.curves.find(({ id }) => id === curve);
    if (!old) return;
    dispatch(
      edit('Split a line', (document) =>
        withCurvesOf(document, piece, curve, splitCurve(old, index, newId(), nextName(old.name, document.curves))),
      ),
    );
    dispatch(pointChosen(null));
  };

/** Joins two open lines of a piece over their nearest ends. */
export const joinLines = (piece: string, a: string, b: string, s: Surroundings) =>
  edit('Join two lines', (document) => {
    const [first, second] = [a, b].map((id) => document.curves.find((curve) => curve.id === id));
    if (!first || !second || first.closed || second.closed) return document;
    const joined = withCurvesOf(document, piece, a, [joinedCurve(first, second, s)]);
    return withCurvesOf(joined, piece, b, []);
  });

/** A second line on the first, a little beside it, in the same piece. */
export const duplicateLine = (piece: string, id: string, by: [number, number, number], s: Surroundings) =>
  edit('Duplicate a line', (document) => {
    const curve = document.curves.find((candidate) => candidate.id === id);
    if (!curve) return document;
    const all = curve.points.map((_, i) => i);
    const copy = { ...shiftPoints(curve, all, by, s), id: newId(), name: nextName(curve.name, document.curves) };
    return withCurvesOf(document, piece, id, [curve, copy]);
  });

/** Chooses all points of some lines. */
export const chooseLines =
  (ids: readonly string[]) =>
  (dispatch: AppDispatch, getState: () => AppState): void => {
    const curves = getState().project.document?.curves ?? [];
    dispatch(
      pointsChosen(
        curves
          .filter((curve) => ids.includes(curve.id))
          .flatMap((curve) => curve.points.map((_, index) => ({ curve: curve.id, index }))),
      ),
    );
  };
