import { type AlongValue, valueAt } from './lane.js';

/** Steps in which a lane is tabled. */
const STEPS = 256;

/** A lane looked up in a table, for what asks it a million times: straight between its steps. */
export class LaneTable {
  private readonly values = new Float64Array(STEPS + 2);

  constructor(value: AlongValue) {
    for (let k = 0; k <= STEPS; k++) this.values[k] = valueAt(value, k / STEPS);
    this.values[STEPS + 1] = this.values[STEPS];
  }

  /** At share `t` of the length, 0 … 1. */
  at(t: number): number {
    const x = STEPS * t;
    const k = x | 0;
    const value = this.values[k];
    return value + (x - k) * (this.values[k + 1] - value);
  }
}
