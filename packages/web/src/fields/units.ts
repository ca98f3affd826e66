import type { DisplayUnit, NumberParameter, PairParameter } from '@kelp/core';

/** Metres of each display unit (inch and foot by the international yard of 1959: exactly 25.4 mm and 304.8 mm). */
export const METRES: Record<DisplayUnit, number> = { mm: 0.001, cm: 0.01, m: 1, in: 0.0254, ft: 0.3048 };

/** How a parameter's stored number is shown: shown = stored / factor. */
export interface Shown {
  factor: number;
  unit: string;
  digits: number;
}

export function shownAs(parameter: NumberParameter | PairParameter, display: DisplayUnit): Shown {
  switch (parameter.kind === 'pair' ? parameter.each : parameter.kind) {
    case 'length':
      return { factor: METRES[display], unit: display, digits: display === 'm' || display === 'ft' ? 4 : 2 };
    case 'angle':
      return { factor: Math.PI / 180, unit: '°', digits: 1 };
    case 'rate':
      return { factor: 1, unit: 'of' in parameter && parameter.of === 'turns' ? 'turns/m' : '/m', digits: 2 };
    case 'ratio':
      return { factor: 1, unit: '×', digits: 3 };
    case 'count':
    case 'seed':
      return { factor: 1, unit: '', digits: 0 };
  }
}

/** A length in the project's unit, in metres where it gets long: "24 mm", "4.82 m". */
export function lengthText(metres: number, display: DisplayUnit): string {
  const { figure, unit } = lengthFormat(metres, display);
  return `${figure(metres)} ${unit}`;
}

/** Lengths side by side, metres, in the unit that suits the longest: "99.1 × 96.6 × 75.4 mm". */
export function sizeText(metres: readonly number[], display: DisplayUnit): string {
  const { figure, unit } = lengthFormat(Math.max(...metres.map(Math.abs)), display);
  return `${metres.map(figure).join(' × ')} ${unit}`;
}

/** How a length is written: what is small in millimetres and centimetres is metres when it is long, inches are feet. */
function lengthFormat(metres: number, display: DisplayUnit): { unit: DisplayUnit; figure(metres: number): string } {
  // a metre that was computed is one too
  const long = Math.abs(metres) >= 1 - 1e-9;
  const fixed = (unit: DisplayUnit) => ({ unit, figure: (value: number) => (value / METRES[unit]).toFixed(2) });
  if ((display === 'mm' || display === 'cm') && long) return fixed('m');
  if (display === 'in' && long) return fixed('ft');
  const digits = display === 'm' || display === 'ft' ? 3 : 1;
  return { unit: display, figure: (value) => round(value / METRES[display], digits) };
}

export const round = (value: number, digits: number): string => (+value.toFixed(digits)).toString();

export function bytesText(bytes: number): string {
  if (bytes < 1024) return `${bytes} B`;
  return bytes < 1024 ** 2 ? `${(bytes / 1024).toFixed(0)} kB` : `${(bytes / 1024 ** 2).toFixed(1)} MB`;
}

/** Made once: a format is slow to make. */
const COUNT = new Intl.NumberFormat('en');

export const countText = (count: number): string => COUNT.format(count);
