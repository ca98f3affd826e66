import { type Mesh, mergeMeshes, vertexCount } from '../mesh/mesh.js';
import { linearColour } from '../numeric/colour.js';
import type { Material } from '../unit/carriers.js';
import type { BakedMesh } from './bake.js';
import type { Merge } from './settings.js';

/** What a mesh of all materials wears: its colours are at its vertices. */
const ALL: Omit<Material, 'name'> = { colour: '#ffffff', roughness: 0.6, metalness: 0 };

/** Puts meshes together by their material, or all of them; hands them on at the end. Until then they are in memory. */
export class Merging {
  private readonly groups = new Map<string, { material: Material; meshes: Mesh[] }>();

  constructor(
    private readonly merge: Merge,
    private readonly name: string,
    private readonly onMesh: (mesh: BakedMesh) => void,
  ) {}

  add(baked: BakedMesh): void {
    if (this.merge !== 'material' && this.merge !== 'all') {
      this.onMesh(baked);
      return;
    }
    const { mesh, material } = baked;
    const { name, ...looks } = material;
    const all = this.merge === 'all';
    const key = all ? '' : JSON.stringify(looks);
    const group = this.groups.get(key) ?? { material: all ? { name: this.name, ...ALL } : material, meshes: [] };
    this.groups.set(key, group);
    group.meshes.push(all ? inItsColour(mesh, material) : mesh);
  }

  /** All is there. */
  finish(): void {
    for (const { material, meshes } of this.groups.values())
      this.onMesh({ name: material.name, mesh: mergeMeshes(alike(meshes)), material });
    this.groups.clear();
  }
}

/** Tangents are for all of a mesh or for none: where some have none the others lose theirs. */
function alike(meshes: readonly Mesh[]): readonly Mesh[] {
  if (meshes.every(({ attributes }) => attributes?.['tangent'])) return meshes;
  return meshes.map((mesh) => {
    const { tangent, ...others } = mesh.attributes ?? {};
    return tangent ? { ...mesh, attributes: others } : mesh;
  });
}

function inItsColour(mesh: Mesh, { colour }: Material): Mesh {
  const base = linearColour(colour);
  const own = mesh.attributes?.['colour'];
  const size = own?.size ?? 3;
  const data = Float32Array.from(
    { length: 3 * vertexCount(mesh) },
    (_, i) => base[i % 3] * (own?.data[size * Math.floor(i / 3) + (i % 3)] ?? 1),
  );
  return { ...mesh, attributes: { ...mesh.attributes, colour: { size: 3, data } } };
}
