import type { Mesh } from '@kelp/core';
import { useEffect, useMemo } from 'react';
import { BufferAttribute, BufferGeometry } from 'three';

/** Renderer geometry of a mesh; the arrays are shared, not copied. Freed when the mesh changes or the view closes. */
export function useMeshGeometry(mesh: Mesh): BufferGeometry {
  const geometry = useMemo(() => {
    const made = new BufferGeometry();
    made.setAttribute('position', new BufferAttribute(mesh.position, 3));
    made.setAttribute('normal', new BufferAttribute(mesh.normal, 3));
    made.setAttribute('uv', new BufferAttribute(mesh.uv, 2));
    const colour = mesh.attributes?.['colour'];
    if (colour) made.setAttribute('color', new BufferAttribute(colour.data, colour.size));
    made.setIndex(new BufferAttribute(mesh.index, 1));
    return made;
  }, [mesh]);
  useEffect(() => () => geometry.dispose(), [geometry]);
  return geometry;
}

/** The mesh's true edges: quads as quads, each edge once. Flat xyz of line ends. */
export function meshEdges({ position, index, quads }: Mesh): Float32Array {
  const vertices = position.length / 3;
  const seen = new Set<number>();
  const lines: number[] = [];
  const put = (a: number, b: number) => {
    const key = Math.min(a, b) * vertices + Math.max(a, b);
    if (seen.has(key)) return;
    seen.add(key);
    lines.push(
      position[3 * a],
      position[3 * a + 1],
      position[3 * a + 2],
      position[3 * b],
      position[3 * b + 1],
      position[3 * b + 2],
    );
  };
  for (let i = 0; i < index.length; i += 3) {
    const inQuad = i < 6 * quads;
    const other = i % 6 === 0 ? i + 3 : i - 3;
    for (let k = 0; k < 3; k++) {
      const [a, b] = [index[i + k], index[i + ((k + 1) % 3)]];
      if (inQuad && sharesEdge(index, other, a, b)) continue;
      put(a, b);
    }
  }
  return Float32Array.from(lines);
}

/** True when the triangle at `at` has the edge b → a. */
function sharesEdge(index: Uint32Array, at: number, a: number, b: number): boolean {
  for (let k = 0; k < 3; k++) if (index[at + k] === b && index[at + ((k + 1) % 3)] === a) return true;
  return false;
}
