import type { Mesh } from '../../mesh/mesh.js';
import { compiled, type Memory, makeRoom } from '../../numeric/compiled.js';
import { type Blend, legAt } from '../../section/blend/blend.js';
import type { Section } from '../../section/section.js';
import { KERNEL } from './binary.js';

interface Exports extends Memory {
  evenRings: WriteRings;
  roundRings: WriteRings;
  leaningRings: WriteRings;
  freeRings: WriteRings;
  bands(count: number, indices: number, pattern: number, first: number, step: number, out: number): void;
}
type WriteRings = (
  rings: number,
  columns: number,
  section: number,
  ring: number,
  p: number,
  n: number,
  uv: number,
) => void;

/** Numbers of one ring and one column in the kernel's memory, in the order of kernel/sweep.as.ts. */
export const RING_NUMBERS = 28;
const COLUMN_NUMBERS = 8;
/** Vertices in one portion: what it writes stays in the processor's nearest memory until it is copied out. */
const PORTION_VERTICES = 2048;
/** The loops write four numbers where three are meant; this much stays free behind each array. */
const SPILL = 16;

let exports: Exports | undefined;

function kernel(): Exports {
  exports ??= compiled<Exports>(KERNEL);
  return exports;
}

/** What varies from ring to ring: nothing, thickness and turn, or height, width and place apart. */
export type RingVariant = 'even' | 'leaning' | 'free';

/**
 * Writes rings and bands of one section in portions. The caller fills `rings` with up to `capacity` entries and asks for
 * them to be written; bands are listed in runs. One at a time: all portions share one memory.
 */
export class PortionWriter {
  readonly capacity: number;
  /**
   * RING_NUMBERS for each ring: centre, A, B and tangent with one unused each, v, radius, grow, twist, bendA, bendB, then
   * width, widen, shiftA, shiftB, driftA, driftB of what is free.
   */
  readonly rings: Float32Array;
  private readonly columns: number;
  private readonly round: boolean;
  private readonly indices: number;
  /** Bands that are not copied out yet. */
  private waiting = 0;
  private readonly at: Record<'section' | 'rings' | 'position' | 'normal' | 'uv' | 'pattern' | 'index', number>;

  constructor(section: Section) {
    const { memory } = kernel();
    this.columns = section.x.length;
    this.round = section.round;
    this.indices = 6 * section.face.length;
    this.capacity = Math.max(1, Math.floor(PORTION_VERTICES / this.columns));
    const vertices = this.capacity * this.columns;
    let end = 1024;
    const reserve = (numbers: number) => {
      const at = end;
      end = Math.ceil((end + 4 * numbers + SPILL) / 16) * 16;
      return at;
    };
    this.at = {
      section: reserve(COLUMN_NUMBERS * this.columns),
      rings: reserve(RING_NUMBERS * this.capacity),
      position: reserve(3 * vertices),
      normal: reserve(3 * vertices),
      uv: reserve(2 * vertices),
      pattern: reserve(this.indices),
      index: reserve(this.capacity * this.indices),
    };
    makeRoom(kernel(), end);
    this.rings = new Float32Array(memory.buffer, this.at.rings, RING_NUMBERS * this.capacity);
    this.fillSection(section);
  }

  /** What a blend is at a share of its way, and how fast that changes, for the rings that are written next. */
  fillBlend(blend: Blend, share: number, change: number): void {
    const leg = legAt(blend, share);
    const [from, to] = [blend.stages[leg.from], blend.stages[leg.from + 1]];
    const [speedFrom, speedTo] = [blend.speeds[leg.from], blend.speeds[leg.from + 1]];
    const { mixed } = leg;
    const rate = change * leg.rate;
    const columns = this.sectionColumns();
    for (let k = 0, c = 0; k < this.columns; k++, c += COLUMN_NUMBERS) {
      const [dx, dy] = [to.x[k] - from.x[k], to.y[k] - from.y[k]];
      const [a, b] = [(1 - mixed) * speedFrom[k], mixed * speedTo[k]];
      columns[c] = from.x[k] + mixed * dx;
      columns[c + 1] = from.y[k] + mixed * dy;
      // of any length: it is made a unit vector as the section is stretched
      columns[c + 2] = a * from.normalX[k] + b * to.normalX[k];
      columns[c + 3] = a * from.normalY[k] + b * to.normalY[k];
      columns[c + 4] = from.u[k];
      columns[c + 5] = rate * dx;
      columns[c + 6] = rate * dy;
    }
  }

  private sectionColumns(): Float32Array {
    return new Float32Array(kernel().memory.buffer, this.at.section, COLUMN_NUMBERS * this.columns);
  }

  private fillSection({ x, y, normalX, normalY, u, face }: Section): void {
    const { buffer } = kernel().memory;
    const columns = this.sectionColumns();
    for (let k = 0; k < this.columns; k++)
      columns.set([x[k], y[k], normalX[k], normalY[k], u[k], 0, 0], COLUMN_NUMBERS * k);
    const pattern = new Uint32Array(buffer, this.at.pattern, this.indices);
    face.forEach((a, f) => {
      const b = a + this.columns;
      pattern.set([a, a + 1, b + 1, a, b + 1, b], 6 * f);
    });
  }

  /** Writes the first `count` of `rings` to the vertices from `vertex` on. */
  writeRings(count: number, manner: RingVariant, mesh: Mesh, vertex: number): void {
    const { memory, evenRings, roundRings, leaningRings, freeRings } = kernel();
    const { section, rings, position, normal, uv } = this.at;
    const write = { even: this.round ? roundRings : evenRings, leaning: leaningRings, free: freeRings }[manner];
    write(count, this.columns, section, rings, position, normal, uv);
    const vertices = count * this.columns;
    mesh.position.set(new Float32Array(memory.buffer, position, 3 * vertices), 3 * vertex);
    mesh.normal.set(new Float32Array(memory.buffer, normal, 3 * vertices), 3 * vertex);
    mesh.uv.set(new Float32Array(memory.buffer, uv, 2 * vertices), 2 * vertex);
  }

  /**
   * Two triangles a face for a run of `count` bands, the first of which begins at a vertex; they are in `index` from `at`
   * on once `endBands` was called.
   * @returns where the index goes on
   */
  addBands(vertex: number, count: number, index: Uint32Array, at: number): number {
    const { bands } = kernel();
    let next = at;
    for (let done = 0; done < count; ) {
      const some = Math.min(count - done, this.capacity - this.waiting);
      const out = this.at.index + 4 * this.indices * this.waiting;
      bands(some, this.indices, this.at.pattern, vertex + done * this.columns, this.columns, out);
      this.waiting += some;
      done += some;
      if (this.waiting === this.capacity) next = this.endBands(index, next);
    }
    return next;
  }

  /** Copies out what waits; returns where the index goes on. */
  endBands(index: Uint32Array, at: number): number {
    const count = this.waiting * this.indices;
    index.set(new Uint32Array(kernel().memory.buffer, this.at.index, count), at);
    this.waiting = 0;
    return at + count;
  }
}
