import { BOUNDS } from './schema.js';

// The same that the schemas of points and elements say, as plain comparisons: a document may hold a hundred thousand.

type Json = Record<string, unknown>;
type Bounds = readonly [number, number];

const within = (value: unknown, [min, max]: Bounds): boolean =>
  typeof value === 'number' && value >= min && value <= max;

/** A list of numbers, as many as bounds are given. */
const numbers = (value: unknown, ...bounds: readonly Bounds[]): boolean =>
  Array.isArray(value) && value.length === bounds.length && bounds.every((one, i) => within(value[i], one));

const place = (value: unknown): boolean => numbers(value, BOUNDS.coordinate, BOUNDS.coordinate, BOUNDS.coordinate);

/** Whether an object has all of the first names, perhaps some of the others, and nothing else. */
function has(value: unknown, needed: readonly string[], allowed: readonly string[]): value is Json {
  if (typeof value !== 'object' || value === null || Array.isArray(value)) return false;
  for (const name of needed) if ((value as Json)[name] === undefined) return false;
  for (const name in value) if (!needed.includes(name) && !allowed.includes(name)) return false;
  return true;
}

const isId = (value: unknown): boolean => typeof value === 'string' && /^[\w-]{1,64}$/.test(value);
const isOptional = (value: unknown, holds: (value: unknown) => boolean): boolean => value === undefined || holds(value);

const isAnchor = (value: unknown): boolean =>
  has(value, ['prop', 'triangle', 'barycentric', 'height'], ['rise']) &&
  isId(value['prop']) &&
  Number.isInteger(value['triangle']) &&
  within(value['triangle'], BOUNDS.triangle) &&
  numbers(value['barycentric'], BOUNDS.barycentric, BOUNDS.barycentric, BOUNDS.barycentric) &&
  within(value['height'], BOUNDS.coordinate) &&
  isOptional(value['rise'], (rise) => within(rise, BOUNDS.coordinate));

/** A point of a drawn line. */
export const isPoint = (value: unknown): boolean =>
  has(value, ['position', 'corner', 'radius'], ['anchor', 'roll']) &&
  place(value['position']) &&
  typeof value['corner'] === 'boolean' &&
  within(value['radius'], BOUNDS.thickness) &&
  isOptional(value['roll'], (roll) => within(roll, BOUNDS.roll)) &&
  isOptional(value['anchor'], isAnchor);

/** A point of an outline. */
export const isOutlinePoint = (value: unknown): boolean =>
  has(value, ['x', 'y', 'corner'], ['bulge']) &&
  within(value['x'], BOUNDS.coordinate) &&
  within(value['y'], BOUNDS.coordinate) &&
  typeof value['corner'] === 'boolean' &&
  isOptional(value['bulge'], (bulge) => within(bulge, BOUNDS.bulge));

/** An element that was changed by hand. */
export const isElement = (value: unknown): boolean =>
  has(value, ['id'], ['dropped', 'move', 'turn', 'size', 'prop']) &&
  Number.isInteger(value['id']) &&
  within(value['id'], BOUNDS.element) &&
  isOptional(value['dropped'], (dropped) => typeof dropped === 'boolean') &&
  isOptional(value['move'], place) &&
  isOptional(value['turn'], (turn) => within(turn, BOUNDS.roll)) &&
  isOptional(value['size'], (size) => within(size, BOUNDS.elementSize)) &&
  isOptional(value['prop'], (prop) => typeof prop === 'string' && prop.length <= 64);
