import { type Bounds, boundsOf, boundsSize, type Mesh, topologyOf, weldPositions } from '@kelp/core';
import type { Model } from './model.js';

export const SOURCE_UNITS = { m: 1, cm: 0.01, mm: 0.001, ft: 0.3048, in: 0.0254 } as const;
export type SourceUnit = keyof typeof SOURCE_UNITS;
export type UpAxis = 'y' | 'z';

/** What a file most likely means, to be shown and confirmed before anything is taken in. */
export interface Inspection {
  bounds: Bounds;
  triangles: number;
  unit: SourceUnit;
  up: UpAxis;
  /** Names of closed bodies whose faces look inwards. */
  insideOut: string[];
  /** Edges that belong to one face only. */
  openEdges: number;
}

/** Formats that say how long a metre is and which way is up. */
const SURE: ReadonlySet<Model['format']> = new Set(['glTF', 'USDA'] as const);

export function inspectModel(model: Model): Inspection {
  const bounds = joinBounds(model.objects.map(({ mesh }) => boundsOf(mesh.position)));
  return {
    bounds,
    triangles: model.objects.reduce((sum, { mesh }) => sum + mesh.index.length / 3, 0),
    unit: guessUnit(boundsSize(bounds), model.format),
    up: SURE.has(model.format) ? 'y' : guessUp(bounds),
    insideOut: model.objects.filter(({ mesh }) => insideOutFaces(mesh).size > 0).map(({ name }) => name),
    openEdges: model.objects.reduce((sum, { mesh }) => sum + topologyOf(mesh).openEdges, 0),
  };
}

/**
 * The unit that brings the diagonal nearest to 2 m, the size of what people draw cables on. glTF is in metres by its
 * specification, and USD says its unit, so another unit must be far more likely there. Common practice, no source.
 */
export function guessUnit(diagonal: number, format: Model['format']): SourceUnit {
  const miss = (unit: SourceUnit) =>
    Math.abs(Math.log10((diagonal * SOURCE_UNITS[unit]) / 2)) + (unit === 'm' ? 0 : SURE.has(format) ? 1.7 : 0.1);
  const candidates: SourceUnit[] = ['m', 'cm', 'mm'];
  return diagonal > 0 ? candidates.reduce((best, unit) => (miss(unit) < miss(best) ? unit : best)) : 'm';
}

/** Things are on the ground: the axis that begins at 0 while the other lies on both sides of it is up. */
function guessUp({ min, max }: Bounds): UpAxis {
  const standsOn = (axis: number) => Math.abs(min[axis]) < 0.02 * (max[axis] - min[axis]) && max[axis] > 0;
  return standsOn(2) && !standsOn(1) ? 'z' : 'y';
}

/** Triangles of closed bodies whose faces look inwards: their signed volume is negative. */
export function insideOutFaces(mesh: Mesh): Set<number> {
  const { remap, count } = weldPositions(mesh.position);
  const shell = shellsOf(mesh.index, remap, count);
  const volume = new Map<number, number>();
  const open = new Set<number>();
  const edges = new Map<number, number>();
  const p = mesh.position;
  for (let i = 0; i < mesh.index.length; i += 3) {
    const [a, b, c] = [mesh.index[i], mesh.index[i + 1], mesh.index[i + 2]];
    const s = shell[remap[a]];
    const tetra =
      p[3 * a] * (p[3 * b + 1] * p[3 * c + 2] - p[3 * b + 2] * p[3 * c + 1]) +
      p[3 * a + 1] * (p[3 * b + 2] * p[3 * c] - p[3 * b] * p[3 * c + 2]) +
      p[3 * a + 2] * (p[3 * b] * p[3 * c + 1] - p[3 * b + 1] * p[3 * c]);
    volume.set(s, (volume.get(s) ?? 0) + tetra);
    for (let k = 0; k < 3; k++) {
      const [u, v] = [remap[mesh.index[i + k]], remap[mesh.index[i + ((k + 1) % 3)]]];
      if (u === v) continue;
      const key = Math.min(u, v) * count + Math.max(u, v);
      edges.set(key, (edges.get(key) ?? 0) + 1);
    }
  }
  for (const [key, uses] of edges) if (uses % 2 === 1) open.add(shell[Math.floor(key / count)]);
  const out = new Set<number>();
  for (let t = 0; t < mesh.index.length / 3; t++) {
    const s = shell[remap[mesh.index[3 * t]]];
    if (!open.has(s) && (volume.get(s) ?? 0) < 0) out.add(t);
  }
  return out;
}

/** A number for each place, the same for all that hang together. */
function shellsOf(index: Uint32Array, remap: Uint32Array, count: number): Uint32Array {
  const parent = Uint32Array.from({ length: count }, (_, i) => i);
  const root = (i: number): number => {
    while (parent[i] !== i) {
      parent[i] = parent[parent[i]];
      i = parent[i];
    }
    return i;
  };
  for (let i = 0; i < index.length; i += 3) {
    parent[root(remap[index[i]])] = root(remap[index[i + 1]]);
    parent[root(remap[index[i + 1]])] = root(remap[index[i + 2]]);
  }
  return parent.map((_, i) => root(i));
}

function joinBounds(all: Bounds[]): Bounds {
  const out: Bounds = { min: [...all[0].min], max: [...all[0].max] };
  for (const { min, max } of all)
    for (let k = 0; k < 3; k++) {
      out.min[k] = Math.min(out.min[k], min[k]);
      out.max[k] = Math.max(out.max[k], max[k]);
    }
  return out;
}
