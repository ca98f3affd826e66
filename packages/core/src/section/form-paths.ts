import type { Profile } from '../document/document.js';
import { type Form, formSection } from './forms.js';

/** Of curved stretches this many points represent a whole turn: few enough to be moved by hand. */
const AROUND = 8;
/** Rounded corners have few faces then. */
const COARSE = 1 / 3;

/**
 * A ready-made section as paths to be drawn on: points at its corners and along its curves, its middle at 0.
 * @param height metres
 */
export function formPaths(form: Form, height: number): Profile['paths'] {
  const numbers = { width: 1, sides: AROUND / COARSE, points: 6, wall: 0.2, depth: 0.35, rounding: 0 };
  const { x, y, face } = formSection(form, numbers, COARSE);
  const paths: Profile['paths'] = [];
  let last = -1;
  for (const column of face) {
    const goesOn = last >= 0 && x[last] === x[column] && y[last] === y[column];
    if (!goesOn) paths.push({ closed: true, points: [] });
    const { points } = paths[paths.length - 1];
    // one column for both sides of a place: it is smooth there
    points.push({ x: (y[column] * height) / 2, y: (x[column] * height) / 2, corner: goesOn && last !== column });
    last = column + 1;
  }
  // whether an outline's first place is sharp shows where it closes
  let at = 0;
  for (const { points } of paths) {
    const [first, end] = [face[at], face[at + points.length - 1] + 1];
    at += points.length;
    points[0].corner = sharpAt(x, y, first, end);
  }
  return paths;
}

/** Whether an outline turns by more than a smooth one does between its last side and its first. */
function sharpAt(x: Float64Array, y: Float64Array, first: number, end: number): boolean {
  const u = [x[end] - x[end - 1], y[end] - y[end - 1]];
  const v = [x[first + 1] - x[first], y[first + 1] - y[first]];
  const turn = Math.abs(Math.atan2(u[0] * v[1] - u[1] * v[0], u[0] * v[0] + u[1] * v[1]));
  return turn > (2.5 * Math.PI) / AROUND;
}
