import { POINT } from '../../curve/curve-set.js';
import { type Mesh, vertexCount } from '../../mesh/mesh.js';
import { childId, hashText, randomsOf } from '../../numeric/random.js';
import { eachVertex, type Skins } from '../../sweep/each-vertex.js';
import type { Course, Strands } from './strands.js';

const TINT = hashText('tint');
/** Files hold whole numbers as floats: of an id these bits are kept. */
const EXACT = 0xff_ffff;

/** How strands differ in tint: each by itself, those of one outer strand alike, or not at all. */
export interface Tinting {
  tinted: string;
  /** By how much darker than its dress a strand may be, as a share. */
  variation: number;
  seed: number;
}

/**
 * Writes who each vertex belongs to: `strand` is of the strand's stable id what a float holds exactly, `level` which strand of
 * the outermost level it lies in, counted from 0; `uv2` where it lies in the bundle, once round it and metres along its
 * line; `colour` a tint.
 * @param mesh the skins of the strands, as `sweep` lays them out: the rings of one after the other, then all their ends
 */
export function markStrands(mesh: Mesh, course: Course, strands: Strands, skins: Skins, tinting: Tinting): void {
  const { lines, each, inOuter } = strands;
  const marks = marksOf(mesh, course, tinting);
  const tints = tintsOf(strands, tinting);
  eachVertex(lines, skins, (v, c, point) => {
    const rail = Math.floor(c / each);
    marks.write(v, lines.id[c], Math.floor((c % each) / inOuter), course.rails.start[rail] + point, tints[c]);
  });
  mesh.attributes = { ...mesh.attributes, ...marks.attributes };
}

/** The same for the hull of a bundle: `which` says of every column on which outermost strand it lies. */
export function markHull(
  mesh: Mesh,
  course: Course,
  skins: Skins,
  which: Uint32Array,
  depth: number,
  tinting: Tinting,
) {
  const marks = marksOf(mesh, course, tinting);
  const draw = randomsOf(tinting.seed, TINT);
  const strandOf = (rail: number, strand: number): number => {
    let id = childId(course.rails.id[rail], strand);
    for (let level = 1; level < depth; level++) id = childId(id, 0);
    return id;
  };
  eachVertex(course.rails, skins, (v, rail, point, column) => {
    const id = column === undefined ? course.rails.id[rail] : strandOf(rail, which[column]);
    const tint = column === undefined ? 1 - tinting.variation / 2 : 1 - tinting.variation * draw(id);
    marks.write(v, id, column === undefined ? 0 : which[column], course.rails.start[rail] + point, tint);
  });
  mesh.attributes = { ...mesh.attributes, ...marks.attributes };
}

function marksOf(mesh: Mesh, course: Course, { tinted }: Tinting) {
  const vertices = vertexCount(mesh);
  const strand = new Uint32Array(vertices);
  const level = new Uint32Array(vertices);
  const uv2 = new Float32Array(2 * vertices);
  const colour = tinted === 'even' ? undefined : new Float32Array(3 * vertices);
  const along = course.rails.pointData[POINT.along];
  return {
    attributes: {
      strand: { size: 1, data: strand },
      level: { size: 1, data: level },
      uv2: { size: 2, data: uv2 },
      ...(colour ? { colour: { size: 3, data: colour } } : {}),
    },
    write(v: number, id: number, outer: number, p: number, tint: number) {
      strand[v] = id & EXACT;
      level[v] = outer;
      uv2[2 * v] = roundBundle(mesh.position, v, course, p);
      uv2[2 * v + 1] = along[p];
      if (colour) for (let n = 0; n < 3; n++) colour[3 * v + n] = tint;
    },
  };
}

/** A tint for each strand, 1 at most. */
function tintsOf({ lines, inOuter }: Strands, { tinted, variation, seed }: Tinting): Float64Array {
  const drawn = randomsOf(seed, TINT);
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
  { rails: { position: line }, frames: { tangent, normal } }: Course,
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
