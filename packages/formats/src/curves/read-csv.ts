import { KelpError } from '@kelp/core';
import Papa from 'papaparse';
import { type CurveFile, type FileCurve, MAX_CURVES, polylineCurve } from './curve-file.js';

/** Rows that could not be read are named one by one up to this many. */
const NAMED_ROWS = 5;

/**
 * Reads a table of points (RFC 4180, comma, semicolon or tab): columns x, y and z, or named so in a first row; a column
 * "curve" or an empty row begins the next curve. Rows with anything but numbers are left out and named.
 * @throws KelpError EMPTY_CURVES, TOO_LARGE
 */
export function readCsv(fileName: string, text: string): CurveFile {
  const { data } = Papa.parse<string[]>(text.replace(/^\uFEFF/, ''));
  const notes: string[] = [];
  const header = headerOf(data[0] ?? []);
  const columns = header ?? { x: 0, y: 1, z: 2, curve: -1 };
  const curves: FileCurve[] = [];
  let points: [number, number, number][] = [];
  let name = '';
  let bad = 0;
  const finish = () => {
    const curve = polylineCurve(name || `Line ${curves.length + 1}`, points);
    if (curve) curves.push(curve);
    points = [];
  };
  data.slice(header ? 1 : 0).forEach((row, i) => {
    const line = i + (header ? 2 : 1);
    if (row.every((cell) => cell.trim() === '')) {
      finish();
      name = '';
      return;
    }
    const own = columns.curve >= 0 ? (row[columns.curve] ?? '').trim().slice(0, 100) : '';
    if (columns.curve >= 0 && own !== name) {
      finish();
      name = own;
    }
    const point = [columns.x, columns.y, columns.z].map((column, k) => numberIn(row[column], k === 2));
    if (point.every(Number.isFinite)) points.push(point as [number, number, number]);
    else if (bad++ < NAMED_ROWS)
      notes.push(`Row ${line} was skipped: "${row.join(', ').slice(0, 60)}" is not three numbers.`);
  });
  finish();
  if (bad > NAMED_ROWS) notes.push(`${bad - NAMED_ROWS} more rows were skipped.`);
  if (curves.length === 0)
    throw new KelpError(
      'EMPTY_CURVES',
      `${fileName} has no line of two points or more. ${notes[0] ?? 'It needs one row of numbers per point: x, y, z.'}`,
    );
  if (curves.length > MAX_CURVES)
    throw new KelpError('TOO_LARGE', `${fileName} has more than ${MAX_CURVES.toLocaleString('en')} lines`);
  return { format: 'CSV', curves, flat: false, notes };
}

function headerOf(row: string[]): { x: number; y: number; z: number; curve: number } | undefined {
  const names = row.map((cell) => cell.trim().toLowerCase());
  if (!names.includes('x') || !names.includes('y')) return undefined;
  const at = (name: string) => names.indexOf(name);
  return { x: at('x'), y: at('y'), z: at('z'), curve: at('curve') };
}

/** An absent z is 0; anything else that is no number is NaN. */
function numberIn(cell: string | undefined, absentIsZero: boolean): number {
  if (cell === undefined || cell.trim() === '') return absentIsZero ? 0 : Number.NaN;
  const value = Number(cell);
  return Math.abs(value) < 1e9 ? value : Number.NaN;
}
