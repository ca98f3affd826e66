import { curveLengths } from '../curve/arc-length.js';
import { bendRadii } from '../curve/bend.js';
import { curveCount, POINT } from '../curve/curve-set.js';
import { signedVolume } from '../mesh/measure.js';
import { partCounts, realMesh } from '../part/part.js';
import { insideOfBend } from '../part/reach.js';
import { LINK } from '../path/strung/link.js';
import type { Made, Measure, Part } from '../unit/carriers.js';

/** What a piece amounts to. Metres, m³; `bendRadius` is Infinity where nothing bends. */
export interface Measures {
  curves: number;
  length: number;
  triangles: number;
  vertices: number;
  bytes: number;
  volume: number;
  bendRadius: number;
  /** What the make unit adds. */
  further: Measure[];
}

/** How tight one body's line is along its length: one number a point, metres. */
export interface BendProfile {
  /** Length from the start of the curve. */
  along: Float32Array;
  radius: Float32Array;
  /** The tightest that is allowed there. */
  least: Float32Array;
}

/** Bodies beyond this many are not drawn in the strip: their courses would lie over each other. */
const MAX_PROFILES = 50;

export function measure(made: Made): Measures {
  const counts = made.parts.map(partCounts);
  const sum = (of: (count: (typeof counts)[number]) => number) => counts.reduce((total, count) => total + of(count), 0);
  let bendRadius = Infinity;
  for (const body of made.bodies)
    for (const radius of bendRadii(body.curves, insideOfBend(body))) if (radius < bendRadius) bendRadius = radius;
  return {
    curves: curveCount(made.guide),
    length: curveLengths(made.guide).reduce((total, length) => total + length, 0),
    triangles: sum(({ triangles }) => triangles),
    vertices: sum(({ vertices }) => vertices),
    bytes: sum(({ bytes }) => bytes),
    volume: made.parts.reduce((total, part) => total + partVolume(part), 0),
    bendRadius,
    further: [...made.measures, ...clearance(made)],
  };
}

/** How near strung lines come to anything, where it was looked for. */
function clearance({ guide }: Made): Measure[] {
  let least = Infinity;
  for (const one of guide.curveData[LINK.clear] ?? []) least = Math.min(least, one);
  return Number.isFinite(least)
    ? [{ id: 'clear', label: 'Clearance', quantity: 'length', value: Math.max(0, least) }]
    : [];
}

/** Strands are too many and too thin to be made real for their volume: it is the section's, along their length. */
function partVolume(part: Part): number {
  if (part.kind !== 'strands') return signedVolume(realMesh(part));
  const { curves, width } = part;
  let sum = 0;
  for (let c = 0; c < curveCount(curves); c++)
    for (let p = curves.start[c]; p + 1 < curves.start[c + 1]; p++) {
      const step = Math.hypot(...[0, 1, 2].map((n) => curves.position[3 * p + 3 + n] - curves.position[3 * p + n]));
      sum += step * Math.PI * ((width[p] + width[p + 1]) / 4) ** 2;
    }
  return sum;
}

/** The bends of a piece's bodies, one profile a body. */
export function bendProfiles({ bodies }: Made): BendProfile[] {
  return bodies.slice(0, MAX_PROFILES).map((body) => {
    const inside = insideOfBend(body);
    return {
      along: body.curves.pointData[POINT.along],
      radius: Float32Array.from(bendRadii(body.curves, inside)),
      least: inside.map((reach) => reach * body.leastBend),
    };
  });
}
