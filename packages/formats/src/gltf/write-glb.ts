import { Document, type Material as GltfMaterial, WebIO } from '@gltf-transform/core';
import type { BakedMesh, Material } from '@kelp/core';

/**
 * Binary glTF 2.0 of several meshes, one node each: metres, +Y up, counter-clockwise fronts, v along the length.
 * The same meshes give the same bytes everywhere.
 */
export async function writeGlb(meshes: readonly BakedMesh[], sceneName: string): Promise<Uint8Array> {
  const document = new Document();
  document.getRoot().getAsset().generator = 'Kelp';
  const buffer = document.createBuffer();
  const scene = document.createScene(sceneName);
  document.getRoot().setDefaultScene(scene);
  const materials = new Map<string, GltfMaterial>();
  for (const { name, mesh, material } of meshes) {
    const accessor = (type: 'VEC4' | 'VEC3' | 'VEC2' | 'SCALAR', array: Float32Array | Uint32Array | Uint16Array) =>
      document
        .createAccessor()
        .setType(type)
        .setArray(array as Float32Array<ArrayBuffer>)
        .setBuffer(buffer);
    // 65,535 is no vertex in 16 bits: it restarts a strip
    const index = mesh.position.length / 3 <= 65_535 ? Uint16Array.from(mesh.index) : mesh.index;
    const primitive = document
      .createPrimitive()
      .setAttribute('POSITION', accessor('VEC3', mesh.position))
      .setAttribute('NORMAL', accessor('VEC3', mesh.normal))
      .setAttribute('TEXCOORD_0', accessor('VEC2', mesh.uv))
      .setIndices(accessor('SCALAR', index))
      .setMaterial(materialOf(document, materials, material));
    // whole numbers have no place among a vertex's attributes in glTF: as floats they are exact up to 2²⁴
    for (const [own, { size, data }] of Object.entries(mesh.attributes ?? {}))
      primitive.setAttribute(attributeName(own, size), accessor(TYPES[size - 1], Float32Array.from(data)));
    scene.addChild(document.createNode(name).setMesh(document.createMesh(name).addPrimitive(primitive)));
  }
  return new WebIO().writeBinary(document);
}

const TYPES = ['SCALAR', 'VEC2', 'VEC3', 'VEC4'] as const;

/** What glTF calls an attribute; names it does not know begin with a line (glTF 2.0, section 3.7.2.1). */
function attributeName(own: string, size: number): string {
  if (own === 'colour' && size >= 3) return 'COLOR_0';
  if (own === 'uv2' && size === 2) return 'TEXCOORD_1';
  return `_${own.toUpperCase().replaceAll(/\W/g, '_')}`;
}

function materialOf(document: Document, known: Map<string, GltfMaterial>, material: Material): GltfMaterial {
  const key = JSON.stringify(material);
  const old = known.get(key);
  if (old) return old;
  const made = document
    .createMaterial(material.name)
    .setBaseColorFactor([...linear(material.colour), 1])
    .setRoughnessFactor(material.roughness)
    .setMetallicFactor(material.metalness);
  known.set(key, made);
  return made;
}

/** `#rrggbb` in sRGB to linear light (IEC 61966-2-1), as glTF's base colour wants it. */
function linear(colour: string): [number, number, number] {
  const channel = (at: number) => {
    const c = Number.parseInt(colour.slice(at, at + 2), 16) / 255;
    return c <= 0.04045 ? c / 12.92 : ((c + 0.055) / 1.055) ** 2.4;
  };
  return [channel(1), channel(3), channel(5)];
}
