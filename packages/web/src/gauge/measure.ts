import {
  type AlongValue,
  axisFrame,
  type DisplayUnit,
  type Gauge,
  gaugeOf,
  greatest,
  isLane,
  isNumberParameter,
  isPair,
  type Pair,
  type Parameter,
  type Piece,
  thicknessOf,
  type UnitUse,
  valueAt,
  type Walkable,
} from '@kelp/core';
import type { PieceBuild } from '../evaluation/protocol.js';
import { lengthText, round, type Shown, shownAs } from '../fields/units.js';
import { alongGuide, arc, moved, type Place, spotAt, stretch } from '../lines/spot.js';

/** What a control measures, as it is drawn. */
export interface Measured {
  text: string;
  /** Where the figure stands. */
  at: Place;
  lines: Place[][];
  dots: Place[];
  /** Where it can be taken hold of: pulled along `direction` from `from`, a distance represents a value. */
  pull?: { grip: Place; from: Place; direction: Place; value(metres: number): number };
}

export interface Subject {
  piece: Piece;
  build: { guide: Walkable; measures: PieceBuild['measures'] };
  use: UnitUse;
  name: string;
  parameter: Parameter;
  display: DisplayUnit;
}

/** Gauges with an end that can be taken hold of. */
const PULLED: ReadonlySet<Gauge> = new Set([
  'diameter',
  'across',
  'distance',
  'off-line',
  'sway',
  'drop',
  'start',
  'end',
  'from-axis',
  'along-axis',
]);
export function isPulled(parameter: Parameter): boolean {
  const gauge = gaugeOf(parameter);
  return gauge !== undefined && PULLED.has(gauge.kind);
}

/** More dots than these say nothing more. */
const MAX_DOTS = 300;

