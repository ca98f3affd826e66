import { singleCurve } from '../../curve/curve-set.js';
import { boundsOf } from '../../mesh/measure.js';
import { type Mesh, mergeMeshes } from '../../mesh/mesh.js';
import { transformMesh } from '../../mesh/transform.js';
import { roundedBoxSection } from '../../section/section.js';
import { sweep } from '../../sweep/sweep.js';
import { arcPlaces, lathe, moved, prism, ring } from '../elements/solids.js';

// What is built in to be placed: half as broad as 1, its foot at 0, up along y, its face along z.

type Places = [number, number][];

/** A profile with its corners rounded by bows of a few places. */
const SHAPES = {
  float: {
    label: 'Float',
    build: (sides: number) => {
      const body: Places = [[0, 0.55], [0.42, 0.56], ...arcPlaces(2.1, 1, -0.95, 0.95, sides >> 1).map(([r, y]): [number, number] => [r, 2.1 + (y - 2.1) * 1.45]), [0.42, 3.64], [0, 3.65]]; // biome-ignore format: a table of numbers
      const eye = (y: number) => transformMesh(ring(0.2, 0.36, -0.13, 0.13, sides, 1), moved(0, y, 0));
      const neck = (y: number) => lathe([[0, y - 0.24], [0.26, y - 0.24], [0.2, y], [0.26, y + 0.24], [0, y + 0.24]], sides); // biome-ignore format: a table of numbers
      return mergeMeshes([lathe(body, sides), neck(0.52), neck(3.68), eye(0.36), eye(3.84)]);
    },
  },
  ball: {
    label: 'Ball',
    build: (sides: number) => lathe(arcPlaces(1, 1, -Math.PI / 2, Math.PI / 2, sides >> 1), sides, Math.PI),
  },
  bollard: {
    label: 'Bollard',
    build: (sides: number) =>
      mergeMeshes([
        lathe(
          [
            [0, 0],
            [1, 0],
            [1, 0.12],
            [0.94, 0.18],
            [0.62, 0.2],
            [0.55, 0.32],
            [0.52, 1.3],
            [0.6, 1.52],
            [0.84, 1.62],
            [0.9, 1.74],
            [0.86, 1.88],
            [0.7, 2],
            [0.36, 2.1],
            [0, 2.13],
          ],
          sides,
          0.9,
        ),
        ...Array.from({ length: 6 }, (_, k) => {
          const angle = (Math.PI * (k + 0.5)) / 3;
          return transformMesh(
            upright(prism(0.08, 0.14, 0.24, 6)),
            moved(0.8 * Math.cos(angle), 0, 0.8 * Math.sin(angle)),
          );
        }),
      ]),
  },
  barnacle: {
    label: 'Barnacle',
    build: (sides: number) =>
      ribbed(
        lathe(
          [
            [0, -0.1],
            [1, -0.1],
            [0.96, 0.06],
            [0.8, 0.36],
            [0.62, 0.72],
            [0.5, 0.86],
            [0.42, 0.88],
            [0.36, 0.8],
            [0.3, 0.5],
            [0.14, 0.42],
            [0, 0.4],
          ],
          Math.max(14, sides),
          0.9,
        ),
      ),
  },
  stud: {
    label: 'Stud',
    build: (sides: number) =>
      lathe(
        [
          [0, -0.06],
          [0.94, -0.06],
          [1, 0.04],
          ...arcPlaces(-0.6, 1.06, 0.65, Math.PI / 2, sides >> 2).map(([r, y]): [number, number] => [
            1.13 * r,
            y + 0.06,
          ]),
        ],
        sides,
        0.9,
      ),
  },
  ring: {
    label: 'Ring',
    build: (sides: number) => transformMesh(ring(0.7, 1, -0.15, 0.15, 2 * sides, 1), moved(0, 1, 0)),
  },
  block: {
    label: 'Block',
    build: () =>
      upright(
        sweep(singleCurve([0, 0, 0, 0, 0, 1.2]), roundedBoxSection(1, 0.12, 2), {
          radius: 1,
          startDirection: [1, 0, 0],
          start: 'chamfered',
          end: 'chamfered',
        }),
      ),
  },
  peg: {
    label: 'Peg',
    build: (sides: number) =>
      lathe(
        [
          [0, 0],
          [0.8, 0],
          [1, 0.1],
          [1, 0.3],
          [0.72, 0.55],
          [0.6, 1],
          [0.6, 4.2],
          [0.66, 4.5],
          [0.6, 4.8],
          [0.3, 5],
          [0, 5.02],
        ],
        sides,
        0.9,
      ),
  },
  spike: {
    label: 'Spike',
    build: (sides: number) =>
      lathe(
        [
          [0, -0.1],
          [1, -0.1],
          [0.94, 0.3],
          [0.5, 1.9],
          [0.12, 3.2],
          [0, 3.3],
        ],
        sides,
        0.9,
      ),
  },
} as const satisfies Record<string, { label: string; build(sides: number): Mesh }>;
export type BuiltIn = keyof typeof SHAPES;

export const BUILT_IN = Object.entries(SHAPES).map(([value, { label }]) => ({ value, label }));
export const isBuiltIn = (part: string): part is BuiltIn => part in SHAPES;

const made = new Map<string, Mesh>();

/** A built-in part; the same mesh each time, not to be changed. */
export function builtInMesh(part: BuiltIn, sides: number): Mesh {
  const even = Math.max(6, 2 * Math.round(sides / 2));
  const name = `${part} ${even}`;
  let mesh = made.get(name);
  if (!mesh) {
    mesh = SHAPES[part].build(even);
    made.set(name, mesh);
  }
  return mesh;
}

/** What is along z stands along y. */
const upright = (mesh: Mesh): Mesh =>
  transformMesh(mesh, Float64Array.of(1, 0, 0, 0, 0, 0, -1, 0, 0, 1, 0, 0, 0, 0, 0, 1));

/** Seven ribs up the side of what was turned, no two alike. */
function ribbed(mesh: Mesh): Mesh {
  const position = mesh.position.slice();
  for (let i = 0; i < position.length; i += 3) {
    const angle = Math.atan2(position[i + 2], position[i]);
    const out =
      1 + (0.06 * Math.cos(7 * angle) + 0.04 * Math.cos(3 * angle + 1)) * Math.hypot(position[i], position[i + 2]);
    position[i] *= out;
    position[i + 2] *= out;
  }
  return { ...mesh, position };
}

/** Where its foot, middle or top is, and the middle of its breadth and length. */
export function holdOf(mesh: Mesh, held: string): [number, number, number] {
  const { min, max } = boundsOf(mesh.position);
  const y = held === 'foot' ? min[1] : held === 'top' ? max[1] : (min[1] + max[1]) / 2;
  return [(min[0] + max[0]) / 2, y, (min[2] + max[2]) / 2];
}
