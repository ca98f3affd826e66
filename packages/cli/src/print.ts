import type { Finding } from '@kelp/core';

/** One JSON value on standard output, and nothing else. */
export const printJson = (value: unknown): void => {
  process.stdout.write(`${JSON.stringify(value, (_key, v) => (v === Infinity ? null : v), 2)}\n`);
};

export const print = (line: string): void => {
  process.stdout.write(`${line}\n`);
};

/** One line: severity, what, where, how much. */
export function findingLine(piece: string, { severity, message, place, size, fix, others = [] }: Finding): string {
  const where = place ? ` at ${place.map((value) => value.toFixed(3)).join(', ')} m` : '';
  const much = size ? ` (${amount(size.value, size.kind)}, limit ${amount(size.limit, size.kind)})` : '';
  return `${severity}: ${piece}${where}: ${message}${much}${fix ? ` Fix: ${[fix, ...others].map(({ label }) => label).join(', or ')}.` : ''}`;
}

const amount = (value: number, kind: NonNullable<Finding['size']>['kind']): string =>
  kind === 'angle'
    ? `${((value * 180) / Math.PI).toFixed(1)}°`
    : kind === 'count'
      ? String(Math.round(value))
      : `${(value * 1000).toFixed(2)} mm`;
