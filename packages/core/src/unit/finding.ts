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

/** Of the distance two skins need, so much may be missing: a polygon touches with its flats, a coil with its steps. */
export const CONTACT = 0.08;

/** What is wrong, where, how much, and the fix where one is known. */
export interface Finding {
  /** Stable word: tests and filters go by it. */
  code: string;
  severity: Severity;
  message: string;
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
