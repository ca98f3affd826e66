import { randomsOf } from './random.js';

/**
 * Smooth noise over a line, −1…1: random values at whole numbers, eased between with the quintic 6t⁵ − 15t⁴ + 10t³
 * (Perlin: Improving noise, SIGGRAPH 2002), so that slope and bend run on without a jump. A walk along a line asks for
 * place after place: the two values it is between are kept.
 */
export class LineNoise {
  private readonly random: (id: number) => number;
  private id = 0;
  private period = 0;
  private cell = Number.NaN;
  private a = 0;
  private b = 0;

  constructor(seed: number, name: number) {
    this.random = randomsOf(seed, name);
  }

  /**
   * Goes on with the line of this id.
   * @param period whole number after which it repeats; 0 never
   */
  onLine(id: number, period = 0): void {
    this.id = id;
    this.period = period;
    this.cell = Number.NaN;
  }

  at(x: number): number {
    const cell = Math.floor(x);
    if (cell !== this.cell) {
      this.a = cell === this.cell + 1 ? this.b : this.valueAt(cell);
      this.b = this.valueAt(cell + 1);
      this.cell = cell;
    }
    const t = x - cell;
    return this.a + (this.b - this.a) * t * t * t * (t * (6 * t - 15) + 10);
  }

  private valueAt(cell: number): number {
    const { id, period } = this;
    const whole = period > 0 ? ((cell % period) + period) % period : cell;
    return 2 * this.random(id ^ Math.imul(whole, 0x9e3779b1)) - 1;
  }
}
