import type { Mesh } from '../mesh/mesh.js';
import type { Section } from '../section/section.js';

/** Writes texture u of each ring as the length round it from its seam, metres: as v is along the line. */
export function layTrueWidth({ position, uv }: Mesh, rings: number, { x, u }: Section): void {
  const columns = x.length;
  for (let vertex = 0, walked = 0; vertex < rings * columns; vertex++) {
    const column = vertex % columns;
    // the way round begins at 0 with each outline
    if (u[column] === 0) walked = 0;
    else {
      const i = 3 * vertex;
      walked += Math.hypot(
        position[i] - position[i - 3],
        position[i + 1] - position[i - 2],
        position[i + 2] - position[i - 1],
      );
    }
    uv[2 * vertex] = walked;
  }
}
