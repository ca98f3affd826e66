import {
  addDependencies,
  create,
  divideDependencies,
  evaluateDependencies,
  multiplyDependencies,
  powDependencies,
  subtractDependencies,
  toDependencies,
  type Unit,
  unitDependencies,
} from 'mathjs';
import type { Shown } from './units.js';

const math = create({
  addDependencies,
  divideDependencies,
  evaluateDependencies,
  multiplyDependencies,
  powDependencies,
  subtractDependencies,
  toDependencies,
  unitDependencies,
});

/** Evaluates arithmetic with units of length or angle and gives the number in the shown unit. */
export function evaluate(text: string, shown: Shown): number {
  let value: unknown;
  try {
    value = math.evaluate(
      text
        .replaceAll(/(\d)\s*"/g, '$1 in')
        .replaceAll(/(\d)\s*'/g, '$1 ft')
        .replaceAll(/\bturns\/m\b|\/m$/g, ''),
    );
  } catch {
    throw new Error(`"${text.slice(0, 30)}" cannot be read. Try 12, 3/8 in or 2*12mm.`);
  }
  if (typeof value === 'number' && Number.isFinite(value)) return value;
  const unit = value as Unit;
  const target = shown.unit === '°' ? 'deg' : shown.unit;
  try {
    const number = unit.toNumber(target);
    if (Number.isFinite(number)) return number;
  } catch {
    // not convertible: reported below
  }
  throw new Error(
    target ? `"${text.slice(0, 30)}" is not in ${target}.` : `"${text.slice(0, 30)}" is not a plain number.`,
  );
}
