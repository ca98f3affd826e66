import { singleCurve } from '../../curve/curve-set.js';
import { type Mesh, mergeMeshes } from '../../mesh/mesh.js';
import { hullOf } from '../../section/hull.js';
import { roundSection } from '../../section/section.js';
import { sweep } from '../../sweep/sweep.js';
import type { ChainKind } from './kinds.js';

// A link of wire of radius 1: it lies in the plane of x and z, z along the chain, its middle at the origin.

/** How far the ends of a curb link are turned out of its plane, each its own way: two that meet stand at right angles. */
const CURB_TURN = Math.PI / 4;
/** A stud is so thick, in wire radii, and reaches so far into the wire. */
const STUD = { radius: 0.85, into: 0.4 } as const;

/** Middle line of a link's wire, closed, flat xyz. @param steps places on each end */
export function linkLine({ form, pitch, width }: ChainKind, steps: number): Float64Array {
  const arc = width - 1;
  // from end to end inside there is one pitch
  const straight = Math.max(0, pitch + 1 - arc);
  const far = straight + arc;
  const places: number[] = [];
  for (const way of [1, -1])
    for (let k = 0; k <= steps; k++) {
      const angle = (Math.PI * k) / steps;
      places.push(way * arc * Math.cos(angle), 0, way * (straight + arc * Math.sin(angle)));
      if (k < steps || form !== 'curb') continue;
      // what is turned along its length needs places there too
      for (let s = 1; s < 4; s++) places.push(-way * arc, 0, way * straight * (1 - s / 2));
    }
  if (form === 'curb')
    for (let i = 0; i < places.length; i += 3) {
      const turn = (CURB_TURN * places[i + 2]) / far;
      const x = places[i];
      places[i] = x * Math.cos(turn);
      places[i + 1] = x * Math.sin(turn);
    }
  return Float64Array.from(places);
}

/** How far the wire at a link's far end is turned out of its plane; at the near end as much the other way. */
export const endTurn = ({ form }: ChainKind): number => (form === 'curb' ? CURB_TURN : 0);

export function linkMesh(kind: ChainKind, sides: number): Mesh {
  const line = singleCurve(linkLine(kind, Math.max(4, Math.round(sides * 0.8))), { closed: true, smooth: true });
  const wire = sweep(line, roundSection(sides), { radius: 1, startDirection: [0, 1, 0], hardAngle: Math.PI });
  if (kind.form !== 'stud') return wire;
  const half = kind.width - 2 + STUD.into;
  const stud = sweep(singleCurve([-half, 0, 0, half, 0, 0]), roundSection(sides), { radius: STUD.radius });
  return mergeMeshes([wire, stud]);
}

/** Length of a link's wire along its middle, in wire radii. */
export const wireLength = ({ pitch, width }: ChainKind): number =>
  2 * Math.PI * (width - 1) + 4 * Math.max(0, pitch + 2 - width);

/**
 * How far the links of a chain reach to all sides, seen along it: one lies as it is rolled, the next stands across it (a curb
 * chain's all lie). In wire radii; x is the way up.
 */
export function linkReach(kind: ChainKind): { x: Float64Array; y: Float64Array } {
  const x: number[] = [];
  const y: number[] = [];
  const line = linkLine(kind, 24);
  for (let i = 0; i < line.length; i += 3)
    for (let k = 0; k < 16; k++) {
      // a polygon round the wire, not in it
      const round = 1 / Math.cos(Math.PI / 16);
      const [a, b] = [line[i] + round * Math.cos((Math.PI * k) / 8), line[i + 1] + round * Math.sin((Math.PI * k) / 8)];
      x.push(b);
      y.push(a);
      if (kind.form === 'curb') continue;
      x.push(a);
      y.push(-b);
    }
  return hullOf(x, y);
}
