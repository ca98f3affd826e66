import { curveLengths } from '../curve/arc-length.js';
import { bendRadii } from '../curve/bend.js';
import { curveCount, POINT } from '../curve/curve-set.js';
import { signedVolume } from '../mesh/measure.js';
import { meshBytes, triangleCount, vertexCount } from '../mesh/mesh.js';
import type { Made, Part } from '../unit/unit.js';

/** What a piece amounts to. Metres, m³; `bendRadius` is Infinity where nothing bends. */
export interface Measures {
  curves: number;
  length: number;
  triangles: number;
  vertices: number;
  bytes: number;
  volume: number;
  bendRadius: number;
}

/** How tight the line is along its length: one number a rail point, metres. */
export interface BendProfile {
  /** Length from the start of the curve. */
  along: Float32Array;
  radius: Float32Array;
  /** The tightest that is allowed there. */
  least: Float32Array;
}

export function measure(made: Made, parts: readonly Part[], bends: BendProfile): Measures {
  const sum = (of: (part: Part) => number) => parts.reduce((total, part) => total + of(part), 0);
  let bendRadius = Infinity;
  for (const radius of bends.radius) if (radius < bendRadius) bendRadius = radius;
  return {
    curves: curveCount(made.rails),
    length: curveLengths(made.rails).reduce((total, length) => total + length, 0),
    triangles: sum((part) => triangleCount(part.mesh)),
    vertices: sum((part) => vertexCount(part.mesh)),
    bytes: sum((part) => meshBytes(part.mesh)),
    volume: sum((part) => signedVolume(part.mesh)),
    bendRadius,
  };
}

export function bendProfile({ rails, inside, leastBend }: Made): BendProfile {
  return {
    along: rails.pointData[POINT.along],
    radius: Float32Array.from(bendRadii(rails, inside)),
    least: inside.map((reach) => reach * leastBend),
  };
}
