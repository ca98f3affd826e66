import { beforeAll, expect, it } from 'vitest';
import { lineOf } from '../src/evaluate/line.js';
import {
  type AlongValue,
  evaluatePiece,
  findUnit,
  isLane,
  newUse,
  type Pair,
  type ParameterValues,
  type Piece,
  Surroundings,
  type Unit,
  unitsOf,
  World,
} from '../src/index.js';
import { loadLevelSets } from '../src/mesh/level-set.js';
import { boundsOf } from '../src/mesh/measure.js';
import { greatest } from '../src/numeric/lane.js';
import { partCounts, realMesh } from '../src/part/part.js';
import type { BuildContext } from '../src/unit/unit.js';
import { lineFor } from './helpers.js';
import { alongPoints } from './projects.js';

// What a recipe says of itself before it is built, held against what is then built: for every preset of every make unit.

type Place = [number, number, number];
const LINES: Record<string, { points: Place[]; closed?: boolean; corners?: boolean }> = {
  bent: {
    points: [
      [0, 0, 0],
      [0.5, 0.1, 0.1],
      [1, 0, 0],
    ],
  },
  cornered: {
    points: [
      [0, 0, 0],
      [1.2, 0, 0],
      [1.2, 0, 1.2],
    ],
    corners: true,
  },
  closed: {
    points: [
      [0, 0, 0],
      [1, 0, 0],
      [1, 0, 1],
      [0, 0, 1],
    ],
    closed: true,
  },
};
/** How far what is made may differ from what was said: little where rings are counted (a corner has two), much where rims are met or slabs filled. */
const ROUGH: Record<string, number> = { laid: 1.3, pipe: 4, fill: 12, bridge: 3, tendrils: 1.45 };
/** Of these much is placed: about as much as was said. */
const FURNISHED: Record<string, number> = {
  'cut-cable': 2,
  'cable-bundle': 1.7,
  'hose-fan': 1.7,
  'clipped-run': 12,
  'sensor-lead': 1.3,
  'power-lead': 1.3,
  'welded-truss': 1.5,
};

/** The same parameters for a thing this many times as large. */
function scaled(unit: Unit, parameters: ParameterValues, by: number): ParameterValues {
  const out = { ...parameters };
  const times = (value: AlongValue, factor: number): AlongValue =>
    isLane(value)
      ? { ...value, knots: value.knots.map((knot) => ({ ...knot, value: factor * knot.value })) }
      : factor * value;
  for (const [name, parameter] of Object.entries(unit.parameters)) {
    const value = out[name];
    if (parameter.kind === 'length') out[name] = times(value as AlongValue, by);
    if (parameter.kind === 'rate') out[name] = times(value as AlongValue, 1 / by);
    if (parameter.kind === 'pair' && parameter.each === 'length')
      out[name] = { least: by * (value as Pair).least, most: by * (value as Pair).most };
  }
  return out;
}

/** Sold by sizes of a table: these do not grow with what they are on. */
const BY_TABLE = ['pipe flanged-pipe', 'chain roller-chain'];

/** What hangs off it is of the one skin, or between two clips: neither its reach nor its count goes with its size alone. */
const HANGS = ['tendrils slime-skin', 'cable clipped-run'];

beforeAll(() => loadLevelSets());

const NOWHERE = new Surroundings(new Map());

function along(line: keyof typeof LINES | Place[], unit: string, preset: string, density = 1, by = 1) {
  const { points: whole, closed = false, corners = false } = Array.isArray(line) ? { points: line } : LINES[line];
  // what consists of many is tried on as much of a line as it is thick
  const size = ['laid', 'braid'].includes(unit)
    ? 8 * greatest(newUse('make', unit, preset).parameters['radius'] as number)
    : lineFor(unit);
  const points = whole.map((place) => place.map((value) => by * size * value) as Place);
  const { document, piece } = alongPoints(points, (one: Piece) => {
    one.make = newUse('make', unit, preset);
    if (by !== 1) one.make.parameters = scaled(findUnit(unit)!, one.make.parameters, by);
  });
  document.curves[0].closed = closed;
  for (const point of document.curves[0].points) point.corner = corners;
  const world = new World(document, NOWHERE);
  return { made: evaluatePiece(world, piece, { density }).parts, line: lineOf(world, piece).curves, piece };
}

