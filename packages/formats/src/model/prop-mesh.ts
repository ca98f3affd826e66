import { type BakedMesh, KelpError, type Mesh, mergeMeshes, transformMesh } from '@kelp/core';
import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex } from '@noble/hashes/utils.js';
import { readGltf } from '../gltf/read-gltf.js';
import { writeGlb } from '../gltf/write-glb.js';
import { insideOutFaces, SOURCE_UNITS, type SourceUnit, type UpAxis } from './inspect.js';
import type { ModelObject } from './model.js';

export interface PropChoices {
  unit: SourceUnit;
  up: UpAxis;
  /** Turn closed bodies whose faces look inwards. Default: true. */
  mendInsideOut?: boolean;
}

/** Columns of the turn that brings +Z up to +Y up: (x, y, z) → (x, z, −y). */
const Z_UP = [1, 0, 0, 0, 0, 0, -1, 0, 0, 1, 0, 0, 0, 0, 0, 1];
const Y_UP = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1];

/** The mesh of one or more objects in Kelp's own terms: metres, +Y up, fronts outwards. */
export function propMesh(objects: readonly ModelObject[], choices: PropChoices): Mesh {
  const scale = SOURCE_UNITS[choices.unit];
  const matrix = (choices.up === 'z' ? Z_UP : Y_UP).map((value, i) => (i < 15 ? value * scale : value));
  const mended = objects.map(({ mesh }) => (choices.mendInsideOut === false ? mesh : turnedOut(mesh)));
  return { ...transformMesh(mergeMeshes(mended), matrix), groups: [], quads: 0 };
}

function turnedOut(mesh: Mesh): Mesh {
  const wrong = insideOutFaces(mesh);
  if (wrong.size === 0) return mesh;
  const index = mesh.index.slice();
  const normal = mesh.normal.slice();
  const turned = new Uint8Array(mesh.position.length / 3);
  for (const t of wrong) {
    [index[3 * t + 1], index[3 * t + 2]] = [index[3 * t + 2], index[3 * t + 1]];
    for (let k = 0; k < 3; k++) turned[index[3 * t + k]] = 1;
  }
  for (let v = 0; v < turned.length; v++)
    if (turned[v]) for (let k = 0; k < 3; k++) normal[3 * v + k] = -normal[3 * v + k];
  return { ...mesh, index, normal };
}

/** A prop's mesh as it is stored: a GLB of one mesh and the SHA-256 of its bytes. */
export async function encodeProp(mesh: Mesh): Promise<{ bytes: Uint8Array; hash: string }> {
  const baked: BakedMesh = {
    name: 'Prop',
    mesh,
    material: { name: 'Prop', colour: '#c9cdc6', roughness: 0.8, metalness: 0 },
  };
  const bytes = writeGlb([baked], 'Prop');
  return { bytes, hash: contentHash(bytes) };
}

/**
 * Reads a stored prop back: the same vertices and triangles in the same order, since anchors name them.
 * @throws KelpError BAD_FILE when it is not one mesh
 */
export async function decodeProp(bytes: Uint8Array): Promise<Mesh> {
  const { objects } = await readGltf('prop', bytes);
  if (objects.length !== 1) throw new KelpError('BAD_FILE', `A stored prop has one mesh, this one ${objects.length}`);
  return objects[0].mesh;
}

/** SHA-256, hex; also where a page has no secure context and the browser's own is missing. */
export const contentHash = (bytes: Uint8Array): string => bytesToHex(sha256(bytes));
