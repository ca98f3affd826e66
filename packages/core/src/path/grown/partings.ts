import type { ControlPoints } from '../../curve/catmull-rom.js';
import { catmullRom } from '../../curve/catmull-rom.js';
import { curveCount } from '../../curve/curve-set.js';
import { resample } from '../../curve/resample.js';
import { cellHash } from '../../numeric/cell-hash.js';
import { createHit, type Surface } from '../../surface/surface.js';
import { edgeOf, type Skin } from './skin.js';

/** Lines on a skin that nothing is mixed across. Each stands as a wall on the skin, one panel for each of its steps. */
export class Partings {
  /** Both ends and the direction in which the wall stands, nine numbers a panel. */
  private readonly panels: Float64Array;
  private readonly cells = new Map<number, number[]>();
  private readonly cell: number;

  constructor(lines: readonly ControlPoints[], surface: Surface, skin: Skin) {
    const spacing = lines.length > 0 ? edgeOf(skin) : 1;
    const panels: number[] = [];
    const hit = createHit();
    let longest = spacing;
    for (const line of lines) {
      const curves = catmullRom(line);
      if (curveCount(curves) === 0) continue;
      const { position, start, closed } = resample(curves, { spacing });
      const count = start[1];
      for (let p = 0; p < count - (closed[0] ? 0 : 1); p++) {
        const q = (p + 1) % count;
        const ends = [p, q].flatMap((k) => [position[3 * k], position[3 * k + 1], position[3 * k + 2]]);
        surface.closest(ends[0], ends[1], ends[2], hit);
        panels.push(...ends, ...hit.normal);
        longest = Math.max(longest, Math.hypot(ends[3] - ends[0], ends[4] - ends[1], ends[5] - ends[2]));
      }
    }
    this.panels = Float64Array.from(panels);
    this.cell = 2 * longest;
    for (let k = 0; k < panels.length / 9; k++) {
      const i = 9 * k;
      const bucket = cellHash(
        Math.floor(panels[i] / this.cell),
        Math.floor(panels[i + 1] / this.cell),
        Math.floor(panels[i + 2] / this.cell),
      );
      this.cells.set(bucket, [...(this.cells.get(bucket) ?? []), k]);
    }
  }

  get isEmpty(): boolean {
    return this.panels.length === 0;
  }

  /** Whether the straight way between two places on the skin runs through one of the walls. */
  crosses(a: ArrayLike<number>, i: number, b: ArrayLike<number>, j: number): boolean {
    const { cell, cells } = this;
    // a panel lies within half a cell of the cell that its first end is in
    const low = [0, 1, 2].map((n) => Math.floor(Math.min(a[i + n], b[j + n]) / cell - 0.5));
    const high = [0, 1, 2].map((n) => Math.floor(Math.max(a[i + n], b[j + n]) / cell + 0.5));
    for (let x = low[0]; x <= high[0]; x++)
      for (let y = low[1]; y <= high[1]; y++)
        for (let z = low[2]; z <= high[2]; z++)
          for (const k of cells.get(cellHash(x, y, z)) ?? []) if (this.meets(9 * k, a, i, b, j)) return true;
    return false;
  }

  private meets(k: number, a: ArrayLike<number>, i: number, b: ArrayLike<number>, j: number): boolean {
    const p = this.panels;
    const [ex, ey, ez] = [p[k + 3] - p[k], p[k + 4] - p[k + 1], p[k + 5] - p[k + 2]];
    const [nx, ny, nz] = [p[k + 6], p[k + 7], p[k + 8]];
    const [mx, my, mz] = [ey * nz - ez * ny, ez * nx - ex * nz, ex * ny - ey * nx];
    const from = (a[i] - p[k]) * mx + (a[i + 1] - p[k + 1]) * my + (a[i + 2] - p[k + 2]) * mz;
    const to = (b[j] - p[k]) * mx + (b[j + 1] - p[k + 1]) * my + (b[j + 2] - p[k + 2]) * mz;
    if (from > 0 === to > 0) return false;
    const t = from / (from - to);
    const x = a[i] + t * (b[j] - a[i]) - p[k];
    const y = a[i + 1] + t * (b[j + 1] - a[i + 1]) - p[k + 1];
    const z = a[i + 2] + t * (b[j + 2] - a[i + 2]) - p[k + 2];
    const long = ex * ex + ey * ey + ez * ez;
    const along = x * ex + y * ey + z * ez;
    // a hair over its ends: between two panels is no gap
    if (along < -1e-6 * long || along > (1 + 1e-6) * long) return false;
    const way = Math.hypot(a[i] - b[j], a[i + 1] - b[j + 1], a[i + 2] - b[j + 2]);
    return Math.abs(x * nx + y * ny + z * nz) <= Math.max(Math.sqrt(long), way);
  }
}