/** What a control measures on the result; null where its declaration says that there is nothing to measure. */
export function measured({ piece, build, use, name, parameter, display }: Subject): Measured | null {
  const gauge = gaugeOf(parameter);
  const { guide, measures } = build;
  if (!gauge || guide.position.length < 6) return null;
  const raw = use.parameters[name];
  const number = isNumberParameter(parameter);
  const value = number ? valueAt(raw as AlongValue, 0.5) : 0;
  const size = (metres: number) => lengthText(metres, display);
  const shown = number ? shownAs(parameter, display) : undefined;
  const figure = !shown
    ? isPair(raw) && parameter.kind === 'pair'
      ? pairText(raw, shownAs(parameter, display))
      : ''
    : parameter.kind === 'length'
      ? size(value)
      : `${round(value / shown.factor, shown.digits)} ${shown.unit}`.trim();
  const middle = spotAt(guide, 0.5);
  const thickness = valueAt(thicknessOf(piece), 0.5) || greatest(thicknessOf(piece));
  const reach = Math.max(thickness * 1.8, measures.length * 0.012);
  const words = `${parameter.label} ${figure}`;
  const label = (text: string, at: Place, lines: Place[][] = [], dots: Place[] = []): Measured => ({
    text,
    at,
    lines,
    dots,
  });
  /** A line from a place, whose length is what the number says, or is made from it. */
  const span = (text: string, from: Place, direction: Place, metres: number, perMetre = 1): Measured => {
    const end = moved(from, direction, metres);
    const pull = { grip: end, from, direction, value: (far: number) => far * perMetre };
    return { text, at: end, lines: [[from, end]], dots: [], pull: isLane(raw) ? undefined : pull };
  };
  const firstPoints = (): Place[] => {
    const count = Math.min(MAX_DOTS, guide.start.length - 1);
    return Array.from({ length: count }, (_, c) => spotAt(guide, 0, c).place);
  };
  /** What another parameter that the gauge names holds. */
  const named = <T>(by: 'size' | 'at' | 'axis'): T | undefined =>
    gauge[by] === undefined ? undefined : (use.parameters[gauge[by]] as T);
  const foot = named<Place>('at') ?? middle.place;
  const [across, second, axis] = axisFrame(named<string>('axis') ?? 'up').map((v) => [...v] as Place);

  const draw: Record<Gauge, () => Measured> = {
    diameter: () => {
      const low = moved(middle.place, middle.up, -value);
      return {
        ...span(`⌀ ${size(2 * value)}`, middle.place, middle.up, value),
        lines: [[low, moved(middle.place, middle.up, value)]],
      };
    },
    across: () => {
      const radius = valueAt(named<AlongValue>('size') ?? thickness, 0.5);
      const ends = [-1, 1].map((way) => moved(middle.place, middle.side, way * value * radius));
      return {
        ...span(`${words}: ${size(2 * value * radius)}`, middle.place, middle.side, value * radius, 1 / (radius || 1)),
        lines: [ends],
      };
    },
    corners: () => {
      const ring = Array.from(
        { length: Math.min(MAX_DOTS, value) },
        (_, i) => arc(middle.place, middle.side, middle.up, thickness, (2 * Math.PI * i) / value).at(-1)!,
      );
      return label(words, moved(middle.place, middle.up, thickness), [], ring);
    },
    tightest: () => {
      const tight = Number.isFinite(measures.bendRadius) ? size(measures.bendRadius) : 'straight';
      return label(`${words}, tightest ${tight}`, middle.place);
    },
    distance: () => span(words, moved(middle.place, middle.up, -thickness), moved([0, 0, 0], middle.up, -1), value),
    'off-line': () => span(words, middle.place, middle.up, value),
    sway: () => {
      const far = parameter.kind === 'ratio' ? value * thickness : value;
      const ends = [-1, 1].map((way) => moved(middle.place, middle.side, way * far));
      return {
        ...span(
          `${parameter.label} ±${size(far)}`,
          middle.place,
          middle.side,
          far,
          parameter.kind === 'ratio' ? 1 / (thickness || 1) : 1,
        ),
        lines: [ends],
      };
    },
    spacing: () => {
      const far =
        parameter.kind === 'ratio' ? value * thickness : parameter.kind === 'rate' ? 1 / (value || Infinity) : value;
      const from = measures.length / 2 - far / 2;
      const text =
        parameter.kind === 'rate'
          ? `${words}: one per ${size(far)}`
          : `${words}${parameter.kind === 'ratio' ? `: ${size(far)}` : ''}`;
      const line = stretch(guide, Math.max(0, from), Math.min(measures.length, from + far));
      return label(
        text,
        moved(middle.place, middle.up, reach),
        [line.map((place) => moved(place, middle.up, thickness))],
        [],
      );
    },
    turn: () => {
      if (parameter.kind !== 'rate')
        return label(words, moved(middle.place, middle.up, reach), [
          [middle.place, moved(middle.place, middle.side, reach)],
          arc(middle.place, middle.side, middle.up, reach, value),
        ]);
      const far = value === 0 ? measures.length : Math.min(measures.length, 1 / Math.abs(value));
      const from = (measures.length - far) / 2;
      return label(value === 0 ? words : `${words}: one turn per ${size(1 / Math.abs(value))}`, middle.place, [
        stretch(guide, from, from + far),
      ]);
    },
    drop: () => {
      const ends = [spotAt(guide, 0).place, spotAt(guide, 1).place];
      const chord = ends[0].map((v, k) => (v + ends[1][k]) / 2) as Place;
      const low: Place = [chord[0], middle.place[1], chord[2]];
      const fall = Math.max(0, chord[1] - middle.place[1]);
      const pull =
        parameter.kind === 'length'
          ? { grip: low, from: chord, direction: [0, -1, 0] as Place, value: (far: number) => far }
          : undefined;
      return { text: `drop ${size(fall)}`, at: low, lines: [ends, [chord, low]], dots: [], pull };
    },
    start: () => fromEnd(0),
    end: () => fromEnd(1),
    place: () => {
      const place = raw as unknown as Place;
      return label(
        `${parameter.label} ${place.map((v) => size(v)).join(', ')}`,
        place,
        [0, 1, 2].map((k) => [-1, 1].map((way) => place.map((v, n) => v + (n === k ? way * reach * 2 : 0)) as Place)),
      );
    },
    step: () => {
      const way = raw as unknown as Place;
      const from = spotAt(guide, 0).place;
      return label(`${parameter.label} ${size(Math.hypot(...way))}`, moved(from, way, 1), [
        [from, moved(from, way, 1)],
      ]);
    },
    'from-axis': () => span(words, [...foot], across, value),
    'along-axis': () => span(words, [...foot], axis, value),
    'about-axis': () => {
      const radius =
        (named<number>('size') ?? 0) ||
        Math.hypot(...[0, 1, 2].map((k) => spotAt(guide, 0).place[k] - foot[k])) ||
        reach;
      return label(words, arc(foot, across, second, radius, value).at(-1)!, [
        [[...foot], moved(foot, across, radius)],
        arc(foot, across, second, radius, value),
      ]);
    },
    samples: () => {
      const count = Math.min(MAX_DOTS, guide.start[1] ?? guide.position.length / 3);
      return label(
        words,
        middle.place,
        [],
        Array.from({ length: count }, (_, p) => [0, 1, 2].map((k) => guide.position[3 * p + k]) as Place),
      );
    },
    curves: () => label(`${words}: ${guide.start.length - 1} now`, firstPoints()[0], [], firstPoints()),
    shortest: () => {
      const lengths = Array.from({ length: guide.start.length - 1 }, (_, c) => alongGuide(guide, c).length);
      const least = lengths.indexOf(Math.min(...lengths));
      return label(`${words}: the shortest is ${size(lengths[least])}`, spotAt(guide, 0.5, least).place, [
        stretch(guide, 0, lengths[least], least),
      ]);
    },
    figure: () => label(words, middle.place),
  };
  const fromEnd = (share: 0 | 1): Measured => {
    // what is taken off is not there any more: the line goes on straight where it was
    const { place, tangent } = spotAt(guide, share);
    const out = moved([0, 0, 0], tangent, share === 0 ? -1 : 1);
    return parameter.kind === 'length' ? span(words, place, out, value) : label(words, place);
  };
  return draw[gauge.kind]();
}

const pairText = ({ least, most }: Pair, { factor, digits, unit }: Shown): string =>
  `${round(least / factor, digits)} to ${round(most / factor, digits)} ${unit}`;
