import { singleCurve } from '../../curve/curve-set.js';
import { type Mesh, mergeMeshes, vertexCount } from '../../mesh/mesh.js';
import { transformMesh } from '../../mesh/transform.js';
import { roundedBoxSection } from '../../section/section.js';
import { sweep } from '../../sweep/sweep.js';
import { arcPlaces, lathe, moved, prism, ring } from '../elements/solids.js';

// What a cable of radius 1 ends in. It comes in along z at 0; a plug's face is at its `length`, its top along x.

/** A plug in its stuffs. */
export interface PlugShape {
  body: Mesh;
  metal?: Mesh;
}

interface Plug {
  label: string;
  /** From where the cable comes in to its face. */
  length: number;
  /** Where on it a lamp sits: along z, and how far up. */
  lamp: readonly [number, number];
  build?(sides: number): PlugShape;
}

type Profile = [number, number][];

/** An outline of (radius, z) turned about z. */
const turnedZ = (places: Profile, sides: number): Mesh =>
  transformMesh(lathe(places, sides, 0.5), Float64Array.of(1, 0, 0, 0, 0, 0, 1, 0, 0, -1, 0, 0, 0, 0, 0, 1));

/** A bend relief: rings that grow less, from the body down to the cable. */
const relief = (from: number, to: number, wide: number): Profile =>
  Array.from({ length: 4 }, (_, k): Profile => {
    const at = from + ((to - from) * k) / 4;
    const r = 1.15 + ((wide - 1.15) * (k + 1)) / 4;
    const step = (to - from) / 4;
    return [
      [r - 0.12, at],
      [r, at + 0.18 * step],
      [r, at + 0.6 * step],
      [r - 0.12, at + 0.78 * step],
    ];
  }).flat();

const block = (high: number, wide: number, from: number, to: number, rounding = 0.3): Mesh =>
  sweep(singleCurve([0, 0, from, 0, 0, to]), roundedBoxSection(wide / high, rounding, 4), {
    radius: high,
    startDirection: [1, 0, 0],
    start: 'chamfered',
    end: 'chamfered',
  });

/** What the interface offers, in its order. */
export const PLUGS = {
  none: { label: 'None', length: 0, lamp: [0, 0] },
  round: {
    label: 'Round with pins',
    length: 8.4,
    lamp: [3.4, 1.98],
    build: (sides) => {
      const shell: Profile = [[0, 0], [0.9, 0], ...relief(0.1, 2.2, 1.7), [1.9, 2.2], [2, 2.4], [2, 4.6], [2.25, 4.7], [2.35, 4.9], [2.35, 6.1], [2.25, 6.3], [1.95, 6.4], [1.95, 8.4], [1.72, 8.4], [1.72, 6.6], [0, 6.6]]; // biome-ignore format: a table of numbers
      const grips = Array.from({ length: 12 }, (_, k) => {
        const angle = (Math.PI * k) / 6;
        return transformMesh(prism(0.14, 4.95, 6.05, 6), moved(2.34 * Math.cos(angle), 2.34 * Math.sin(angle), 0));
      });
      const pins = Array.from({ length: 7 }, (_, k) => {
        const [far, angle] = k === 0 ? [0, 0] : [1.02, (Math.PI * k) / 3];
        const pin = turnedZ([[0, 6.5], [0.16, 6.5], [0.16, 8], [0.1, 8.16], [0, 8.2]], 10); // biome-ignore format: a table of numbers
        return transformMesh(pin, moved(far * Math.cos(angle), far * Math.sin(angle), 0));
      });
      return { body: mergeMeshes([turnedZ(shell, sides), ...grips]), metal: mergeMeshes(pins) };
    },
  },
  flat: {
    label: 'Flat',
    length: 7.4,
    lamp: [3.6, 1.04],
    build: (sides) => ({
      body: mergeMeshes([
        turnedZ([[0, 0], [0.9, 0], ...relief(0.1, 2.1, 1.35), [0, 2.1]], sides), // biome-ignore format: a table of numbers
        block(1.05, 2.6, 2, 5.4),
        block(0.78, 2.2, 5.3, 5.8, 0.2),
      ]),
      metal: mergeMeshes(
        [-1, 1].map((side) => transformMesh(block(0.42, 0.62, 5.7, 7.4, 0.1), moved(0, 1.05 * side, 0))),
      ),
    }),
  },
  ring: {
    label: 'Ring terminal',
    length: 6.4,
    lamp: [1.6, 1.16],
    build: (sides) => {
      const eye = ring(0.85, 1.75, -0.16, 0.16, Math.max(24, sides), 0.2);
      // the hole looks up
      const flat = transformMesh(eye, Float64Array.of(0, 0, -1, 0, 0, 1, 0, 0, 1, 0, 0, 0, 0, 0, 4.65, 1));
      return {
        body: turnedZ([[0, 0], [1.12, 0], [1.18, 0.1], [1.18, 2], [1.1, 2.15], [0, 2.15]], sides), // biome-ignore format: a table of numbers
        metal: mergeMeshes([
          turnedZ([[0, 1.8], [1.02, 1.8], [1.02, 2.7], [0.8, 3], [0, 3]], sides), // biome-ignore format: a table of numbers
          block(0.16, 0.95, 2.6, 3.4, 0.1),
          flat,
        ]),
      };
    },
  },
  gland: {
    label: 'Rubber gland',
    length: 4.2,
    lamp: [2.2, 2.06],
    build: (sides) => ({
      body: mergeMeshes([
        turnedZ([[0, 0], [1.02, 0], [1.25, 0.12], [1.45, 0.5], ...arcPlaces(1.35, 1.95, -0.35, 0.25, 5).map(([r, z]): [number, number] => [Math.min(1.9, r), z]), [1.7, 1.95], [0, 1.95]], sides), // biome-ignore format: a table of numbers
        prism(2.15, 1.9, 2.9, 6),
        turnedZ([[0, 2.8], [1.75, 2.8], [1.75, 4.1], [1.65, 4.2], [0, 4.2]], sides), // biome-ignore format: a table of numbers
      ]),
    }),
  },
  own: { label: 'Prop', length: 0, lamp: [0, 0] },
} as const satisfies Record<string, Plug>;
export type PlugKind = keyof typeof PLUGS;

const known = new Map<string, PlugShape>();

/** The shape of a built-in plug; the same each time, not to be changed. */
export function plugShape(kind: Exclude<PlugKind, 'none' | 'own'>, sides: number): PlugShape {
  const even = Math.max(8, 2 * Math.round(sides / 2));
  const name = `${kind} ${even}`;
  let shape = known.get(name);
  if (!shape) {
    shape = PLUGS[kind].build(even);
    known.set(name, shape);
  }
  return shape;
}

/** A small dome, its foot at 0, up along x. */
export const lampMesh = (sides: number): Mesh =>
  transformMesh(
    lathe([[0, -0.1], [0.34, -0.1], [0.34, 0.05], ...arcPlaces(0.05, 0.3, 0, Math.PI / 2, 4)], sides, 1),
    Float64Array.of(0, 1, 0, 0, 1, 0, 0, 0, 0, 0, -1, 0, 0, 0, 0, 1),
  );

/** How many vertices a plug has; of a prop that is not known here, as many as a gland. */
export function plugVertices(kind: PlugKind, sides: number): number {
  if (kind === 'none') return 0;
  const { body, metal } = plugShape(kind === 'own' ? 'gland' : kind, sides);
  return vertexCount(body) + (metal ? vertexCount(metal) : 0);
}
