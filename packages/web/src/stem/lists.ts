import type { DisplayUnit, Measure, Quantity, Table } from '@kelp/core';
import { countText, lengthText, METRES, round } from '../fields/units.js';

/** One entry of a list as it is read. */
export function entryText(value: string | number, quantity: Quantity, display: DisplayUnit): string {
  if (typeof value === 'string') return value;
  switch (quantity) {
    case 'length':
      return lengthText(value, display);
    case 'angle':
      return `${round((180 * value) / Math.PI, 1)}°`;
    case 'area':
      return `${round(value, 4)} m²`;
    case 'volume':
      return `${round(value, 6)} m³`;
    case 'mass':
      return `${round(value, 3)} kg`;
    case 'share':
      return `${round(100 * value, 1)} %`;
    default:
      return countText(value);
  }
}

/** Further figures of a piece in a line of words. */
export const measuresText = (measures: readonly Measure[], display: DisplayUnit): string =>
  measures.map(({ label, quantity, value }) => `${label} ${entryText(value, quantity, display)}`).join(' · ');

/** Unit of a column, as a sheet of numbers has it: one unit all the way down. */
const columnUnit = (quantity: Quantity, display: DisplayUnit): string =>
  ({ length: display as string, angle: '°', area: 'm²', volume: 'm³', mass: 'kg', count: '', share: '', text: '' })[
    quantity
  ];

/** A list as comma-separated values (RFC 4180): a heading with units, then a line each. */
export function listCsv({ columns, rows }: Table, display: DisplayUnit): string {
  const heading = columns.map(({ label, quantity }) => {
    const unit = columnUnit(quantity, display);
    return unit ? `${label} (${unit})` : label;
  });
  const plain = (value: string | number, quantity: Quantity): string => {
    if (typeof value === 'string') return value;
    if (quantity === 'length') return round(value / METRES[display], 6);
    return quantity === 'angle' ? round((180 * value) / Math.PI, 4) : String(value);
  };
  const lines = [heading, ...rows.map((row) => row.map((value, k) => plain(value, columns[k].quantity)))];
  return `${lines.map((line) => line.map(quoted).join(',')).join('\r\n')}\r\n`;
}

const quoted = (text: string): string => (/[",\r\n]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text);
