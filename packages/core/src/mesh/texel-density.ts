import type { Mesh } from './mesh.js';

/** Of the surface this much may be left out at either end: slivers at tips are no measure. */
const LEFT_OUT = 0.05;

/**
 * How densely a texture lies on meshes: the square root of a face's area in the texture over its area in space, repeats a
 * metre; times the pixels of a repeat these are pixels a metre. The least and the most of all but a twentieth of the surface
 * at either end; undefined where no face has both areas.
 */
export function textureDensity(
  meshes: readonly Pick<Mesh, 'position' | 'uv' | 'index'>[],
): { least: number; most: number } | undefined {
  const faces: { density: number; area: number }[] = [];
  for (const { position: p, uv, index } of meshes)
    for (let f = 0; f < index.length; f += 3) {
      const [a, b, c] = [index[f], index[f + 1], index[f + 2]];
      const way = (from: number, to: number, k: number) => p[3 * to + k] - p[3 * from + k];
      const x = way(a, b, 1) * way(a, c, 2) - way(a, b, 2) * way(a, c, 1);
      const y = way(a, b, 2) * way(a, c, 0) - way(a, b, 0) * way(a, c, 2);
      const z = way(a, b, 0) * way(a, c, 1) - way(a, b, 1) * way(a, c, 0);
      const area = Math.sqrt(x * x + y * y + z * z);
      const flat = Math.abs(
        (uv[2 * b] - uv[2 * a]) * (uv[2 * c + 1] - uv[2 * a + 1]) -
          (uv[2 * c] - uv[2 * a]) * (uv[2 * b + 1] - uv[2 * a + 1]),
      );
      if (area > 0 && flat > 0) faces.push({ density: Math.sqrt(flat / area), area });
    }
  if (faces.length === 0) return undefined;
  faces.sort((one, other) => one.density - other.density);
  const total = faces.reduce((sum, { area }) => sum + area, 0);
  const at = (share: number) => {
    let [k, sum] = [0, faces[0].area];
    while (sum < share * total && k + 1 < faces.length) sum += faces[++k].area;
    return faces[k].density;
  };
  return { least: at(LEFT_OUT), most: at(1 - LEFT_OUT) };
}
