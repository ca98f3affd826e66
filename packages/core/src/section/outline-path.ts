import type { Section } from './section.js';

/** A section as an SVG path within −1 to 1, its top up: a small picture, filled by even-odd. */
export function outlinePath({ x, y, face }: Section): string {
  const far = x.reduce((most, _, i) => Math.max(most, Math.abs(x[i]), Math.abs(y[i])), 0);
  const place = (column: number) => `${(y[column] / far).toFixed(3)} ${(-x[column] / far).toFixed(3)}`;
  let path = '';
  let last = -1;
  for (const column of face) {
    // a stretch that does not go on from the one before begins another outline
    const goesOn = last >= 0 && x[last] === x[column] && y[last] === y[column];
    path += `${goesOn ? '' : `${path && 'Z'}M${place(column)}`}L${place(column + 1)}`;
    last = column + 1;
  }
  return `${path}Z`;
}
