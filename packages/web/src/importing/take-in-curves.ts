import { type DrawnCurve, freeName, LIMITS, newPiece, newUse, simplify, tidyName } from '@kelp/core';
import { SOURCE_UNITS, type SourceUnit } from '@kelp/formats';
import type { AppDispatch, AppState } from '../app/store.js';
import { edit, newId } from '../state/edits.js';
import { floatOpened, pieceChosen } from '../state/view-slice.js';
import type { ReadCurveFile } from './read-file.js';

/** Takes the curves of a file into the project, and one piece that runs along them all. */
export const takeInCurves =
  ({ name, file }: ReadCurveFile, unit: SourceUnit, flat: boolean) =>
  (dispatch: AppDispatch, getState: () => AppState): void => {
    const document = getState().project.document;
    if (!document) return;
    const factor = SOURCE_UNITS[unit];
    const label = tidyName(name.replace(/\.\w+$/, ''), 'Curves');
    const curves = file.curves.map((curve): DrawnCurve => {
      const points = thinned(
        curve.points.map(({ position, corner }) => ({ position: position.map((v) => v * factor), corner })),
      );
      return {
        id: newId(),
        name: tidyName(curve.name, 'Line'),
        closed: curve.closed,
        points: points.map(({ position, corner }) => ({
          position: position as [number, number, number],
          corner,
          radius: 1,
        })),
      };
    });
    const use = newUse('path', 'imported', flat ? 'flat' : 'standing');
    const piece = {
      ...newPiece(newId(), freeName(label, document.pieces), [], false),
      path: { ...use, parameters: { ...use.parameters, curves: curves.map(({ id }) => id) } },
    };
    dispatch(
      edit(`Import ${name}`, (now) => ({
        ...now,
        curves: [...now.curves, ...curves],
        pieces: [...now.pieces, piece],
      })),
    );
    dispatch(pieceChosen(piece.id));
    dispatch(floatOpened('path'));
  };

interface Point {
  position: number[];
  corner: boolean;
}

/** No more points than a curve may have: those are kept that hold its shape best. */
function thinned(points: Point[]): Point[] {
  if (points.length <= LIMITS.pointsPerCurve) return points;
  const flat = points.flatMap(({ position }) => position);
  const reach = flat.reduce((most, value) => Math.max(most, Math.abs(value)), 0) || 1;
  for (let tolerance = 1e-6 * reach; ; tolerance *= 3) {
    const kept = simplify(flat, tolerance);
    if (kept.length <= LIMITS.pointsPerCurve) return kept.map((i) => points[i]);
  }
}
