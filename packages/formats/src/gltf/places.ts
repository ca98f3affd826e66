/** Places as what moves, turns and scales a mesh there, as glTF and USD have them. */
export interface Ways {
  translation: Float32Array;
  /** Unit quaternions, xyzw. */
  rotation: Float32Array;
  scale: Float32Array;
}

/** A place leans where two of its ways differ from square by more than this, a cosine. */
const SQUARE = 1e-4;

/** Splits column-major 4×4 matrices; undefined where one leans, which the three cannot say. What mirrors has a size below 0. */
export function placesOf(matrix: Float32Array): Ways | undefined {
  const count = matrix.length / 16;
  const out: Ways = {
    translation: new Float32Array(3 * count),
    rotation: new Float32Array(4 * count),
    scale: new Float32Array(3 * count),
  };
  for (let n = 0; n < count; n++) {
    const m = matrix.subarray(16 * n, 16 * n + 16);
    const size = [0, 4, 8].map((c) => Math.hypot(m[c], m[c + 1], m[c + 2]) || 1);
    const dot = (a: number, b: number) =>
      (m[4 * a] * m[4 * b] + m[4 * a + 1] * m[4 * b + 1] + m[4 * a + 2] * m[4 * b + 2]) / (size[a] * size[b]);
    if (Math.abs(dot(0, 1)) > SQUARE || Math.abs(dot(1, 2)) > SQUARE || Math.abs(dot(0, 2)) > SQUARE) return undefined;
    const turn =
      m[0] * (m[5] * m[10] - m[6] * m[9]) + m[1] * (m[6] * m[8] - m[4] * m[10]) + m[2] * (m[4] * m[9] - m[5] * m[8]);
    if (turn < 0) size[0] = -size[0];
    out.rotation.set(
      quaternion((row, column) => m[4 * column + row] / size[column]),
      4 * n,
    );
    out.translation.set(m.subarray(12, 15), 3 * n);
    out.scale.set(size, 3 * n);
  }
  return out;
}

/** Unit quaternion xyzw of a rotation matrix (Shepperd: Quaternion from rotation matrix, 1978). */
export function quaternion(r: (row: number, column: number) => number): number[] {
  const trace = r(0, 0) + r(1, 1) + r(2, 2);
  const options = [r(0, 0), r(1, 1), r(2, 2), trace];
  const most = options.indexOf(Math.max(...options));
  const out = [0, 0, 0, 0];
  if (most === 3) {
    out[3] = 1 + trace;
    for (let n = 0; n < 3; n++) out[n] = r((n + 2) % 3, (n + 1) % 3) - r((n + 1) % 3, (n + 2) % 3);
  } else {
    const [i, j, k] = [most, (most + 1) % 3, (most + 2) % 3];
    out[i] = 1 - trace + 2 * r(i, i);
    out[j] = r(j, i) + r(i, j);
    out[k] = r(k, i) + r(i, k);
    out[3] = r(k, j) - r(j, k);
  }
  const size = Math.hypot(...out);
  return out.map((value) => value / size);
}
