import { type AlongValue, valueAt } from '../../numeric/lane.js';
import { type Pair, pairAt } from '../../numeric/pair.js';
import { hashText, randomsOf } from '../../numeric/random.js';
import type { Stations } from '../elements/stations.js';

/** How elements stand at their stations. */
export interface StandChoice {
  facing: string;
  rise: AlongValue;
  roll: AlongValue;
  lean: AlongValue;
  sizes: Pair;
  turns: Pair;
  tilt: number;
  along: number;
  aside: number;
  seed: number;
}

/** Where an element's own x, y and z go: side, up and along the line, one row each. */
const FACING: Record<string, readonly number[]> = {
  z: [1, 0, 0, 0, 1, 0, 0, 0, 1],
  '-z': [-1, 0, 0, 0, 1, 0, 0, 0, -1],
  x: [0, 0, 1, 0, 1, 0, -1, 0, 0],
  '-x': [0, 0, -1, 0, 1, 0, 1, 0, 0],
  y: [1, 0, 0, 0, 0, 1, 0, -1, 0],
  '-y': [1, 0, 0, 0, 0, -1, 0, 1, 0],
};

/**
 * Works out how each element stands: its three axes, unit vectors, and its place. What is at random hangs on the element's id.
 * Nothing is made anew for an element: `axes` and `at` are written over.
 */
export class Stander {
  /** x, y, z of the element in the world, 9 numbers. */
  readonly axes = new Float64Array(9);
  readonly at = new Float64Array(3);
  private readonly facing: readonly number[];
  /** They are in the frames of their stations as these are. */
  readonly plain: boolean;
  private readonly chance: Record<'tilt' | 'way' | 'along' | 'aside', (id: number) => number>;

  constructor(
    private readonly stations: Stations,
    private readonly p: StandChoice,
  ) {
    this.facing = FACING[p.facing] ?? FACING['z'];
    const draw = (name: string) => randomsOf(p.seed, hashText(name));
    this.chance = { tilt: draw('tilt'), way: draw('way'), along: draw('along'), aside: draw('aside') };
    this.plain =
      [p.tilt, p.along, p.aside, p.roll, p.lean, p.rise, p.turns.least, p.turns.most].every((value) => value === 0) &&
      p.facing === 'z';
  }

  /** @param size of the element, metres, which what is relative to it goes by */
  place(n: number, size: number): void {
    const { stations, axes, at, p, facing } = this;
    const { tangent: t, up } = stations;
    const i = 3 * n;
    // side, up, along
    axes[0] = up[i + 1] * t[i + 2] - up[i + 2] * t[i + 1];
    axes[1] = up[i + 2] * t[i] - up[i] * t[i + 2];
    axes[2] = up[i] * t[i + 1] - up[i + 1] * t[i];
    for (let k = 0; k < 3; k++) {
      axes[3 + k] = up[i + k];
      axes[6 + k] = t[i + k];
      at[k] = stations.at[i + k];
    }
    if (this.plain) return;
    const id = stations.id[n];
    const share = stations.share[n];
    turnPair(axes, 0, 3, valueAt(p.roll, share));
    const rise = size * valueAt(p.rise, share);
    const along = p.along > 0 ? size * p.along * (2 * this.chance.along(id) - 1) : 0;
    const aside = p.aside > 0 ? size * p.aside * (2 * this.chance.aside(id) - 1) : 0;
    for (let k = 0; k < 3; k++) at[k] += aside * axes[k] + rise * axes[3 + k] + along * axes[6 + k];
    turnPair(axes, 3, 6, valueAt(p.lean, share));
    if (facing !== FACING['z']) {
      const [x, y, z] = [axes.slice(0, 3), axes.slice(3, 6), axes.slice(6, 9)];
      for (let row = 0; row < 3; row++)
        for (let k = 0; k < 3; k++)
          axes[3 * row + k] = facing[3 * row] * x[k] + facing[3 * row + 1] * y[k] + facing[3 * row + 2] * z[k];
    }
    // about itself, then to some side: its own up goes last
    if (p.turns.least !== 0 || p.turns.most !== 0) turnPair(axes, 6, 0, pairAt(p.turns, p.seed, id, 'turn'));
    if (p.tilt > 0) {
      // as likely to lie anywhere in the cap of that angle
      const angle = Math.acos(1 - this.chance.tilt(id) * (1 - Math.cos(p.tilt)));
      const way = 2 * Math.PI * this.chance.way(id);
      turnPair(axes, 6, 0, way);
      turnPair(axes, 3, 6, angle);
      turnPair(axes, 6, 0, -way);
    }
  }
}

/** Turns two of three axes in their plane, the first towards the second. */
function turnPair(axes: Float64Array, a: number, b: number, angle: number): void {
  if (angle === 0) return;
  const [cos, sin] = [Math.cos(angle), Math.sin(angle)];
  for (let k = 0; k < 3; k++) {
    const [p, q] = [axes[a + k], axes[b + k]];
    axes[a + k] = cos * p + sin * q;
    axes[b + k] = cos * q - sin * p;
  }
}
