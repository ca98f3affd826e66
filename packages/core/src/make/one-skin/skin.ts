import { curveLengths } from '../../curve/arc-length.js';
import { joinCurves } from '../../curve/carry.js';
import { POINT } from '../../curve/curve-set.js';
import { type Frames, rotationMinimizingFrames } from '../../curve/frames.js';
import { levelSet, levelSetSamples } from '../../mesh/level-set.js';
import { blankMesh, emptyMesh, type Mesh, mergeMeshes } from '../../mesh/mesh.js';
import { weldPositions } from '../../mesh/weld.js';
import { addScaled, distance, length, mix, pointOf, type Vec3 } from '../../numeric/vector.js';
import type { BuildContext } from '../../unit/unit.js';
import type { Limbs } from '../limbs.js';
import { LimbField, type Nearest } from './field.js';

/** Most samples of a field: about half a gigabyte while it is sampled. */
export const MAX_SAMPLES = 24_000_000;
/** Nothing is thinner than such a share of a cell: it would fall apart. */
const MIN_RADIUS = 0.62;
/** Samples between two progress reports. */
const TELL_AFTER = 20_000;
/** This many times a vertex is moved onto the very surface, by this much of a cell at most. */
const ONTO = 2;
const FURTHEST = 0.3;
/** Triangles of a level set for each square of a cell's side that the surface has; counted on cylinders. */
const TRIANGLES_A_CELL = 3.7;

export const joinLimbs = (all: readonly Limbs[]): Limbs => ({
  curves: joinCurves(all.map(({ curves }) => curves)),
  radius: Float32Array.from(all.flatMap(({ radius }) => [...radius])),
});

/** How many triangles the one skin of limbs comes to, about: those of their own skins. */
export function skinTriangles({ curves, radius }: Limbs, cell: number): number {
  let area = 0;
  for (let c = 0; c + 1 < curves.start.length; c++)
    for (let p = curves.start[c] + 1; p < curves.start[c + 1]; p++) {
      const [i, j] = [3 * p - 3, 3 * p];
      const { position: x } = curves;
      const step = Math.hypot(x[j] - x[i], x[j + 1] - x[i + 1], x[j + 2] - x[i + 2]);
      area += Math.PI * (Math.max(MIN_RADIUS * cell, radius[p - 1]) + Math.max(MIN_RADIUS * cell, radius[p])) * step;
    }
  return areaTriangles(area, cell);
}

export const areaTriangles = (area: number, cell: number): number => Math.round((TRIANGLES_A_CELL * area) / cell ** 2);

/** The same in words. */
export const skinWords = (limbs: Limbs, cell: number): string =>
  `about ${skinTriangles(limbs, cell).toLocaleString('en')} triangles`;

/** The cell that a skin can be made with, and how many samples it takes. */
export function planSkin(
  limbs: Limbs,
  blend: number,
  cell: number,
): { field: LimbField; cell: number; samples: number } {
  const planned = (size: number) => {
    const field = new LimbField(limbs, blend, MIN_RADIUS * size);
    return {
      field,
      cell: size,
      samples: field.groups().reduce((sum, box) => sum + levelSetSamples(grown(box, size), size), 0),
    };
  };
  let plan = planned(cell);
  // a coarser cell has limbs that are thicker at the least: a second look
  for (let k = 0; k < 6 && plan.samples > MAX_SAMPLES; k++)
    plan = planned(plan.cell * Math.cbrt(plan.samples / MAX_SAMPLES) * 1.02);
  return plan;
}

/** A box with room for the skin at its sides. */
const grown = <T extends { min: readonly number[]; max: readonly number[] }>({ min, max }: T, cell: number) => ({
  min: min.map((low) => low - 2 * cell) as [number, number, number],
  max: max.map((high) => high + 2 * cell) as [number, number, number],
});

/**
 * All limbs grown together into one closed skin. Its normals are the field's slope; its texture lies as on the limb that a
 * face is nearest to: once round it, and along it in metres.
 */
export function mergedSkin(
  limbs: Limbs,
  { field, cell, samples }: ReturnType<typeof planSkin>,
  { step }: Pick<BuildContext, 'step'>,
): Mesh {
  const frames = rotationMinimizingFrames(limbs.curves);
  let taken = 0;
  const says = skinWords(limbs, cell);
  const sampled = (x: number, y: number, z: number) => {
    if (++taken % TELL_AFTER === 0) step(Math.min(0.95, taken / (samples * 1.15)), says);
    return field.at(x, y, z);
  };
  const skins = field.groups().map((group) => {
    const { position, index } = levelSet(sampled, grown(group, cell), cell);
    const ways = onto(position, field, cell);
    keptApart(position, index);
    return textured({ position, index, ...ways }, limbs, frames, field);
  });
  return skins.length > 0 ? mergeMeshes(skins) : emptyMesh();
}

/** Moves vertices onto the surface by Newton's steps. Gives their normals, and the limb that each is nearest to. */
function onto(position: Float32Array, field: LimbField, cell: number): { normal: Float32Array; own: Uint32Array } {
  const normal = new Float32Array(position.length);
  const own = new Uint32Array(position.length / 3);
  const found: Nearest = { limb: 0, point: 0, next: 0, t: 0 };
  const way: Vec3 = [0, 0, 0];
  for (let i = 0; i < position.length; i += 3) {
    const start: Vec3 = [position[i], position[i + 1], position[i + 2]];
    const at: Vec3 = [...start];
    for (let k = 0; k <= ONTO; k++) {
      const inside = field.slopeAt(at[0], at[1], at[2], way, found);
      const steep = length(way);
      if (!(steep > 0)) break;
      for (let n = 0; n < 3; n++) normal[i + n] = way[n] / steep;
      own[i / 3] = found.limb;
      if (k === ONTO) break;
      addScaled(at, at, way, inside / steep ** 2);
      const moved = distance(at, start);
      // in a narrow cleft the surface may be another one's
      if (moved > FURTHEST * cell) {
        mix(at, start, at, (FURTHEST * cell) / moved);
        break;
      }
    }
    for (let n = 0; n < 3; n++) position[i + n] = at[n];
  }
  return { normal, own };
}

