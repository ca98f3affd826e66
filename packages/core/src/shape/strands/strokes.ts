import { catmullRom } from '../../curve/catmull-rom.js';
import { curveCount } from '../../curve/curve-set.js';
import { resample } from '../../curve/resample.js';
import { cellHash } from '../../numeric/cell-hash.js';
import type { BuildContext } from '../../unit/unit.js';

/** Cells of the grid along the longest side of what the strokes reach, at most. */
const MAX_CELLS = 64;

/** Drawn lines, asked for what is nearest to a place: steps of them in a grid of cells as wide as they reach. */
export class Strokes {
  /** Start, unit direction and length of each step, seven numbers. */
  private readonly steps: Float64Array;
  private readonly cells = new Map<number, number[]>();
  private readonly cell: number;
  /** What was found last: the unit direction of the line there, and from its nearest place to the place asked for. */
  readonly direction = new Float64Array(3);
  readonly offset = new Float64Array(3);

  constructor(
    ids: readonly string[],
    private readonly reach: number,
    context: BuildContext,
  ) {
    const all: number[] = [];
    for (const id of ids) {
      const points = context.curves.get(id);
      const line = points && catmullRom(points);
      if (!line || curveCount(line) === 0) continue;
      const { position, start, closed } = resample(line, { maxTurn: 0.2 });
      const count = start[1];
      for (let p = 0; p < count - (closed[0] ? 0 : 1); p++) {
        const q = (p + 1) % count;
        const way = [0, 1, 2].map((n) => position[3 * q + n] - position[3 * p + n]);
        const long = Math.hypot(...way);
        if (long > 0)
          all.push(position[3 * p], position[3 * p + 1], position[3 * p + 2], ...way.map((v) => v / long), long);
      }
    }
    this.steps = Float64Array.from(all);
    this.cell = this.fill();
  }

  get isEmpty(): boolean {
    return this.steps.length === 0;
  }

  private fill(): number {
    const { steps, cells, reach } = this;
    const low = [Infinity, Infinity, Infinity];
    const high = [-Infinity, -Infinity, -Infinity];
    for (let i = 0; i < steps.length; i += 7)
      for (let n = 0; n < 3; n++) {
        low[n] = Math.min(low[n], steps[i + n]);
        high[n] = Math.max(high[n], steps[i + n]);
      }
    const wide = Math.max(0, ...[0, 1, 2].map((n) => high[n] - low[n])) + 2 * reach;
    const cell = Math.max(reach, wide / MAX_CELLS) || 1;
    for (let i = 0; i < steps.length; i += 7) {
      const range = [0, 1, 2].map((n) => {
        const to = steps[i + n] + steps[i + 6] * steps[i + 3 + n];
        return [
          Math.floor((Math.min(steps[i + n], to) - reach) / cell),
          Math.floor((Math.max(steps[i + n], to) + reach) / cell),
        ];
      });
      for (let x = range[0][0]; x <= range[0][1]; x++)
        for (let y = range[1][0]; y <= range[1][1]; y++)
          for (let z = range[2][0]; z <= range[2][1]; z++) {
            const bucket = cellHash(x, y, z);
            const held = cells.get(bucket);
            if (held) held.push(i);
            else cells.set(bucket, [i]);
          }
    }
    return cell;
  }

  /** How much a place is in reach: 1 on a line, 0 from the reach on, smoothly between. Writes `direction` and `offset`. */
  at(x: number, y: number, z: number): number {
    const { cell, steps, direction, offset } = this;
    const held = this.cells.get(cellHash(Math.floor(x / cell), Math.floor(y / cell), Math.floor(z / cell)));
    if (!held) return 0;
    let least = this.reach * this.reach;
    let found = false;
    for (const i of held) {
      const [dx, dy, dz] = [x - steps[i], y - steps[i + 1], z - steps[i + 2]];
      const along = dx * steps[i + 3] + dy * steps[i + 4] + dz * steps[i + 5];
      const on = Math.min(Math.max(along, 0), steps[i + 6]);
      const [ox, oy, oz] = [dx - on * steps[i + 3], dy - on * steps[i + 4], dz - on * steps[i + 5]];
      const far = ox * ox + oy * oy + oz * oz;
      if (far >= least) continue;
      least = far;
      found = true;
      for (let n = 0; n < 3; n++) direction[n] = steps[i + 3 + n];
      offset[0] = ox;
      offset[1] = oy;
      offset[2] = oz;
    }
    if (!found) return 0;
    const t = 1 - Math.sqrt(least) / this.reach;
    return t * t * (3 - 2 * t);
  }
}
