import { singleCurve } from '../../curve/curve-set.js';
import { type Mesh, mergeMeshes } from '../../mesh/mesh.js';
import { transformMesh } from '../../mesh/transform.js';
import { roundedBoxSection } from '../../section/section.js';
import { sweep } from '../../sweep/sweep.js';
import { moved, prism, ring, turned } from '../elements/solids.js';

// Parts that are on a pipe, for one of radius 1: the pipe runs along z, a part's own place is at 0.

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

/** Between two flanges there is a seal of this much on each side: their faces do not lie in each other. */
const SEAL = 0.015;

/** The mesh of a fitting. A flange has its face at 0, but for its seal, and its neck below. @param outside diameter of the pipe, metres */
export function fittingMesh(kind: Fitting, outside: number, sides: number): Mesh {
  const { reach, half } = FITTINGS[kind];
  if (kind === 'bead') return ring(SEATED, reach, -half, half, sides, 1);
  if (kind === 'sleeve') return ring(SEATED, reach, -half, half, sides, 0.35);
  const neck = turned(
    [
      [SEATED, -0.9],
      [1.04, -0.9],
      [1.32, -half],
      [1.32, -half / 2],
      [SEATED, -half / 2],
    ],
    sides,
  );
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
export const rodMesh = (): Mesh =>
  transformMesh(prism(0.22, 0, 1, 12), Float64Array.of(0, 1, 0, 0, 0, 0, 1, 0, 1, 0, 0, 0, 0, 0, 0, 1));
/** A plate square to x, its outer face at 0. */
export const footMesh = (): Mesh => {
  const section = roundedBoxSection(1, 0.2, 3);
  return sweep(singleCurve([-0.22, 0, 0, 0, 0, 0]), section, { radius: 0.75, start: 'chamfered', end: 'flat' });
};
