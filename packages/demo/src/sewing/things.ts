import { type Mesh, withComputedNormals } from '@kelp/core';
import { SolidBuilder, type Vec } from '../props/solid-builder.js';

/** The table's top is y = 0. The bag lies on it, the form stands behind, metres. */
export const TABLE = { wide: 0.95, deep: 0.6 } as const;
export const BAG = { center: [-0.2, 0, 0.06] as Vec, wide: 0.19, deep: 0.135, high: 0.06 } as const;
export const FORM = { center: [0.2, 0, -0.09] as Vec, flat: 0.68 } as const;
export const PATCH = { center: [0.22, 0.007, 0.19] as Vec, wide: 0.075, deep: 0.055 } as const;

/** A table of two boards with a rail under its front. */
export function table(): Mesh {
  const solid = new SolidBuilder();
  for (const z of [-0.152, 0.152]) solid.box([0, -0.016, z], [TABLE.wide, 0.032, 0.299], 0.004);
  solid.box([0, -0.06, TABLE.deep / 2 - 0.04], [TABLE.wide - 0.08, 0.06, 0.022], 0.003);
  return solid.finish();
}

/** A pouch filled with soft things: round in outline as a cushion is. */
export function bag(): Mesh {
  const [rings, around] = [26, 96];
  const { center, wide, deep, high } = BAG;
  const outline = (angle: number) => {
    const [cos, sin] = [Math.cos(angle), Math.sin(angle)];
    const far = (Math.abs(cos) ** 3.4 + Math.abs(sin) ** 3.4) ** (-1 / 3.4);
    return [far * cos * wide, far * sin * deep];
  };
  const place = (k: number, j: number, top: boolean): number[] => {
    const t = k / rings;
    const [x, z] = outline((2 * Math.PI * j) / around);
    const bulge = (1 - t ** 2.6) ** 0.62;
    return [center[0] + t * x, center[1] + 0.004 + (top ? 0.011 + high * bulge : 0.011 * t), center[2] + t * z];
  };
  return sheets(rings, around, place);
}

/** A tailor's form: a torso on a foot, the chest of a suit to be closed. */
export function form(): Mesh {
  const profile = [[0, 0.03], [0.1, 0.03], [0.112, 0.036], [0.118, 0.06], [0.112, 0.1], [0.104, 0.15], [0.108, 0.2], [0.12, 0.26], [0.128, 0.31], [0.126, 0.345], [0.112, 0.375], [0.085, 0.397], [0.058, 0.41], [0.05, 0.42], [0.048, 0.44], [0.044, 0.444], [0, 0.446]] as const; // biome-ignore format: a table of numbers
  const mesh = new SolidBuilder().lathe([0, 0, 0], smoothed(profile), 72).finish(0.9);
  const foot = new SolidBuilder().lathe(FORM.center, [[0, 0], [0.075, 0], [0.078, 0.006], [0.02, 0.016], [0.016, 0.04], [0, 0.04]], 40); // biome-ignore format: a table of numbers
  const position = mesh.position.map((value, i) => FORM.center[i % 3] + (i % 3 === 2 ? FORM.flat : 1) * value);
  const body = withComputedNormals({ ...mesh, position }, 0.9);
  const stand = foot.finish(0.7);
  const shift = body.position.length / 3;
  return {
    ...body,
    position: Float32Array.of(...body.position, ...stand.position),
    normal: Float32Array.of(...body.normal, ...stand.normal),
    uv: Float32Array.of(...body.uv, ...stand.uv),
    index: Uint32Array.of(...body.index, ...stand.index.map((v) => v + shift)),
  };
}

/** A patch of cloth, one layer, its rim to be whipped. */
export function patch(): Mesh {
  const [columns, rows] = [18, 14];
  const { center, wide, deep } = PATCH;
  const position: number[] = [];
  for (let j = 0; j <= rows; j++)
    for (let i = 0; i <= columns; i++) {
      const [u, v] = [(2 * i) / columns - 1, (2 * j) / rows - 1];
      position.push(
        center[0] + wide * u,
        center[1] + 0.0025 * Math.sin(3 * u + 1) * Math.cos(2.4 * v),
        center[2] + deep * v,
      );
    }
  const index: number[] = [];
  for (let j = 0; j < rows; j++)
    for (let i = 0; i < columns; i++) {
      const a = j * (columns + 1) + i;
      index.push(a, a + columns + 1, a + columns + 2, a, a + columns + 2, a + 1);
    }
  return finished(position, index);
}

/** A closed body of an upper and a lower sheet of rings about one middle. */
function sheets(rings: number, around: number, place: (k: number, j: number, top: boolean) => number[]): Mesh {
  const position: number[] = [];
  const index: number[] = [];
  for (const top of [true, false]) {
    const start = position.length / 3;
    for (let k = 0; k <= rings; k++) for (let j = 0; j < around; j++) position.push(...place(k, j, top));
    for (let k = 0; k < rings; k++)
      for (let j = 0; j < around; j++) {
        const [a, b] = [start + k * around + j, start + k * around + ((j + 1) % around)];
        const faces = [a, b, b + around, a, b + around, a + around];
        if (k === 0) faces.splice(0, 3);
        index.push(...(top ? faces : faces.toReversed()));
      }
  }
  // the rim: the sheets stand over each other there
  const last = rings * around;
  const lower = (rings + 1) * around + last;
  for (let j = 0; j < around; j++) {
    const next = (j + 1) % around;
    index.push(last + j, last + next, lower + next, last + j, lower + next, lower + j);
  }
  return finished(position, index);
}

function finished(position: readonly number[], index: readonly number[]): Mesh {
  return withComputedNormals(
    {
      position: Float32Array.from(position),
      normal: new Float32Array(position.length),
      uv: new Float32Array((2 * position.length) / 3),
      index: Uint32Array.from(index),
      quads: 0,
      groups: [],
    },
    1,
  );
}

/** Four places for each of a profile, eased between. */
function smoothed(profile: readonly (readonly [number, number])[]): [number, number][] {
  const last = profile.length - 1;
  const at = (i: number) => profile[Math.max(0, Math.min(last, i))];
  return Array.from({ length: 4 * last + 1 }, (_, n) => {
    const [i, t] = [Math.min(last - 1, n >> 2), n === 4 * last ? 1 : (n & 3) / 4];
    const through = (k: 0 | 1) => {
      const [a, b, c, d] = [at(i - 1)[k], at(i)[k], at(i + 1)[k], at(i + 2)[k]];
      return b + 0.5 * t * (c - a + t * (2 * a - 5 * b + 4 * c - d + t * (3 * (b - c) + d - a)));
    };
    return [Math.max(0, through(0)), through(1)];
  });
}
