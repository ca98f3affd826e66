import { allocateCurves, CURVE, curveCount, POINT, pointCount } from '../../curve/curve-set.js';
import { childId } from '../../numeric/random.js';
import type { Course, Strands } from '../bundle/strands.js';
import type { BraidSize } from './solve.js';
import type { Weave } from './weave.js';

/** How a braid lies along its lines. */
export interface Lying {
  weave: Weave;
  size: BraidSize;
  /** Turns, or ways there and back, from the start at each point of the lines; turned by roll beside that, radians. */
  turns: ArrayLike<number>;
  roll: (p: number) => number;
  /** Radius of a strand in its middle, in radii of the braid; 0 when it is hollow. */
  core: number;
}

/**
 * The middle lines of the strands: c(s) + R(s)·(X N + Y B), (X, Y) the strand's spot in the weave over rotation-minimizing
 * frames (N, B), so that a bend adds no turn.
 */
export function braidedAbout({ rails, frames: { tangent, normal }, radius }: Course, lying: Lying): Strands {
  const { weave, size, turns, roll, core } = lying;
  const each = weave.count + (core > 0 ? 1 : 0);
  const lines = allocateCurves(curveCount(rails) * each, pointCount(rails) * each, [POINT.along]);
  lines.curveData[CURVE.length] = new Float32Array(curveCount(rails) * each);
  const own = new Float32Array(pointCount(rails) * each);
  let to = 0;
  for (let c = 0; c < curveCount(rails); c++)
    for (let k = 0; k < each; k++) {
      const strand = c * each + k;
      lines.closed[strand] = rails.closed[c];
      lines.id[strand] = childId(rails.id[c], k);
      for (let p = rails.start[c]; p < rails.start[c + 1]; p++, to++) {
        const spot = k < weave.count ? weave.at(k, turns[p], size.middle, size.waves) : { x: 0, y: 0 };
        const [cos, sin] = [Math.cos(roll(p)), Math.sin(roll(p))];
        const x = radius[p] * (spot.x * cos - spot.y * sin);
        const y = radius[p] * (spot.x * sin + spot.y * cos);
        for (let n = 0; n < 3; n++) {
          const [a, b] = [3 * p + ((n + 1) % 3), 3 * p + ((n + 2) % 3)];
          const binormal = tangent[a] * normal[b] - tangent[b] * normal[a];
          lines.position[3 * to + n] = rails.position[3 * p + n] + x * normal[3 * p + n] + y * binormal;
        }
        own[to] = radius[p] * (k < weave.count ? size.radius : core);
      }
      lines.start[strand + 1] = to;
    }
  return { lines, radius: own, each, inOuter: 1 };
}
