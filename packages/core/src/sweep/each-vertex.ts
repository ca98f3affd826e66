import { type CurveSet, curveCount } from '../curve/curve-set.js';
import type { Section } from '../section/section.js';
import { capSize, type EndKind } from './caps.js';

/** How skins were swept. */
export interface Skins {
  section: Section;
  start: EndKind;
  end: EndKind;
}

/**
 * Each vertex of skins as `sweep` lays them out, the rings of one line after the other, then all their ends: its line, the
 * point of it counted from its first, and its column where it is on a ring, not on an end. Lines have no hard edges.
 */
export function eachVertex(
  lines: CurveSet,
  { section, start, end }: Skins,
  visit: (v: number, c: number, point: number, column?: number) => void,
): void {
  const columns = section.x.length;
  const caps = [start, end].map((kind) => capSize(section, kind).vertices);
  let vertex = 0;
  let cap = 0;
  for (let c = 0; c < curveCount(lines); c++) cap += (lines.start[c + 1] - lines.start[c] + lines.closed[c]) * columns;
  for (let c = 0; c < curveCount(lines); c++) {
    const points = lines.start[c + 1] - lines.start[c];
    for (let ring = 0; ring < points + lines.closed[c]; ring++)
      for (let k = 0; k < columns; k++) visit(vertex++, c, ring % points, k);
    if (lines.closed[c]) continue;
    for (let k = 0; k < caps[0]; k++) visit(cap++, c, 0);
    for (let k = 0; k < caps[1]; k++) visit(cap++, c, points - 1);
  }
}
