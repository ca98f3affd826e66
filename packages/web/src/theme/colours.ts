/** The chart room by day: paper, ink and a few signal colours, each with one meaning. */
const LIGHT = {
  ground: '#EDF0E8',
  panel: '#F8F9F4',
  /** What is written in. */
  field: '#FFFFFF',
  ink: '#12322C',
  inkSecond: '#4A5F59',
  hairline: '#C9D2C6',
  /** The primary action. */
  kelp: '#2C6A50',
  /** Guide curves and pens. */
  tide: '#2F6E92',
  /** Errors only. */
  coral: '#AE4130',
  /** Warnings only. */
  straw: '#7F5D17',
  strawLight: '#B98A2E',
  /** Words on ink or on a signal colour. */
  onInk: '#FFFFFF',
  chosen: '#DDE7DC',
  view: '#E4E6E0',
  /** Rings of distance in the view, and their figures. */
  ring: '#93A598',
  ringText: '#55665E',
};

export type Palette = Readonly<Record<keyof typeof LIGHT, string>>;
export type Scheme = 'light' | 'dim';

export const PALETTES: Readonly<Record<Scheme, Palette>> = {
  light: LIGHT,
  /** The same room by lamplight: ink and paper change places, signals are lighter so that they read on dark paper. */
  dim: {
    ground: '#1A2723',
    panel: '#202E2A',
    field: '#18241F',
    ink: '#E4ECE5',
    inkSecond: '#A8B9B0',
    hairline: '#3A4C46',
    kelp: '#7CC3A0',
    tide: '#83BADB',
    coral: '#EE9A88',
    straw: '#DDB767',
    strawLight: '#B98A2E',
    onInk: '#13211D',
    chosen: '#2E4239',
    view: '#33423D',
    ring: '#66796F',
    ringText: '#A3B5AB',
  },
};

const variable = (name: string): string => `--kelp-${name}`;

/** The colours of the scheme in force, for styles and drawings of the page. What draws by itself takes them from `usePalette`. */
export const COLOURS = Object.fromEntries(
  Object.keys(LIGHT).map((name) => [name, `var(${variable(name)})`]),
) as Palette;

/** What `COLOURS` represents under a scheme, to be set on the root of the page. */
export const variablesOf = (scheme: Scheme): Record<string, string> =>
  Object.fromEntries(Object.entries(PALETTES[scheme]).map(([name, value]) => [variable(name), value]));

/** This many hundredths of a colour, over what is behind it. */
export const faint = (colour: string, hundredths: number): string =>
  `color-mix(in srgb, ${colour} ${hundredths}%, transparent)`;

export const NUMBER_FONT = '"Spline Sans Mono Variable", ui-monospace, monospace';
export const TEXT_FONT = '"Hanken Grotesk Variable", system-ui, sans-serif';
