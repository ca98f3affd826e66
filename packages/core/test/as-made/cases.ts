import {
  isNumberParameter,
  isWhole,
  type Pair,
  type Parameter,
  type ParameterValue,
  type ParameterValues,
  presetParameters,
  type Unit,
} from '../../src/index.js';
import { SECTIONS } from '../../src/make/sweep/section.js';
import { hashText, randomAt } from '../../src/numeric/random.js';
import { LINES } from './workshop.js';

/** A recipe's parameters on one of the workshop's lines. */
export interface Case {
  name: string;
  /** Those that are tried together. */
  group: string;
  line: string;
  parameters: ParameterValues;
}

/** Lines that a unit needs, and those that show nothing of it. */
const OWN: Readonly<Record<string, readonly string[]>> = {
  belt: ['wheels', 'tilted wheels'],
  bridge: ['bent', 'drawn', 'several'],
  fill: ['rings', 'ring', 'square', 'bent', 'eight'],
};
/** Lines on which a unit is tried, but not with all it has. */
const ALSO: Readonly<Record<string, readonly string[]>> = { belt: ['ring', 'several'] };
/** Lines that only these units make something of. */
const SELDOM: readonly string[] = ['rings', 'eight'];
/** Parts that are placed, by word: which, how often in a row, how large. */
const parts = (...all: [part: string, times: number, size: number][]) =>
  all.map(([part, times, size]) => ({ part, times, size }));
/** Levels of a rope, from the whole inwards. */
const levels = (...all: [count: number, filling: string, hand: string, lay: number][]) =>
  all.map(([count, filling, hand, lay]) => ({ count, filling, hand, lay, by: 'thickness' }));
