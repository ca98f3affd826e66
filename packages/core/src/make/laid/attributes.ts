import { type CurveSet, curveCount, POINT } from '../../curve/curve-set.js';
import type { Frames } from '../../curve/frames.js';
import { type Mesh, vertexCount } from '../../mesh/mesh.js';
import { hashText, randomsOf } from '../../numeric/random.js';
import type { Section } from '../../section/section.js';
import { capSize, type EndKind } from '../../sweep/caps.js';

const TINT = hashText('tint');
/** Files hold whole numbers as floats: of an id these bits are kept. */
const EXACT = 0xff_ffff;

/** How strands differ in tint: each by itself, those of one outer strand alike, or not at all. */
export type Tinted = 'even' | 'strand' | 'level';

export interface Marked {
  /** The line the bundle runs along, with its frames. */
  rails: CurveSet;
  frames: Frames;
  section: Section;
  start: EndKind;
  end: EndKind;
  /** Strands of each rail, and how many of them lie in one strand of the outermost level. */
  strands: number;
  inOuter: number;
  tinted: Tinted;
  /** By how much darker than its dress a strand may be, as a share. */
  variation: number;
  seed: number;
}

/**
 * Writes who each vertex belongs to: `strand` is of the strand's stable id what a float holds exactly, `level` which strand of the outermost level it lies
 * in, counted from 0; `uv2` where it lies in the bundle, once round it and metres along its line; `colour` a tint.
 * @param mesh the skins of `lines`, as `sweep` lays them out: the rings of one after the other, then all their ends
 */
export function markStrands(mesh: Mesh, lines: CurveSet, marked: Marked): void {
  const { rails, frames, section, strands, inOuter, tinted, variation, seed } = marked;
  const vertices = vertexCount(mesh);
  const strand = new Uint32Array(vertices);
  const level = new Uint32Array(vertices);
  const uv2 = new Float32Array(2 * vertices);
  const colour = tinted === 'even' ? undefined : new Float32Array(3 * vertices);
  const drawn = randomsOf(seed, TINT);
  const columns = section.x.length;
  const along = rails.pointData[POINT.along];
  const caps = [marked.start, marked.end].map((kind) => capSize(section, kind).vertices);
  const tints = tintsOf(lines, { inOuter, tinted, variation }, drawn);
  const mark = (v: number, c: number, p: number) => {
    const inBundle = c % strands;
    strand[v] = lines.id[c] & EXACT;
    level[v] = Math.floor(inBundle / inOuter);
    uv2[2 * v] = roundBundle(mesh.position, v, rails, frames, p);
    uv2[2 * v + 1] = along[p];
    colour?.fill(tints[c], 3 * v, 3 * v + 3);
  };
  let vertex = 0;
  let cap = 0;
  for (let c = 0; c < curveCount(lines); c++) cap += (lines.start[c + 1] - lines.start[c] + lines.closed[c]) * columns;
  for (let c = 0; c < curveCount(lines); c++) {
    const first = rails.start[Math.floor(c / strands)];
    const points = lines.start[c + 1] - lines.start[c];
    for (let ring = 0; ring < points + lines.closed[c]; ring++)
      for (let k = 0; k < columns; k++) mark(vertex++, c, first + (ring % points));
    if (lines.closed[c]) continue;
    for (let k = 0; k < caps[0]; k++) mark(cap++, c, first);
    for (let k = 0; k < caps[1]; k++) mark(cap++, c, first + points - 1);
  }
  mesh.attributes = {
    ...mesh.attributes,
    strand: { size: 1, data: strand },
    level: { size: 1, data: level },
    uv2: { size: 2, data: uv2 },
    ...(colour ? { colour: { size: 3, data: colour } } : {}),
  };
}

/** A tint for each strand, 1 at most. */
function tintsOf(
  lines: CurveSet,
  { inOuter, tinted, variation }: Pick<Marked, 'inOuter' | 'tinted' | 'variation'>,
  drawn: (id: number) => number,
): Float64Array {
  // all in one outer strand wear the tint of its first
  return Float64Array.from(lines.id, (id, c) => {
    const whose = tinted === 'level' ? lines.id[c - (c % inOuter)] : id;
    return 1 - variation * drawn(whose);
  });
}

/** How far round the bundle a vertex lies, 0…1 from its top. */
function roundBundle(
  position: Float32Array,
  v: number,
  { position: line }: CurveSet,
  { tangent, normal }: Frames,
  p: number,
): number {
  const i = 3 * p;
  const x = position[3 * v] - line[i];
  const y = position[3 * v + 1] - line[i + 1];
  const z = position[3 * v + 2] - line[i + 2];
  const up = x * normal[i] + y * normal[i + 1] + z * normal[i + 2];
  const aside =
    x * (tangent[i + 1] * normal[i + 2] - tangent[i + 2] * normal[i + 1]) +
    y * (tangent[i + 2] * normal[i] - tangent[i] * normal[i + 2]) +
    z * (tangent[i] * normal[i + 1] - tangent[i + 1] * normal[i]);
  const share = Math.atan2(aside, up) / (2 * Math.PI);
  return share < 0 ? share + 1 : share;
}
