import { singleCurve } from '../../curve/curve-set.js';
import { type Mesh, mergeMeshes } from '../../mesh/mesh.js';
import { transformMesh } from '../../mesh/transform.js';
import { roundSection, sectionFromOutline } from '../../section/section.js';
import { sweep } from '../../sweep/sweep.js';
import type { ChainKind } from './kinds.js';

// A roller chain of rollers of radius 1: z along the chain, x along the pins, y the height of the plates.

/** In roller radii: half the height of a plate, its thickness, the pin, and the room between plates. Common practice, no source. */
const PLATE = { half: 1.36, waist: 0.94, thick: 0.38 } as const;
const PIN = 0.52;
const ROOM = 0.05;

/** How far the chain reaches along its pins, and across its plates, in roller radii. */
export const rollerReach = ({ width }: ChainKind): { x: number; y: number } => ({
  x: outerPlate(width) + PLATE.thick + ROOM + 0.14,
  y: PLATE.half,
});

/** Where the inner plates begin, seen from the middle, and the outer ones. */
const innerPlate = (width: number) => width;
const outerPlate = (width: number) => width + PLATE.thick + ROOM;

/** Links of rollers and inner plates, and of pins and outer plates; the first pin at −pitch / 2. */
export function rollerLinks(kind: ChainKind, sides: number): { inner: Mesh; outer: Mesh } {
  const { pitch, width } = kind;
  const rod = (z: number, radius: number, half: number): Mesh => {
    // what is chamfered goes on beyond its line by a quarter of its radius
    const line = half - radius / 4;
    return sweep(singleCurve([-line, 0, z, line, 0, z]), roundSection(sides), {
      radius,
      start: 'chamfered',
      end: 'chamfered',
    });
  };
  const plates = (from: number) => [1, -1].map((way) => plate(kind, way * (from + PLATE.thick / 2), sides));
  const ends = [-pitch, pitch];
  return {
    inner: mergeMeshes([...plates(innerPlate(width)), ...ends.map((z) => rod(z, 1, innerPlate(width) + 0.25))]),
    outer: mergeMeshes([...plates(outerPlate(width)), ...ends.map((z) => rod(z, PIN, rollerReach(kind).x))]),
  };
}

/** A plate with a waist, its middle at x. */
function plate({ pitch }: ChainKind, x: number, sides: number): Mesh {
  const steps = Math.max(6, sides >> 1);
  const across: number[] = [];
  const along: number[] = [];
  for (const way of [1, -1]) {
    for (let k = 0; k <= steps; k++) {
      const angle = Math.PI * (k / steps);
      across.push(way * PLATE.half * Math.cos(angle));
      along.push(way * (pitch + PLATE.half * Math.sin(angle)));
    }
    // the waist on the way back
    for (let k = 1; k < 8; k++) {
      const t = 1 - k / 4;
      across.push(-way * (PLATE.waist + (PLATE.half - PLATE.waist) * t * t));
      along.push(way * pitch * t);
    }
  }
  const section = sectionFromOutline(
    Float64Array.from(along),
    Float64Array.from(across, (value) => -value),
    {
      hardAngle: 0.6,
    },
  );
  const flat = sweep(singleCurve([0, 0, -PLATE.thick / 2, 0, 0, PLATE.thick / 2]), section, {
    radius: 1,
    startDirection: [1, 0, 0],
  });
  // its outline lies in x and y: its length is laid along z, its thickness along x
  return transformMesh(flat, Float64Array.of(0, 0, 1, 0, 0, 1, 0, 0, -1, 0, 0, 0, x, 0, 0, 1));
}
