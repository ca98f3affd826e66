import { isSharp, outlinesOf } from './blend/loops.js';
import { type Column, inColumns, type Section } from './section.js';

/**
 * The same section with its seam, where the texture begins and ends, at the place nearest to a share of the way round.
 * A sheet has its seam at its edge, whatever is asked.
 */
export function withSeam(section: Section, share: number): Section {
  const wanted = share - Math.floor(share);
  if (wanted === 0 || section.open) return section;
  const columns: Column[] = [];
  const face: number[] = [];
  const rim: number[] = [];
  const moved = new Map<number, number>();
  for (const outline of outlinesOf(section)) {
    const { faces } = outline;
    const away = (u: number) => Math.abs(u - wanted - Math.round(u - wanted));
    let first = 0;
    faces.forEach(({ from }, f) => {
      if (away(from.u) < away(faces[first].from.u)) first = f;
    });
    faces.forEach((_, k) => {
      const f = (first + k) % faces.length;
      const { from, to } = faces[f];
      const shared = k > 0 && !isSharp(outline, f);
      const u = (value: number) => value - faces[first].from.u + (f < first ? 1 : 0);
      if (!shared) columns.push({ ...from, u: k === 0 ? 0 : u(from.u) });
      face.push(columns.length - 1);
      moved.set(outline.rim + f, rim.length);
      rim.push(columns.length - 1);
      columns.push({ ...to, u: k === faces.length - 1 ? 1 : u(to.u) });
    });
  }
  const cap = section.cap?.map((place) => moved.get(place) ?? place);
  return { ...section, ...inColumns(columns, face, rim), round: false, ...(cap ? { cap } : {}) };
}
