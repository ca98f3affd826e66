import type { ChoiceParameter, NumberParameter, ParameterSet } from '../../../unit/parameters.js';

/** How one end of a bundle is finished. */
export type BundleEnd = 'flat' | 'round' | 'pointed' | 'open' | 'sealed' | 'whipped' | 'frayed';

const KINDS = [
  { value: 'flat', label: 'Cut' },
  { value: 'round', label: 'Rounded' },
  { value: 'pointed', label: 'Pointed' },
  { value: 'sealed', label: 'Sealed' },
  { value: 'whipped', label: 'Whipped' },
  { value: 'frayed', label: 'Frayed' },
  { value: 'open', label: 'Open' },
] as const;

const kind = (label: string): ChoiceParameter & { default: string } => ({
  kind: 'choice',
  label,
  help: 'How strands end: cut, rounded or pointed one by one; melted together; wound with twine; or loose.',
  default: 'flat',
  options: KINDS,
});

type EndName = 'start' | 'end';
type Own = 'Over' | 'Opening' | 'Unlike' | 'Uneven' | 'Curl' | 'CurlRadius' | 'Tip' | 'Wave';

/** The numbers of one end, by their names without it. */
const NUMBERS: Record<Own, NumberParameter> = {
  Over: {
    kind: 'ratio',
    of: 'thickness',
    label: 'End length',
    help: 'Length over which the end is loose, wound or melted.',
    default: 2,
    min: 0.1,
    max: 1000,
    comfortable: [0.5, 6],
    gauge: 'figure',
  },
  Opening: {
    kind: 'angle',
    label: 'Opening angle',
    help: 'Angle by which the outermost strands lean out at the tip; 0 is closed.',
    default: 0.7,
    min: 0,
    max: 3,
    comfortable: [0, 1.5],
    gauge: 'figure',
  },
  Tip: {
    kind: 'ratio',
    of: 'linear',
    label: 'Opening curve',
    help: 'Above 1 opens near the tip, below 1 opens early.',
    default: 1.2,
    min: 0.1,
    max: 10,
    comfortable: [0.5, 3],
    gauge: 'figure',
  },
  Unlike: {
    kind: 'ratio',
    of: 'opening',
    label: 'Angle variation',
    help: 'Random variation of the opening angle between strands.',
    default: 0.5,
    min: 0,
    max: 2,
    comfortable: [0, 1],
    gauge: 'figure',
  },
  Uneven: {
    kind: 'ratio',
    of: 'loose length',
    label: 'Length variation',
    help: 'Random shortening of strands; 0 cuts all alike.',
    default: 0.25,
    min: 0,
    max: 0.95,
    comfortable: [0, 0.6],
    gauge: 'figure',
  },
  Curl: {
    kind: 'angle',
    label: 'Curl amount',
    help: 'Turn of the tips; above 0 outwards, below 0 inwards.',
    default: 0.5,
    min: -20,
    max: 20,
    comfortable: [-3, 6],
    gauge: 'figure',
  },
  CurlRadius: {
    kind: 'ratio',
    of: 'thickness',
    label: 'Curl radius',
    help: 'Radius of the curl.',
    default: 0.8,
    min: 0.01,
    max: 100,
    comfortable: [0.2, 3],
    gauge: 'figure',
  },
  Wave: {
    kind: 'ratio',
    of: 'strand thickness',
    label: 'Waviness',
    help: 'Wave height of loose strands, relative to their thickness.',
    default: 0.5,
    min: 0,
    max: 20,
    comfortable: [0, 3],
    gauge: 'figure',
  },
};

const numbersOf = <N extends EndName>(end: N, label: string) =>
  Object.fromEntries(
    Object.entries(NUMBERS).map(([name, one]) => [
      `${end}${name}`,
      {
        ...one,
        when: { parameter: end, is: name === 'Over' ? ['frayed', 'whipped', 'sealed'] : ['frayed'] },
        group: label,
      },
    ]),
  ) as unknown as Record<`${N}${Own}`, NumberParameter>;

/** How a bundle ends, each end its own. */
export const ENDS = {
  start: kind('Start finish'),
  end: kind('End finish'),
  ...numbersOf('start', 'Start'),
  ...numbersOf('end', 'End'),
  twine: {
    kind: 'ratio',
    of: 'thickness',
    label: 'Twine thickness',
    help: 'Thickness of the twine around a whipped end.',
    default: 0.07,
    min: 0.005,
    max: 1,
    comfortable: [0.03, 0.2],
    gauge: 'figure',
    when: { parameter: ['start', 'end'], is: ['whipped'] },
    group: 'Ends',
  },
} as const satisfies ParameterSet;

/** What the parameters say of one end. */
export interface EndChoice {
  kind: BundleEnd;
  /** Thicknesses from the end. */
  over: number;
  opening: number;
  tip: number;
  unlike: number;
  uneven: number;
  curl: number;
  curlRadius: number;
  wave: number;
}

/** One end out of the parameters of both. */
export function endChoice(p: Readonly<Record<string, unknown>>, end: EndName): EndChoice {
  const number = (name: Own) => p[`${end}${name}`] as number;
  return {
    kind: p[end] as BundleEnd,
    over: number('Over'),
    opening: number('Opening'),
    tip: number('Tip'),
    unlike: number('Unlike'),
    uneven: number('Uneven'),
    curl: number('Curl'),
    curlRadius: number('CurlRadius'),
    wave: number('Wave'),
  };
}