const presets = unitsOf('make').flatMap((unit) => unit.presets.map(({ id }) => [unit.id, id] as const));

it.each(presets)(
  '%s, %s: costs about what it says, is at most as thick and as broad as it says, and says so in words',
  (id, preset) => {
    const unit = unitsOf('make').find((one) => one.id === id);
    if (!unit) throw new Error('It is listed');
    for (const line of Object.keys(LINES))
      for (const density of [1, 0.5]) {
        const { made, line: path, piece } = along(line, id, preset, density);
        const said = unit.cost?.(path, piece.make.parameters, {
          density,
          surroundings: NOWHERE,
          profile: () => undefined,
          piece: () => undefined,
        } as unknown as BuildContext);
        const vertices = made.reduce((sum, part) => sum + partCounts(part).vertices, 0);
        if (!said || vertices === 0) continue;
        const rough = ROUGH[id] ?? FURNISHED[preset] ?? 1.06;
        expect(said.vertices / vertices, `${line} at ${density}`).toBeLessThan(rough);
        expect(vertices / said.vertices, `${line} at ${density}`).toBeLessThan(rough);
        expect(said.bytes / said.vertices).toBeGreaterThanOrEqual(32);
      }
    if (HANGS.includes(`${id} ${preset}`)) return;
    const { made, piece } = along(
      [
        [0, 0, 0],
        [0.4, 0, 0],
        [0.8, 0, 0],
      ],
      id,
      preset,
    );
    const p = piece.make.parameters;
    const [thick, broad] = [unit.thickness?.(p), unit.breadth?.(p) ?? unit.thickness?.(p)].map((size) =>
      greatest(size ?? 0),
    );
    const boxes = made.filter(({ slot }) => slot === 'main').map((part) => boundsOf(realMesh(part).position));
    const far = (axis: number) => Math.max(0, ...boxes.flatMap(({ min, max }) => [-min[axis], max[axis]]));
    // what is leant or crowned may use up less of it; a slab needs a closed line, a bridge openings
    const plate = p['start'] === 'plate' ? 1.65 : 1.001;
    // towards what it lies on; what is on its line reaches as far up as it likes
    const below = Math.max(0, ...boxes.map(({ min }) => -min[1]));
    expect(below).toBeLessThan(plate * Math.max(thick, ['ribbon', 'coil'].includes(id) ? broad : 0) + 1e-9);
    expect(far(2)).toBeLessThan(plate * broad + 1e-9);
    if (boxes.length > 0) expect(Math.max(far(1), far(2))).toBeGreaterThan(0.7 * Math.max(thick, broad));
    // the same at another size looks the same
    if (id !== 'zip' && !BY_TABLE.includes(`${id} ${preset}`)) {
      const large = along(
        [
          [0, 0, 0],
          [0.4, 0, 0],
          [0.8, 0, 0],
        ],
        id,
        preset,
        1,
        20,
      ).made;
      expect(large.map((part) => partCounts(part).vertices)).toEqual(made.map((part) => partCounts(part).vertices));
      const extents = [made, large].map((parts) =>
        parts.map((part) => boundsOf(realMesh(part).position)).flatMap(({ min, max }) => [...min, ...max]),
      );
      for (const [k, value] of extents[0].entries())
        expect(Math.abs(extents[1][k] / 20 - value)).toBeLessThan(0.02 * Math.max(thick, broad));
    }
    const words = unit.describe(p, (metres) => `<${metres.toFixed(6)}>`);
    expect(words.length).toBeGreaterThan(3);
    for (const [, value] of words.matchAll(/<([^>]+)>/g)) {
      expect(Number(value)).toBeGreaterThan(0);
      expect(Number(value)).toBeLessThan(2.001 * Math.max(thick, broad, greatest((p['radius'] as number) ?? 0)));
    }
  },
);
