/** The chart room: paper, ink and a few signal colours, each with one meaning. */
export const COLOURS = {
  ground: '#EDF0E8',
  panel: '#F8F9F4',
  ink: '#12322C',
  inkSecond: '#4A5F59',
  hairline: '#C9D2C6',
  /** The primary action. */
  kelp: '#2C6A50',
  /** Guide curves and pens. */
  tide: '#2F6E92',
  /** Errors only. */
  coral: '#B94733',
  /** Warnings only. */
  straw: '#8F6A1E',
  strawLight: '#B98A2E',
  chosen: '#DDE7DC',
  view: '#E4E6E0',
} as const;

export const NUMBER_FONT = '"Spline Sans Mono Variable", ui-monospace, monospace';
export const TEXT_FONT = '"Hanken Grotesk Variable", system-ui, sans-serif';
