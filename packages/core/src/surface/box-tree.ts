import { meetsBox, squaredToBox } from './triangle-tree.js';

/**
 * A tree over boxes that are few thousands at most, for things that have trees of their own: the props of a scene.
 * Halved at the middle of the widest axis, one box a leaf.
 */
export class BoxTree {
  /** Six numbers a node. Node `n` has children `2n + 1` and `2n + 2`; the leaves are the last ones. */
  private readonly box: Float64Array;
  private readonly item: Int32Array;
  private readonly stack: Int32Array;

  /** @param boxes six numbers a box: least xyz, greatest xyz */
  constructor(boxes: readonly ArrayLike<number>[]) {
    let leaves = 1;
    while (leaves < boxes.length) leaves *= 2;
    this.box = new Float64Array(6 * (2 * leaves - 1));
    this.item = new Int32Array(2 * leaves - 1).fill(-1);
    this.stack = new Int32Array(64);
    this.fill(
      0,
      boxes.map((_, i) => i),
      boxes,
    );
  }

  private fill(node: number, items: number[], boxes: readonly ArrayLike<number>[]): void {
    const { box } = this;
    for (let k = 0; k < 6; k++) box[6 * node + k] = k < 3 ? Infinity : -Infinity;
    for (const i of items)
      for (let k = 0; k < 3; k++) {
        box[6 * node + k] = Math.min(box[6 * node + k], boxes[i][k]);
        box[6 * node + 3 + k] = Math.max(box[6 * node + 3 + k], boxes[i][3 + k]);
      }
    if (2 * node + 2 >= this.item.length) {
      if (items.length > 0) this.item[node] = items[0];
      return;
    }
    const size = (k: number) => box[6 * node + 3 + k] - box[6 * node + k];
    const axis = size(0) >= size(1) && size(0) >= size(2) ? 0 : size(1) >= size(2) ? 1 : 2;
    const centre = (i: number) => boxes[i][axis] + boxes[i][3 + axis];
    items.sort((a, b) => centre(a) - centre(b) || a - b);
    const half = items.length >> 1;
    this.fill(2 * node + 1, items.slice(0, half), boxes);
    this.fill(2 * node + 2, items.slice(half), boxes);
  }

  /**
   * Calls `visit` for boxes at most `within` from a place, the nearer first as far as the tree knows. `visit` returns
   * the distance that counts from then on.
   */
  near(x: number, y: number, z: number, within: number, visit: (item: number, within: number) => number): void {
    const { box, item, stack } = this;
    let reach = within;
    let depth = 0;
    stack[depth++] = 0;
    while (depth > 0) {
      const node = stack[--depth];
      if (squaredToBox(box, node, x, y, z) > reach * reach * (1 + 1e-9)) continue;
      if (item[node] >= 0) {
        reach = visit(item[node], reach);
        continue;
      }
      const a = 2 * node + 1;
      if (a >= item.length) continue;
      const aFirst = squaredToBox(box, a, x, y, z) <= squaredToBox(box, a + 1, x, y, z);
      stack[depth++] = aFirst ? a + 1 : a;
      stack[depth++] = aFirst ? a : a + 1;
    }
  }

  /** Calls `visit` for boxes that a ray passes nearer than what `visit` returned last. */
  along(
    origin: ArrayLike<number>,
    direction: ArrayLike<number>,
    visit: (item: number, within: number) => number,
    within = Infinity,
  ): void {
    const { box, item, stack } = this;
    const [x, y, z] = [1 / direction[0], 1 / direction[1], 1 / direction[2]];
    let reach = within;
    let depth = 0;
    stack[depth++] = 0;
    while (depth > 0) {
      const node = stack[--depth];
      if (!meetsBox(box, 6 * node, origin[0], origin[1], origin[2], x, y, z, reach)) continue;
      if (item[node] >= 0) reach = visit(item[node], reach);
      else if (2 * node + 2 < item.length) {
        stack[depth++] = 2 * node + 1;
        stack[depth++] = 2 * node + 2;
      }
    }
  }

  /** Numbers of the boxes that a box meets, rising. */
  within(low: ArrayLike<number>, high: ArrayLike<number>): number[] {
    const { box, item, stack } = this;
    const out: number[] = [];
    let depth = 0;
    stack[depth++] = 0;
    while (depth > 0) {
      const node = stack[--depth];
      const i = 6 * node;
      if (box[i] > high[0] || box[i + 1] > high[1] || box[i + 2] > high[2]) continue;
      if (box[i + 3] < low[0] || box[i + 4] < low[1] || box[i + 5] < low[2]) continue;
      if (item[node] >= 0) out.push(item[node]);
      else if (2 * node + 2 < item.length) {
        stack[depth++] = 2 * node + 1;
        stack[depth++] = 2 * node + 2;
      }
    }
    return out.sort((a, b) => a - b);
  }
}
