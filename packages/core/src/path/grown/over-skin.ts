import { layout, makeRoom } from '../../numeric/compiled.js';
import type { Roots } from '../roots/spread-roots.js';
import type { Guides } from './guides.js';
import { growthKernel } from './kernel.js';
import type { Partings } from './partings.js';
import { edgeOf, placeOnSkin, type Skin } from './skin.js';

/** How strands grow: those that are led as far as the guides' reach goes, the others alone. */
export interface Growth {
  /** Of strands that are alone; 0 square to the skin and 1 straight up. */
  length: number;
  upright: number;
  /** No guide has a say further than this. */
  reach: number;
  /** Strands that no guide reaches are none. */
  leftOut: boolean;
}

/** Strands of one portion, as they were written: arrays over the kernel's memory, true until the next one. */
export interface Portion {
  /** Which of the roots they are at. */
  which: Uint32Array;
  position: Float64Array;
  along: Float32Array;
  normal: Float32Array;
  length: Float32Array;
}

/** Points of one portion: what is written stays in the processor's nearest memory until it is copied out. */
const PORTION = 16_384;
/** Queues of what is to be gone on from, and how much further each is, in mean edges of the skin. */
const QUEUES = 65_536;
const QUEUE = 0.5;
/** Places that are gone on from between two words of how far it is. */
const STRIDE = 16_384;

/**
 * A skin and the guides on it, in the memory of a kernel. The guides walk over the skin's edges, all at once, and those that
 * arrive first are kept at each place (Dijkstra: A note on two problems in connexion with graphs, 1959, with several
 * sources); no way runs across a parting. At a place in a face they share by the inverse of the distance, which ends at
 * the reach or at the guide that comes after the last one that has a say (Franke & Nielson: Smooth interpolation of large
 * sets of scattered data, 1980): the shares sum to 1, and at a guide's own root it alone counts. Over the skin two
 * places are as far from each other as straight through space, and further by what the way round is longer than that.
 * A strand is its guides, each turned as the skin turns from the guide's root to the strand's, mixed by their shares and
 * as long as these say.
 */
export class GuidedSkin {
  private readonly kernel = growthKernel();
  private readonly at;

  constructor(
    private readonly skin: Skin,
    private readonly guides: Guides | undefined,
    private readonly partings: Partings,
    private readonly points: number,
  ) {
    const { reserve, end } = layout();
    const places = skin.position.length / 3;
    const { start, next } = partings.isEmpty ? skin : unparted(skin, partings);
    const count = guides?.roots.length ?? 0;
    const wide = points + (points & 1);
    const strands = this.strandsAtOnce();
    const at = {
      corner: reserve(4 * skin.corner.length),
      position: reserve(24 * places),
      normal: reserve(24 * places),
      start: reserve(4 * places + 4),
      next: reserve(4 * next.length),
      near: reserve(count > 0 ? this.kernel.NEAR.value * places : 0),
      guideAt: reserve(24 * count),
      guideNormal: reserve(24 * count),
      guideLength: reserve(8 * count),
      guideSlack: reserve(8 * count),
      guideShape: reserve(24 * wide * count),
      // who was met last, the guides of one place, and one strand
      room: reserve(4 * count + 512 + 32 * wide),
      face: reserve(4 * strands),
      shares: reserve(16 * strands),
      blocked: reserve(strands),
      where: reserve(48),
      out: reserve(24 * points * strands),
      normals: reserve(12 * strands),
      along: reserve(4 * points * strands),
      lengths: reserve(4 * strands),
      which: reserve(4 * strands),
      queues: reserve(count > 0 ? 4 * QUEUES : 0),
      rest: end(),
    };
    this.at = at;
    makeRoom(this.kernel, end());
    const { buffer } = this.kernel.memory;
    new Uint32Array(buffer, at.corner).set(skin.corner);
    new Float64Array(buffer, at.position).set(skin.position);
    new Float64Array(buffer, at.normal).set(skin.normal);
    new Uint32Array(buffer, at.start).set(start);
    new Uint32Array(buffer, at.next).set(next);
    this.kernel.setSkin(
      at.corner,
      at.position,
      at.normal,
      at.start,
      at.next,
      at.near,
      at.queues,
      QUEUES,
      QUEUE * edgeOf(skin),
      at.rest,
    );
    this.kernel.setGuides(
      count,
      at.guideAt,
      at.guideNormal,
      at.guideLength,
      at.guideSlack,
      at.guideShape,
      points,
      at.room,
    );
    if (!guides) return;
    this.kernel.forget(places);
    const roots = new Float64Array(buffer, at.guideAt, 3 * count);
    guides.roots.forEach((root, g) => {
      roots.set(root.at, 3 * g);
    });
    new Float64Array(buffer, at.guideNormal).set(guides.normal);
    new Float64Array(buffer, at.guideLength).set(guides.length);
    const shape = new Float64Array(buffer, at.guideShape);
    for (let g = 0; g < count; g++)
      for (let n = 0; n < 3; n++)
        for (let k = 0; k < points; k++) shape[wide * (3 * g + n) + k] = guides.shape[3 * (points * g + k) + n];
  }

