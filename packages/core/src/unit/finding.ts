import type { ParameterValue } from './parameters.js';

export type Severity = 'error' | 'warning' | 'note';

/** A change to the document that mends a finding. `label` is what the button says. */
export type Fix = { label: string } & (
  | { kind: 'set'; stage: 'path' | 'make' | 'dress'; parameter: string; value: ParameterValue }
  | { kind: 'smooth-point' | 'delete-point'; curve: string; point: number }
  | {
      kind: 'add-shape' /** Before which operation; last when absent. */;
      index?: number;
      unit: string;
      parameters: Record<string, ParameterValue>;
    }
  | { kind: 'set-shape'; index: number; parameter: string; value: ParameterValue }
);

/** Of the distance two skins need, this much may be missing: a polygon touches with its flats, a coil with its steps. */
export const CONTACT = 0.08;

/** What is wrong, where, how much, and the fix where one is known. */
export interface Finding {
  /** Stable word: tests and filters go by it. */
  code: string;
  severity: Severity;
  /** What is wrong and what to do. `{value}`, `{limit}` and `{prop}` are filled in by `findingText`. */
  message: string;
  /** Id of the prop that `{prop}` names. */
  prop?: string;
  /** World metres. */
  place?: [number, number, number];
  /** Metres from the start of the curve. */
  along?: number;
  /** What was measured and the limit it broke: metres, radians or pieces. */
  size?: { value: number; limit: number; kind: 'length' | 'angle' | 'count' };
  fix?: Fix;
  /** Other ways to mend it. */
  others?: readonly Fix[];
}

/** How figures and props are written in a finding: a length from metres, and the name of a prop by its id. */
export interface FindingWords {
  length(metres: number): string;
  propName(id: string): string | undefined;
}

/** The message of a finding with its figures and the name of its prop: "Intersects Pier by 24.9 mm (limit 0.2 mm). …" */
export function findingText({ message, prop, size }: Finding, { length, propName }: FindingWords): string {
  const figure = (value: number) =>
    size?.kind === 'length'
      ? length(value)
      : size?.kind === 'angle'
        ? `${+((value * 180) / Math.PI).toFixed(1)}°`
        : (+value.toFixed(2)).toLocaleString('en');
  return message
    .replace('{prop}', () => (prop && propName(prop)) || 'a prop')
    .replace('{value}', () => figure(size?.value ?? 0))
    .replace('{limit}', () => figure(size?.limit ?? 0));
}

/** The first clause of a finding's text, for a flag: "Intersects Pier by 24.9 mm (limit 0.2 mm)". */
export const findingTitle = (finding: Finding, words: FindingWords): string =>
  findingText(finding, words)
    .split(/[.:,;] /, 1)[0]
    .replace(/\.$/, '');
