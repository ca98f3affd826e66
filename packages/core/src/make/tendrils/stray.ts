import { LineNoise } from '../../numeric/noise.js';
import { hashText } from '../../numeric/random.js';
import type { Vec3 } from '../../numeric/vector.js';

/** How lines leave their course, and their thickness, at random. Metres; lumps as a share. */
export interface Straying {
  amount: number;
  wave: number;
  lumps: number;
  seed: number;
}

/** A lump is this much shorter than a sway. */
const LUMP = 0.5;

/** By how much the places of one line stray, by how far along they are. */
export class Stray {
  private readonly ways: readonly LineNoise[];
  private readonly thick: LineNoise;
  private times = 1;

  constructor(private readonly how: Straying) {
    this.ways = ['x', 'y', 'z'].map((name) => new LineNoise(how.seed, hashText(`tendril ${name}`)));
    this.thick = new LineNoise(how.seed, hashText('tendril lump'));
  }

  /** Goes on with another line; a closed one comes back to where it began. */
  onLine(id: number, length: number, closed = false): void {
    const waves = length / this.how.wave;
    const whole = closed ? Math.max(1, Math.round(waves)) : 0;
    this.times = closed ? whole / length : 1 / this.how.wave;
    for (const way of this.ways) way.onLine(id, whole);
    this.thick.onLine(id, closed ? Math.max(1, Math.round(whole / LUMP)) : 0);
  }

  /** Moves a place aside; `share` 0 leaves it where it is. */
  move(at: Vec3, along: number, share: number): void {
    if (this.how.amount === 0 || share === 0) return;
    this.ways.forEach((way, k) => {
      at[k] += this.how.amount * share * way.at(along * this.times);
    });
  }

  /** What the thickness is multiplied by; `share` 0 leaves it as it is. */
  lump(along: number, share = 1): number {
    return this.how.lumps === 0 ? 1 : 1 + this.how.lumps * share * this.thick.at((along * this.times) / LUMP);
  }
}