/** A vertex that shares its place goes so far towards those round it. */
const APART = 0.05;

/**
 * Vertices that are in one place though the skin does not hang together there (where it pinches, an edge may have four
 * faces) are drawn a little into their own faces: who welds by places then finds no wrong edge.
 */
function keptApart(position: Float32Array, index: Uint32Array): void {
  const { remap, count } = weldPositions(position);
  if (count === remap.length) return;
  const there = new Uint32Array(count);
  for (const place of remap) there[place]++;
  const round = new Map<number, { sum: Vec3; count: number }>();
  for (let i = 0; i < index.length; i++) {
    const v = index[i];
    if (there[remap[v]] < 2) continue;
    const middle = round.get(v) ?? { sum: [0, 0, 0], count: 0 };
    round.set(v, middle);
    for (const k of [1, 2]) {
      const other = i - (i % 3) + ((i + k) % 3);
      addScaled(middle.sum, middle.sum, pointOf(position, index[other]), 1);
      middle.count++;
    }
  }
  for (const [v, { sum, count: faces }] of round)
    for (let n = 0; n < 3; n++) position[3 * v + n] += APART * (sum[n] / faces - position[3 * v + n]);
}

/** A face whose corners lie further apart round its limb than this share goes over its seam. */
const SEAM = 0.5;

/** The faces with texture coordinates; what is at a seam, or where one limb becomes another, has vertices of each side. */
function textured(
  { position, index, normal, own }: Pick<Mesh, 'position' | 'index' | 'normal'> & { own: Uint32Array },
  limbs: Limbs,
  frames: Frames,
  field: LimbField,
): Mesh {
  const vertices = position.length / 3;
  const lengths = curveLengths(limbs.curves);
  const found: Nearest = { limb: 0, point: 0, next: 0, t: 0 };
  // vertices of the result: which one of the surface, on which limb, over which seams; those of one are a list
  const head = new Int32Array(vertices).fill(-1);
  const [of, limb, over, after]: number[][] = [[], [], [], []];
  const uv: number[] = [];
  const faces = new Uint32Array(index.length);
  const corner: [number, number] = [0, 0];
  const us = [0, 0, 0];
  const vs = [0, 0, 0];
  for (let i = 0; i < index.length; i += 3) {
    const [a, b, c] = [index[i], index[i + 1], index[i + 2]];
    const whose = own[b] === own[c] ? own[b] : own[a];
    const long = lengths[whose];
    for (let k = 0; k < 3; k++) {
      const v = index[i + k];
      field.nearestOn(whose, position[3 * v], position[3 * v + 1], position[3 * v + 2], found);
      coordinates(position, v, found, limbs, frames, long, corner);
      [us[k], vs[k]] = corner;
    }
    const [mostU, mostV] = [Math.max(...us), Math.max(...vs)];
    for (let k = 0; k < 3; k++) {
      const v = index[i + k];
      const seam = (mostU - us[k] > SEAM ? 1 : 0) + (limbs.curves.closed[whose] && mostV - vs[k] > SEAM * long ? 2 : 0);
      let e = head[v];
      while (e >= 0 && (limb[e] !== whose || over[e] !== seam)) e = after[e];
      if (e < 0) {
        e = of.length;
        of.push(v);
        limb.push(whose);
        over.push(seam);
        after.push(head[v]);
        head[v] = e;
        uv.push(us[k] + (seam & 1 ? 1 : 0), vs[k] + (seam & 2 ? long : 0));
      }
      faces[i + k] = e;
    }
  }
  const mesh = blankMesh(of.length, faces.length);
  of.forEach((v, e) => {
    for (let n = 0; n < 3; n++) {
      mesh.position[3 * e + n] = position[3 * v + n];
      mesh.normal[3 * e + n] = normal[3 * v + n];
    }
  });
  mesh.uv.set(uv);
  mesh.index.set(faces);
  mesh.groups.push({ start: 0, count: faces.length, slot: 'main' });
  return mesh;
}

/** Once round a limb, and metres along it. */
function coordinates(
  position: Float32Array,
  v: number,
  { point, next, t }: Nearest,
  { curves }: Limbs,
  { tangent, normal }: Frames,
  long: number,
  out: [number, number],
): void {
  const x = curves.position;
  const along = curves.pointData[POINT.along];
  const of = (data: ArrayLike<number>, n: number) => data[3 * point + n] * (1 - t) + data[3 * next + n] * t;
  let [high, aside] = [0, 0];
  for (let n = 0; n < 3; n++) {
    const [m, l] = [(n + 1) % 3, (n + 2) % 3];
    const off = position[3 * v + n] - of(x, n);
    high += off * of(normal, n);
    aside += off * (of(tangent, m) * of(normal, l) - of(tangent, l) * of(normal, m));
  }
  const angle = Math.atan2(aside, high) / (2 * Math.PI);
  out[0] = angle < 0 ? angle + 1 : angle;
  out[1] = along[point] + t * ((next > point ? along[next] : long) - along[point]);
}
