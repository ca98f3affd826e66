import { singleCurve } from '../../curve/curve-set.js';
import type { Mesh } from '../../mesh/mesh.js';
import { withComputedNormals } from '../../mesh/normals.js';
import { polygonSection, roundedBoxSection, sectionFromOutline } from '../../section/section.js';
import { sweep } from '../../sweep/sweep.js';

// Closed solids that elements are built from.

/** An outline of places (radius, y) from foot to top, turned about y; where it begins and ends on the axis it is closed. */
export function lathe(places: readonly (readonly [number, number])[], sides: number, hardAngle = 0.6): Mesh {
  const rows = places.length;
  const columns = sides + 1;
  const position = new Float32Array(3 * rows * columns);
  const uv = new Float32Array(2 * rows * columns);
  const index: number[] = [];
  let along = 0;
  places.forEach(([radius, y], i) => {
    if (i > 0) along += Math.hypot(radius - places[i - 1][0], y - places[i - 1][1]);
    for (let j = 0; j < columns; j++) {
      const v = i * columns + j;
      const angle = (2 * Math.PI * (j % sides)) / sides;
      position.set([radius * Math.cos(angle), y, radius * Math.sin(angle)], 3 * v);
      uv.set([j / sides, along], 2 * v);
      if (i === 0 || j === sides) continue;
      const [a, b, c, d] = [v - columns, v, v + 1, v - columns + 1];
      if (places[i][0] > 0) index.push(a, b, c);
      if (places[i - 1][0] > 0) index.push(a, c, d);
    }
  });
  const normal = new Float32Array(position.length);
  const groups = [{ start: 0, count: index.length, slot: 'main' }];
  return withComputedNormals({ position, normal, uv, index: Uint32Array.from(index), quads: 0, groups }, hardAngle);
}

/** Places (radius, y) on an arc about a middle on the axis, from one height angle to another, radians. */
export const arcPlaces = (middle: number, radius: number, from: number, to: number, steps: number) =>
  Array.from({ length: steps + 1 }, (_, k): [number, number] => {
    const angle = from + ((to - from) * k) / steps;
    const far = radius * Math.cos(angle);
    return [far < 1e-9 * radius ? 0 : far, middle + radius * Math.sin(angle)];
  });

/** A ring about z with a rounded outline. @param rounding 0 sharp … 1 */
export const ring = (
  inner: number,
  outer: number,
  low: number,
  high: number,
  sides: number,
  rounding: number,
): Mesh => {
  const [h, w] = [(outer - inner) / 2, (high - low) / 2];
  return about((outer + inner) / 2, (high + low) / 2, sides, roundedBoxSection(w / h, rounding, 3), h);
};

/** An outline of places (radius, z), none on the axis, turned about z; its corners are sharp. */
export function turned(places: readonly (readonly [number, number])[], sides: number): Mesh {
  const middle = places.reduce((sum, [r]) => sum + r, 0) / places.length;
  const x = Float64Array.from(places, ([r]) => r - middle);
  const y = Float64Array.from(places, ([, z]) => z);
  let area = 0;
  x.forEach((value, i) => {
    const j = (i + 1) % x.length;
    area += value * y[j] - x[j] * y[i];
  });
  const [a, b] = area > 0 ? [x, y] : [x.toReversed(), y.toReversed()];
  return about(middle, 0, sides, sectionFromOutline(a, b, { hardAngle: 0.1 }), 1);
}

/** A section swept round z at a radius: clockwise, so that its x points outwards and its y along z. */
function about(
  radius: number,
  z: number,
  sides: number,
  section: ReturnType<typeof roundedBoxSection>,
  size: number,
): Mesh {
  const circle = Array.from({ length: sides }, (_, k) => {
    const angle = (-2 * Math.PI * k) / sides;
    return [radius * Math.cos(angle), radius * Math.sin(angle), z];
  });
  const line = singleCurve(circle.flat(), { closed: true, smooth: true });
  return sweep(line, section, { radius: size, startDirection: [1, 0, 0], hardAngle: Math.PI });
}

/** A prism along z. */
export const prism = (radius: number, low: number, high: number, sides: number): Mesh =>
  sweep(singleCurve([0, 0, low, 0, 0, high]), polygonSection(sides, sides > 8 ? Math.PI : 0.5), {
    radius,
    startDirection: [1, 0, 0],
  });

/** Moved, column-major 4×4. */
export const moved = (x: number, y: number, z: number): Float64Array =>
  Float64Array.of(1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, x, y, z, 1);
