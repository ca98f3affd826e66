import type { CurveSet } from '../../curve/curve-set.js';
import type { Region } from '../../document/document.js';
import { weightIn } from '../../document/region-weight.js';
import { type AlongValue, isLane } from '../../numeric/lane.js';
import { LaneTable } from '../../numeric/lane-table.js';
import type { BuildContext } from '../../unit/unit.js';

/**
 * A number that varies root to tip, or by how far a strand's root is inside a region: asked strand by strand. A region that
 * is not there is nowhere.
 */
export class StrandLane {
  private readonly table: LaneTable;
  private readonly driven: boolean;
  private readonly region: Region | undefined;
  /** How far the root of the strand at hand is inside. */
  private inside = 0;

  constructor(
    value: AlongValue,
    private readonly curves: Pick<CurveSet, 'start' | 'position'>,
    { region }: Pick<BuildContext, 'region'>,
  ) {
    this.table = new LaneTable(value);
    this.driven = isLane(value) && value.region !== undefined;
    this.region = isLane(value) && value.region !== undefined ? region(value.region) : undefined;
  }

  /** Goes on with a strand. */
  begin(curve: number): void {
    if (!this.region) return;
    const { start, position } = this.curves;
    const i = 3 * start[curve];
    this.inside = weightIn(this.region, position[i], position[i + 1], position[i + 2]);
  }

  /** At share `t` of the strand's length. */
  at(t: number): number {
    return this.table.at(this.driven ? this.inside : t);
  }
}
