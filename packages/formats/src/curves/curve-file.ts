import { cornersOf, KelpError } from '@kelp/core';
import type { SourceUnit } from '../model/inspect.js';

export interface CurveFilePoint {
  /** In the file's own unit. */
  position: [number, number, number];
  corner: boolean;
}

/** One line of a curve file. A closed one does not repeat its first point. */
export interface FileCurve {
  name: string;
  closed: boolean;
  points: CurveFilePoint[];
}

/** What was read from a file of curves, before its unit is decided. */
export interface CurveFile {
  format: 'SVG' | 'CSV' | 'OBJ' | 'glTF' | 'USDA';
  curves: FileCurve[];
  /** The unit the file says it is in; undefined where it says nothing. */
  unit?: SourceUnit;
  /** Drawn on a sheet, so that it may be wanted flat on the ground. */
  flat: boolean;
  /** What was left out, and where, as sentences. */
  notes: string[];
}

/** Points of one curve beyond this are thinned by the reader's caller; files with more curves are refused. */
export const MAX_CURVES = 5000;

type Point = readonly [number, number, number];

/**
 * A polyline as a curve: points in the same place as the one before fall away, a last point on the first closes it,
 * sharp turns become corners. Undefined where fewer than two places are left.
 */
export function polylineCurve(name: string, points: readonly Point[], closed = false): FileCurve | undefined {
  const apart = (a: Point, b: Point) => a.some((value, k) => Math.abs(value - b[k]) > 1e-12);
  const kept = points.filter((point, i) => i === 0 || apart(point, points[i - 1]));
  let ring = closed;
  while (kept.length > 3 && !apart(kept[0], kept[kept.length - 1])) {
    kept.pop();
    ring = true;
  }
  if (kept.length < 2) return undefined;
  ring &&= kept.length > 2;
  const corners = new Set(cornersOf(kept.flat(), ring));
  return {
    name,
    closed: ring,
    points: kept.map((position, i) => ({
      position: [...position],
      corner: corners.has(i),
    })),
  };
}

/** A file that has lines, and not too many. @throws KelpError EMPTY_CURVES, TOO_LARGE */
export function checkedCurves(fileName: string, file: CurveFile): CurveFile {
  if (file.curves.length === 0)
    throw new KelpError('EMPTY_CURVES', `${fileName} has no lines. ${file.notes[0] ?? ''}`.trim());
  if (file.curves.length > MAX_CURVES)
    throw new KelpError('TOO_LARGE', `${fileName} has more than ${MAX_CURVES.toLocaleString('en')} lines`);
  return file;
}