const MIXED_PARTS = { parts: parts(['prop-1', 2, 1], ['stud', 1, 0.7], ['prop-2', 1, 0.5]), props: ['near', 'far'] };
/** Settings on a line of their choice. */
type Placed = readonly [line: string, parameters: ParameterValues];
/** What takes several settings at once: sections with corners that become others, parts that are props, too much and nothing. */
const TOGETHER: Readonly<Record<string, readonly (ParameterValues | Placed)[]>> = {
  sweep: [
    ...SECTIONS.map(({ value: form }, k) => {
      const after = (steps: number) => SECTIONS[(k + steps) % SECTIONS.length].value;
      return { form, profile: 'lug', becomes: after(1), thenBecomes: after(3), later: 'lug', thenProfile: 'lug' };
    }),
    ['cornered', { corners: 'cuts', cornerCuts: 4, bendRadius: 3 }],
    ['square', { corners: 'cuts', cornerCuts: 3, bendRadius: 60, form: 'box' }],
    ['cornered', { corners: 'arc', bendRadius: 80, form: 'gear' }],
  ],
  place: [
    { ...MIXED_PARTS, spacing: 0.3 },
    { ...MIXED_PARTS, propSize: 'asked', order: 'chance', size: 0.05, spacing: 0.3, upright: false },
    { ...MIXED_PARTS, by: 'gap', gap: 0.05, facing: 'x', sizes: { least: 0.5, most: 1 }, missing: 0.3 },
    { ...MIXED_PARTS, bent: 'bent', by: 'count', count: 3, facing: '-y', held: 'middle' },
    { ...MIXED_PARTS, props: ['gone'], by: 'count', count: 2, held: 'top', rise: 0.5 },
    { first: 0.5, by: 'count', count: 4, even: false, last: 0.2 },
    { by: 'count', count: 1, even: false, size: 0.2, facing: 'y' },
    { first: 9 },
    { spacing: 0 },
  ],
  pipe: [
    { size: 'free', radius: 0.01, brackets: 0.07, reach: 6, stock: 0.15, atEnds: 'flange', atBends: 'sleeve' },
    { size: 'free', radius: 0.004, brackets: 0.03, reach: 4, stock: 0.05, between: 'bead', bends: 'elbow' },
    { size: 'free', radius: 0.002, brackets: 0.002, stock: 0.001 },
  ],
  stitch: [
    { kind: 'back', rows: 2, rowGap: 9, plies: '2', seam: 8, creases: 5, hole: 1.2 },
    { kind: 'whip', lift: 0.5, arch: 0.4, reach: 200, hole: 1 },
    { kind: 'cross', radius: 0.002, length: 2, gap: 1, breadth: 3 },
  ],
  truss: [
    ['several', { ties: 'braced', tieEvery: 2, form: 'square', webs: 'k' }],
    ['several', { ties: 'ties', tieEvery: 1, tieProfile: 'angle', webs: 'crossed', every: 2 }],
    ['ring', { webs: 'crossed', form: 'square', every: 1, topWebs: 'k' }],
    ['square', { webs: 'k', form: 'more', chords: 5, ends: 'braced', joint: 'plate' }],
    ['several', { ties: 'braced', ends: 'open', form: 'flat', depth: 0.3, joint: 'ball', closed: 'caps' }],
    ['cornered', { webs: 'zigzag', endCut: 'prop', cutBy: 'cloth', ends: 'braced', chord: 0.2, web: 0.15 }],
    ['several', { depth: 1, frame: 0.9, chord: 0.3, bay: 0.3, endCut: 'level' }],
    ['upright', { upright: 'plumb', form: 'square', by: 'count', bays: 3, joint: 'ball', ball: 4 }],
    ['bent', { bay: 0.02, chord: 0.4, web: 0.3, frame: 0.3, depth: 0.1, every: 1 }],
  ],
  laid: [
    { shown: 'hull', levels: levels([2, 'hollow', 's', 5]), scale: 0.8, places: 5 },
    { shown: 'hull', levels: levels([7, 'filled', 'z', 4], [3, 'hollow', 's', 4]), places: 60 },
    { shown: 'hull', levels: levels([6, 'cored', 'z', 2]), fit: 'least' },
    { shown: 'hull', levels: levels([1, 'filled', 'z', 4]) },
    { levels: levels([300, 'filled', 'z', 9], [300, 'filled', 's', 6]), start: 'whipped', end: 'sealed' },
    { levels: levels([4, 'hollow', 'z', 0.6]), places: 6, start: 'sealed', end: 'whipped' },
  ],
  belt: [
    { riders: 'some', ...MIXED_PARTS, size: 0.02, apart: 0.1, run: 3 },
    { riders: 'some', ...MIXED_PARTS, props: ['gone'], order: 'chance', carried: true, run: 1, kind: 'slats' },
    { riders: 'some', size: 0.015, apart: 0.07, exact: true, kind: 'shoes', pitch: 0.05, run: -2, shade: 0.2 },
    { kind: 'toothed', exact: true, pitch: 0.011, run: 1, wheel: 'spokes', panel: 'guards' },
    { kind: 'slats', pitch: 0.004, wheel: 'disc', spokes: 4 },
    { kind: 'vee', run: 7, wheel: 'spokes', spokes: 3, panel: 'inside' },
  ],
};
const isPlaced = (one: ParameterValues | Placed): one is Placed => Array.isArray(one);
/** These take longest and show nothing that others do not. */
const SLOW =
  /^(flat-nine|wire-6x19, (ring|several|square)|cable-laid, (square|several)|across 6|flat-three, across 6|coil-zip, several|hair-cards, (cornered|ring|square|several))/;
const MIXES = 10;

/**
 * Of a make unit: each preset on each line; each number at two values or along a lane, and each choice at all its options, one at a time,
 * where they matter; and many at once at random, always the same.
 */
