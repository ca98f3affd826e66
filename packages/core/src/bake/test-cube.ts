import { blankMesh, type Mesh, mergeMeshes } from '../mesh/mesh.js';
import type { BakedMesh } from './bake.js';
import type { BakeSettings } from './settings.js';
import { meshTo, targetOf } from './target.js';

type Place = readonly [number, number, number];

/**
 * A cube of one metre that is on the ground, with an arrow on it to the front (+Z in Kelp) and a post on its right half
 * (+X): by it one sees unit, way up, front and handedness in the next program.
 */
export function testCube(settings: Pick<BakeSettings, 'unit' | 'up' | 'hand'>): BakedMesh {
  const head: Place[] = [[-0.2, 1, 0.2], [0, 1, 0.45], [0.2, 1, 0.2]]; // biome-ignore format: a table of numbers
  const mesh = mergeMeshes([
    box([-0.5, 0, -0.5], [0.5, 1, 0.5]),
    box([-0.08, 1, -0.4], [0.08, 1.08, 0.2]),
    prism(head, 0.08),
    box([0.3, 1, -0.45], [0.4, 1.5, -0.35]),
  ]);
  return {
    name: 'One metre, arrow to the front, post up on the right',
    mesh: meshTo(targetOf(settings), mesh),
    material: { name: 'Test', colour: '#d9772b', roughness: 0.6, metalness: 0 },
  };
}

const box = ([a, b, c]: Place, [x, y, z]: Place): Mesh =>
  prism(
    [
      [a, b, c],
      [a, b, z],
      [x, b, z],
      [x, b, c],
    ],
    y - b,
  );

/** What is on a flat outline, so high; the outline goes round so that it is counter-clockwise from above. */
function prism(outline: readonly Place[], high: number): Mesh {
  const top = outline.map(([x, y, z]): Place => [x, y + high, z]);
  const sides = outline.map((place, k) => {
    const next = (k + 1) % outline.length;
    return [place, outline[next], top[next], top[k]];
  });
  return mergeMeshes([top, outline.toReversed(), ...sides].map(flat));
}

function flat(corners: readonly Place[]): Mesh {
  const mesh = blankMesh(corners.length, 3 * (corners.length - 2));
  mesh.position.set(corners.flat());
  const [a, b, c] = corners;
  const [p, q] = [0, 1, 2].reduce<[number[], number[]]>(
    ([u, v], k) => [
      [...u, b[k] - a[k]],
      [...v, c[k] - a[k]],
    ],
    [[], []],
  );
  const across = [p[1] * q[2] - p[2] * q[1], p[2] * q[0] - p[0] * q[2], p[0] * q[1] - p[1] * q[0]];
  const size = Math.hypot(...across);
  corners.forEach((_, k) => {
    mesh.normal.set(
      across.map((value) => value / size),
      3 * k,
    );
    mesh.uv.set([k % 3 === 0 ? 0 : 1, k < 2 ? 0 : 1], 2 * k);
    if (k >= 2) mesh.index.set([0, k - 1, k], 3 * (k - 2));
  });
  mesh.groups.push({ start: 0, count: mesh.index.length, slot: 'main' });
  return mesh;
}
