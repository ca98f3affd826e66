import type { Finding } from '@kelp/core';

/** One JSON value on standard output, and nothing else. */
export const printJson = (value: unknown): void => {
  process.stdout.write(`${JSON.stringify(value, (_key, v) => (v === Infinity ? null : v), 2)}\n`);
};

export const print = (line: string): void => {
  process.stdout.write(`${line}\n`);
};

/** One line: severity, piece, place, what is wrong, and the fixes. */
export function findingLine(piece: string, { severity, message, place, fix, others = [] }: Finding): string {
  const where = place ? ` at ${place.map((value) => value.toFixed(3)).join(', ')} m` : '';
  return `${severity}: ${piece}${where}: ${message}${fix ? ` Fix: ${[fix, ...others].map(({ label }) => label).join(', or ')}.` : ''}`;
}
