import { curveLengths } from '../curve/arc-length.js';
import { bendRadii } from '../curve/bend.js';
import { curveCount } from '../curve/curve-set.js';
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

export function measure(made: Made, parts: readonly Part[]): Measures {
  const sum = (of: (part: Part) => number) => parts.reduce((total, part) => total + of(part), 0);
  let bendRadius = Infinity;
  for (const radius of bendRadii(made.rails, made.inside)) if (radius < bendRadius) bendRadius = radius;
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
