// Boxes in one list, six numbers each: where they begin, xyz, and where they end.

/** Widens a box so that another one is in it. */
export function widen(box: Float64Array, a: number, other: Float64Array, b: number): void {
  for (let n = 0; n < 3; n++) {
    if (other[b + n] < box[a + n]) box[a + n] = other[b + n];
    if (other[b + 3 + n] > box[a + 3 + n]) box[a + 3 + n] = other[b + 3 + n];
  }
}

/** Whether two boxes, given by the positions of their first numbers, touch. */
export const meets = (box: Float64Array, a: number, b: number): boolean =>
  box[a] <= box[b + 3] &&
  box[b] <= box[a + 3] &&
  box[a + 1] <= box[b + 4] &&
  box[b + 1] <= box[a + 4] &&
  box[a + 2] <= box[b + 5] &&
  box[b + 2] <= box[a + 5];

/** This many boxes are looked at for each: where more lie over it on the way that is swept, all of these are taken to meet. */
const LOOKED_AT = 24;

/** Which boxes may meet another one: sorted along the way on which their lower ends are spread furthest, and swept. */
export function meetingBoxes(box: Float64Array, count: number): Uint8Array {
  const out = new Uint8Array(count);
  const low = (k: number, axis: number) => box[6 * k + axis];
  const spread = [0, 1, 2].map((axis) => {
    let [least, most] = [Infinity, -Infinity];
    for (let k = 0; k < count; k++) {
      least = Math.min(least, low(k, axis));
      most = Math.max(most, low(k, axis));
    }
    return most - least;
  });
  const axis = spread.indexOf(Math.max(...spread));
  const order = Array.from({ length: count }, (_, k) => k).sort((a, b) => low(a, axis) - low(b, axis));
  let crowded = -Infinity;
  order.forEach((a, at) => {
    const end = box[6 * a + 3 + axis];
    if (low(a, axis) <= crowded) out[a] = 1;
    for (let next = at + 1; next < count && low(order[next], axis) <= end; next++) {
      if (next - at > LOOKED_AT) {
        out[a] = 1;
        crowded = Math.max(crowded, end);
        break;
      }
      if (!meets(box, 6 * a, 6 * order[next])) continue;
      out[a] = 1;
      out[order[next]] = 1;
    }
  });
  return out;
}