export function casesOf(unit: Unit<'make'>): Case[] {
  const lines = OWN[unit.id] ?? Object.keys(LINES).filter((line) => !LINES[line].path && !SELDOM.includes(line));
  const presets = unit.presets.map(({ id }) => ({ id, parameters: presetParameters(unit, id) }));
  // all on the first line, and in turn on the others: of many presets not each on each
  const onLines = [...lines, ...(ALSO[unit.id] ?? [])].flatMap((line, l) =>
    presets
      .filter((_, p) => l === 0 || presets.length <= 3 || (l + p) % 3 === 0)
      .map(({ id, parameters }) => ({
        name: `${id}, ${line}`,
        group: l === 0 ? 'presets' : 'lines',
        line,
        parameters,
      })),
  );
  const declared = Object.entries(unit.parameters);
  const single = declared.flatMap(([name, parameter]) => {
    const { id, parameters } = presets.find((one) => matters(parameter, one.parameters)) ?? presets[0];
    const shown = madeToMatter(parameter, parameters);
    return triedOf(parameter).map((value) => ({
      name: `${id}, ${name} ${JSON.stringify(value)}`,
      group: isNumberParameter(parameter) ? 'numbers' : 'choices',
      line: lines[0],
      parameters: { ...shown, [name]: value },
    }));
  });
  const together = (TOGETHER[unit.id] ?? []).map((one, k) => {
    const [line, set] = isPlaced(one) ? one : [lines[k % lines.length], one];
    return { name: `together ${k}`, group: 'together', line, parameters: { ...presets[0].parameters, ...set } };
  });
  const mixed = Array.from({ length: MIXES }, (_, k) => {
    const chance = (word: string) => randomAt(k, hashText(unit.id), hashText(word));
    const pick = <T>(list: readonly T[], word: string): T => list[Math.floor(chance(word) * list.length)];
    const parameters = { ...pick(presets, 'preset').parameters };
    for (const [name, parameter] of declared)
      if (chance(name) < 0.3) parameters[name] = pick([...triedOf(parameter), parameters[name]], `${name} value`);
    return { name: `mixed ${k}`, group: 'mixed', line: pick(lines, 'line'), parameters };
  });
  return [...onLines, ...single, ...together, ...mixed].filter(({ name }) => !SLOW.test(name));
}

/** Whether it is shown, and so does something. */
const matters = ({ when }: Parameter, parameters: ParameterValues): boolean =>
  !when || [when.parameter].flat().some((other) => when.is.includes(String(parameters[other])));

const madeToMatter = (parameter: Parameter, parameters: ParameterValues): ParameterValues =>
  matters(parameter, parameters)
    ? parameters
    : { ...parameters, [[parameter.when!.parameter].flat()[0]]: asValue(parameter.when!.is[0]) };

/** Conditions are words, toggles too. */
const asValue = (word: string): ParameterValue => (word === 'true' || word === 'false' ? word === 'true' : word);

/** This far from the least to the greatest that is comfortable; by ratio, where that is meant. */
function between([least, most]: readonly [number, number], share: number, whole: boolean): number {
  const value = least > 0 ? least * (most / least) ** share : least + share * (most - least);
  return whole ? Math.round(value) : Number(value.toPrecision(6));
}

function triedOf(parameter: Parameter): ParameterValue[] {
  if (isNumberParameter(parameter)) {
    const [few, many] = [0.3, 0.6].map((share) => between(parameter.comfortable, share, isWhole(parameter)));
    if (!parameter.along) return [few, many];
    return [
      {
        ease: 'smooth',
        knots: [
          { at: 0, value: many },
          { at: 0.6, value: few },
          { at: 1, value: many },
        ],
      },
    ];
  }
  switch (parameter.kind) {
    case 'toggle':
      return [!parameter.default];
    case 'choice':
      return parameter.options.map(({ value }) => value).filter((value) => value !== parameter.default);
    case 'pair':
      return [
        {
          least: between(parameter.comfortable, 0.3, false),
          most: between(parameter.comfortable, 0.6, false),
        } satisfies Pair,
      ];
    case 'profile':
      return ['lug'];
    case 'prop':
      return ['cloth', 'near'];
    case 'props':
      return [['near', 'far']];
    case 'piece':
      return ['other'];
    case 'pieces':
      return [['other']];
    case 'point':
      return [[0.2, 0.7, -0.3]];
    default:
      return [];
  }
}
