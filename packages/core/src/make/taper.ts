import type { ParameterSet } from '../unit/parameters.js';

// Width towards both ends of a line, for what is one of many.

export const TAPER = {
  root: {
    kind: 'ratio',
    of: 'width',
    label: 'Root width',
    help: 'Width at the start, relative to the full width.',
    default: 1,
    min: 0,
    max: 10,
    comfortable: [0, 1],
    gauge: 'figure',
  },
  tip: {
    kind: 'ratio',
    of: 'width',
    label: 'Tip width',
    help: 'Width at the end, relative to the full width.',
    default: 1,
    min: 0,
    max: 10,
    comfortable: [0, 1],
    gauge: 'figure',
  },
  taper: {
    kind: 'ratio',
    of: 'length',
    label: 'Taper length',
    help: 'Length from each end over which it grows to full width.',
    default: 0.4,
    min: 0,
    max: 1,
    comfortable: [0, 1],
    gauge: 'start',
  },
} as const satisfies ParameterSet;

export interface TaperChoice {
  root: number;
  tip: number;
  taper: number;
}

/** Width at share `t` of the length: from each end's share to 1 over the taper, without an edge where that is reached. */
export function taperAt({ root, tip, taper }: TaperChoice, t: number): number {
  const grown = (from: number, far: number) => {
    const x = taper > 0 ? Math.min(1, far / taper) : 1;
    return from + (1 - from) * x * (2 - x);
  };
  return grown(root, t) * grown(tip, 1 - t);
}
