import { CURVE, curveCount, POINT } from '../curve/curve-set.js';
import { tangentsOf } from '../curve/tangents.js';
import { MAX_BEND } from '../sweep/mitre.js';
import { type Corner, findCorners } from '../sweep/rings.js';
import type { SweptBody } from '../unit/carriers.js';
import { reachTowards } from './reach.js';

/** A corner whose mitre does not fit one of its legs; lengths in metres. */
export interface ShortMitre {
  curve: number;
  point: number;
  /** What the mitres at both ends of the leg take of it, and how long it is. */
  needed: number;
  leg: number;
}

/** A section may turn on its way along a leg: what its mitres take is known to within this much of it. */
const TURNS_BY = 1.02;

/** Corners next to a leg that is shorter than its mitres, which then pass through each other. One for each such leg. */
export function shortMitres(body: SweptBody): ShortMitre[] {
  const { curves, section } = body;
  const corners = findCorners(curves, section.outline?.tangent ?? tangentsOf(curves));
  if (corners.size === 0) return [];
  const along = curves.pointData[POINT.along];
  const out: ShortMitre[] = [];
  const all = Uint32Array.from(corners.keys()).sort();
  let next = 0;
  for (let c = 0; c < curveCount(curves); c++) {
    const from = next;
    while (next < all.length && all[next] < curves.start[c + 1]) next++;
    if (next === from) continue;
    const points = Array.from(all.subarray(from, next));
    const round = curves.curveData[CURVE.length][c];
    const takes = points.map((p) => taken(body, p, corners.get(p) as Corner));
    const tell = (point: number, taken: number, leg: number) => {
      const needed = leg < taken ? taken : TURNS_BY * taken;
      if (leg < needed) out.push({ curve: c, point, needed, leg });
    };
    // the legs after each corner, and of an open line the one before its first
    points.forEach((p, k) => {
      const isLast = k === points.length - 1;
      const after = isLast && curves.closed[c] ? 0 : k + 1;
      const to = isLast ? (curves.closed[c] ? along[points[0]] + round : round) : along[points[after]];
      tell(p, takes[k] + (after < points.length ? takes[after] : 0), to - along[p]);
    });
    if (!curves.closed[c]) tell(points[0], takes[0], along[points[0]]);
  }
  return out;
}

/** Corners at which the line turns back more sharply than a mitre can be: curve, point and turn, radians. */
export function sharpCorners({ curves, section }: SweptBody): { curve: number; point: number; bend: number }[] {
  const corners = findCorners(curves, section.outline?.tangent ?? tangentsOf(curves));
  return [...corners].flatMap(([point, { bend }]) => {
    const curve = curves.start.findIndex((_, c) => point < curves.start[c + 1]);
    return bend > MAX_BEND ? [{ curve, point, bend }] : [];
  });
}

/** How far the mitre reaches back along a leg on the inside of its bend, metres. */
function taken({ section }: SweptBody, p: number, { bend, mitre: [x, y, z] }: Corner): number {
  return reachTowards(section, p, x, y, z) * Math.tan(Math.min(bend, 3) / 2);
}
