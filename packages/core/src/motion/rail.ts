/** A closed line with its frames, which parts ride along. Plain arrays: it goes from thread to thread. */
export interface Rail {
  /** xyz of each point, the first one once more at the end; unit way along and way outwards there. */
  position: Float64Array;
  tangent: Float32Array;
  outward: Float32Array;
  /** Metres from the start, rising; the last is the length. */
  along: Float64Array;
}

/**
 * The frame at a share of the rail, column-major 4×4: x across, y outwards, z along.
 * @param span metres: the middle of a chord whose ends are on the rail, as long in z as the chord is against it; 0: the place itself
 */
export function railFrame(rail: Rail, share: number, span: number, out: Float64Array): void {
  const length = rail.along[rail.along.length - 1];
  const s = share * length;
  let [zx, zy, zz] = [0, 0, 0];
  let scale = 1;
  if (span > 0) {
    spot(rail, s - span / 2, length, one);
    spot(rail, s + span / 2, length, two);
    for (let k = 0; k < 9; k++) here[k] = (one[k] + two[k]) / 2;
    [zx, zy, zz] = [two[0] - one[0], two[1] - one[1], two[2] - one[2]];
    scale = Math.sqrt(zx * zx + zy * zy + zz * zz) / span;
  } else {
    spot(rail, s, length, here);
    [zx, zy, zz] = [here[3], here[4], here[5]];
  }
  const size = 1 / (Math.sqrt(zx * zx + zy * zy + zz * zz) || 1);
  zx *= size;
  zy *= size;
  zz *= size;
  let [yx, yy, yz] = [here[6], here[7], here[8]];
  const lean = yx * zx + yy * zy + yz * zz;
  yx -= lean * zx;
  yy -= lean * zy;
  yz -= lean * zz;
  const tall = 1 / (Math.sqrt(yx * yx + yy * yy + yz * yz) || 1);
  yx *= tall;
  yy *= tall;
  yz *= tall;
  out[0] = yy * zz - yz * zy;
  out[1] = yz * zx - yx * zz;
  out[2] = yx * zy - yy * zx;
  out[3] = 0;
  out[4] = yx;
  out[5] = yy;
  out[6] = yz;
  out[7] = 0;
  out[8] = scale * zx;
  out[9] = scale * zy;
  out[10] = scale * zz;
  out[11] = 0;
  out[12] = here[0];
  out[13] = here[1];
  out[14] = here[2];
  out[15] = 1;
}

/** Place, way along and way outwards: one at either end of a span, and what is looked for. */
const one = new Float64Array(9);
const two = new Float64Array(9);
const here = new Float64Array(9);

function spot({ position, tangent, outward, along }: Rail, metres: number, length: number, out: Float64Array): void {
  const s = metres - length * Math.floor(metres / length);
  let low = 0;
  let high = along.length - 1;
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if (along[middle] <= s) low = middle;
    else high = middle;
  }
  const width = along[high] - along[low];
  const t = width > 0 ? (s - along[low]) / width : 0;
  const a = 3 * low;
  const b = 3 * high;
  for (let n = 0; n < 3; n++) {
    out[n] = position[a + n] + t * (position[b + n] - position[a + n]);
    out[3 + n] = tangent[a + n] + t * (tangent[b + n] - tangent[a + n]);
    out[6 + n] = outward[a + n] + t * (outward[b + n] - outward[a + n]);
  }
}
