import { singleCurve } from '../../curve/curve-set.js';
import { type Mesh, mergeMeshes } from '../../mesh/mesh.js';
import { transformMesh } from '../../mesh/transform.js';
import { polygonSection, roundedBoxSection, sectionFromOutline } from '../../section/section.js';
import { sweep } from '../../sweep/sweep.js';

// Parts that stand on a pipe, for one of radius 1: the pipe runs along z, a part's own place is at 0.

/** What joins pipes, or ends one. Proportions are common practice, no source. */
export const FITTINGS = {
  bead: { label: 'Weld bead', reach: 1.09, half: 0.1 },
  sleeve: { label: 'Sleeve', reach: 1.24, half: 0.75 },
  flange: { label: 'Flange', reach: 1.95, half: 0.32 },
} as const;
export type Fitting = keyof typeof FITTINGS;

/** How deep a ring reaches into the pipe's wall: its own inner side is never seen. */
const SEATED = 0.96;
/** Bolts of a flange by the pipe's outside diameter in metres: 4, 8, 12 (class 150 of ASME B16.5, from memory). */
const BOLTS = [
  { upTo: 0.09, count: 4 },
  { upTo: 0.25, count: 8 },
  { upTo: Infinity, count: 12 },
] as const;

/** Between two flanges there is a seal of so much on each side: their faces do not lie in each other. */
const SEAL = 0.015;

/** The mesh of a fitting. A flange has its face at 0, but for its seal, and its neck below. @param outside diameter of the pipe, metres */
export function fittingMesh(kind: Fitting, outside: number, sides: number): Mesh {
  const { reach, half } = FITTINGS[kind];
  if (kind === 'bead') return ring(SEATED, reach, -half, half, sides, 1);
  if (kind === 'sleeve') return ring(SEATED, reach, -half, half, sides, 0.35);
  const neck = turned([[SEATED, -0.9], [1.04, -0.9], [1.32, -half], [1.32, -half / 2], [SEATED, -half / 2]], sides); // biome-ignore format: one line
  const plate = ring(SEATED, reach, -half, -SEAL, sides, 0.12);
  const bolts = BOLTS.find(({ upTo }) => outside <= upTo)?.count ?? 4;
  const circle = (1.32 + reach) / 2;
  const bolt = mergeMeshes([prism(0.17, -half - 0.16, -half + 0.02, 6), prism(0.09, -half - 0.3, -half, 12)]);
  const around = Array.from({ length: bolts }, (_, k) => {
    // none straight above: a flange is turned so that its bolts straddle the middle
    const angle = (2 * Math.PI * (k + 0.5)) / bolts;
    return transformMesh(bolt, moved(circle * Math.cos(angle), circle * Math.sin(angle), 0));
  });
  return mergeMeshes([plate, neck, ...around]);
}

/** A clamp about the pipe. */
export const clampMesh = (sides: number): Mesh => ring(SEATED, 1.16, -0.3, 0.3, sides, 0.3);
/** A rod from the middle of the pipe along x, 1 long: it is stretched to what it is fastened to. */
export const rodMesh = (): Mesh => transformMesh(prism(0.22, 0, 1, 12), Float64Array.of(0, 1, 0, 0, 0, 0, 1, 0, 1, 0, 0, 0, 0, 0, 0, 1)); // biome-ignore format: one line
/** A plate square to x, its outer face at 0. */
export const footMesh = (): Mesh => {
  const section = roundedBoxSection(1, 0.2, 3);
  return sweep(singleCurve([-0.22, 0, 0, 0, 0, 0]), section, { radius: 0.75, start: 'chamfered', end: 'flat' });
};

/** A ring about z with a rounded outline. @param rounding 0 sharp … 1 */
const ring = (inner: number, outer: number, low: number, high: number, sides: number, rounding: number): Mesh => {
  const [h, w] = [(outer - inner) / 2, (high - low) / 2];
  return about((outer + inner) / 2, (high + low) / 2, sides, roundedBoxSection(w / h, rounding, 3), h);
};

/** An outline of places (radius, z), turned about z; its corners are sharp. */
function turned(places: readonly (readonly [number, number])[], sides: number): Mesh {
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
const prism = (radius: number, low: number, high: number, sides: number): Mesh =>
  sweep(singleCurve([0, 0, low, 0, 0, high]), polygonSection(sides, sides > 8 ? Math.PI : 0.5), {
    radius,
    startDirection: [1, 0, 0],
  });

const moved = (x: number, y: number, z: number): Float64Array =>
  Float64Array.of(1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, x, y, z, 1);