  private readonly strandsAtOnce = (): number => Math.max(1, Math.floor(PORTION / this.points));

  /** Lets the guides walk over the skin, no further than their reach. */
  walk(reach: number, step: (share: number) => void): void {
    const { kernel, skin, guides, partings, at } = this;
    if (!guides) return;
    // how far the nearest way from its own root over the skin's places and back to it is
    const slack = new Float64Array(guides.roots.length).fill(Infinity);
    let most = 0;
    guides.roots.forEach(({ triangle, at: root }, g) => {
      for (let k = 0; k < 3; k++) {
        const p = skin.corner[3 * triangle + k];
        if (partings.crosses(root, 0, skin.position, 3 * p)) continue;
        const i = 3 * p;
        const far = Math.hypot(
          root[0] - skin.position[i],
          root[1] - skin.position[i + 1],
          root[2] - skin.position[i + 2],
        );
        slack[g] = Math.min(slack[g], 2 * far);
        kernel.reaches(p, g, far);
      }
      if (slack[g] < Infinity) most = Math.max(most, slack[g]);
    });
    const all = (Math.min(guides.roots.length, kernel.EACH.value) * skin.position.length) / 3;
    for (let done = 0, more = 1; more > 0; done += more) {
      step(done / all);
      more = kernel.walk(STRIDE, kernel.DETOUR.value * reach + most);
    }
    new Float64Array(kernel.memory.buffer, at.guideSlack).set(slack);
  }

  /** Makes the strands of all roots, a portion at a time. */
  grow(
    roots: Roots,
    { length, upright, reach, leftOut }: Growth,
    take: (portion: Portion, done: number) => void,
  ): void {
    const { kernel, partings, points, at } = this;
    const { buffer } = kernel.memory;
    const most = this.strandsAtOnce();
    const parted = !partings.isEmpty;
    for (let first = 0; first < roots.count; first += most) {
      const end = Math.min(first + most, roots.count);
      new Uint32Array(buffer, at.face).set(roots.triangle.subarray(first, end));
      new Float64Array(buffer, at.shares).set(roots.shares.subarray(2 * first, 2 * end));
      if (parted) this.writeBlocked(roots, first, end);
      const count = kernel.grow(
        end - first,
        at.face,
        at.shares,
        parted ? at.blocked : 0,
        reach,
        leftOut ? 1 : 0,
        length,
        upright,
        at.where,
        at.out,
        at.normals,
        at.along,
        at.lengths,
        at.which,
      );
      const which = new Uint32Array(buffer, at.which, count);
      for (let c = 0; c < count; c++) which[c] += first;
      take(
        {
          which,
          position: new Float64Array(buffer, at.out, 3 * points * count),
          along: new Float32Array(buffer, at.along, points * count),
          normal: new Float32Array(buffer, at.normals, 3 * count),
          length: new Float32Array(buffer, at.lengths, count),
        },
        end,
      );
    }
  }

  /** Of each root, which corners of its face lie beyond a parting. */
  private writeBlocked({ triangle, shares }: Roots, first: number, end: number): void {
    const { skin, partings, at } = this;
    const blocked = new Uint8Array(this.kernel.memory.buffer, at.blocked, end - first).fill(0);
    const place = new Float64Array(6);
    for (let c = first; c < end; c++) {
      placeOnSkin(skin, triangle[c], shares[2 * c], shares[2 * c + 1], place);
      for (let k = 0; k < 3; k++)
        if (partings.crosses(place, 0, skin.position, 3 * skin.corner[3 * triangle[c] + k]))
          blocked[c - first] |= 1 << k;
    }
  }
}

/** The ways between neighbours that run across no parting. */
function unparted({ start, next, position }: Skin, partings: Partings): { start: Uint32Array; next: Uint32Array } {
  const begins = new Uint32Array(start.length);
  const kept = new Uint32Array(next.length);
  let count = 0;
  for (let p = 0; p + 1 < start.length; p++) {
    for (let e = start[p]; e < start[p + 1]; e++)
      if (!partings.crosses(position, 3 * p, position, 3 * next[e])) kept[count++] = next[e];
    begins[p + 1] = count;
  }
  return { start: begins, next: kept.subarray(0, count) };
}
