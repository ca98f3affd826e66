/** Active sets settle within a few dozen steps; one that goes round in a circle is cut off. */
const MAX_STEPS = 80;

/**
 * How far points come along fixed directions when a line that is stiff against bending is pressed along them onto stops:
 * t minimises stiffness · Σ |t₋w₋ − 2tw + t₊w₊|² − Σ t with t ≤ stops. Both ends are held at their stops.
 * Hintermüller, Ito, Kunisch: The primal-dual active set strategy as a semismooth Newton method, SIAM J. Optim. 13 (2003).
 *
 * @param directions flat xyz, one unit vector a point
 * @param stops one a point, in any length
 */
export function pressedBeam(directions: Float64Array, stops: Float64Array, stiffness: number): Float64Array {
  const count = stops.length;
  const matrix = bendingMatrix(directions, count, stiffness);
  const held = new Uint8Array(count).fill(1);
  let t: Float64Array = stops.slice();
  for (let step = 0; step < MAX_STEPS; step++) {
    t = solved(matrix, held, stops);
    let changed = false;
    for (let i = 1; i < count - 1; i++) {
      const isHeld = held[i] ? push(matrix, t, i) >= 0 : t[i] > stops[i];
      if (isHeld !== (held[i] === 1)) changed = true;
      held[i] = isHeld ? 1 : 0;
    }
    if (!changed) break;
  }
  return Float64Array.from(t, (value, i) => Math.min(value, stops[i]));
}

/** A symmetric matrix of five diagonals: the middle one, and the two beside it from row `i` to `i + 1` and `i + 2`. */
interface PentadiagonalMatrix {
  middle: Float64Array;
  first: Float64Array;
  second: Float64Array;
}

function bendingMatrix(w: Float64Array, count: number, stiffness: number): PentadiagonalMatrix {
  const out = { middle: new Float64Array(count), first: new Float64Array(count), second: new Float64Array(count) };
  const along = (i: number, j: number) =>
    w[3 * i] * w[3 * j] + w[3 * i + 1] * w[3 * j + 1] + w[3 * i + 2] * w[3 * j + 2];
  const b = 2 * stiffness;
  for (let i = 1; i < count - 1; i++) {
    out.middle[i - 1] += b;
    out.middle[i] += 4 * b;
    out.middle[i + 1] += b;
    out.first[i - 1] -= 2 * b * along(i - 1, i);
    out.first[i] -= 2 * b * along(i, i + 1);
    out.second[i - 1] += b * along(i - 1, i + 1);
  }
  return out;
}

/** With what force point `i` is pressed onto its stop. */
function push({ middle, first, second }: PentadiagonalMatrix, t: Float64Array, i: number): number {
  const beside = first[i - 1] * t[i - 1] + first[i] * t[i + 1];
  const beyond = (i > 1 ? second[i - 2] * t[i - 2] : 0) + (i < t.length - 2 ? second[i] * t[i + 2] : 0);
  return 1 - middle[i] * t[i] - beside - beyond;
}

/** The line with the held points on their stops. Golub, Van Loan: Matrix Computations, section 4.3 (banded LDLᵀ). */
function solved({ middle, first, second }: PentadiagonalMatrix, held: Uint8Array, stops: Float64Array): Float64Array {
  const count = stops.length;
  const x = new Float64Array(count);
  const d = new Float64Array(count);
  const near = new Float64Array(count);
  const far = new Float64Array(count);
  for (let i = 0; i < count; i++) {
    x[i] = held[i] ? stops[i] : 1;
    d[i] = held[i] ? 1 : middle[i];
    if (held[i]) continue;
    const moved = (j: number, weight: number) => {
      if (j >= 0 && j < count && held[j]) x[i] -= weight * stops[j];
    };
    moved(i - 2, second[i - 2]);
    moved(i - 1, first[i - 1]);
    moved(i + 1, first[i]);
    moved(i + 2, second[i]);
    if (i + 1 < count && !held[i + 1]) near[i] = first[i];
    if (i + 2 < count && !held[i + 2]) far[i] = second[i];
  }
  for (let i = 0; i < count; i++) {
    const [nearBefore, farBefore] = [i > 0 ? near[i - 1] : 0, i > 1 ? far[i - 2] : 0];
    if (i > 0) d[i] -= nearBefore * nearBefore * d[i - 1];
    if (i > 1) d[i] -= farBefore * farBefore * d[i - 2];
    near[i] = (near[i] - (i > 0 ? nearBefore * far[i - 1] * d[i - 1] : 0)) / d[i];
    far[i] /= d[i];
    x[i] -= (i > 0 ? nearBefore * x[i - 1] : 0) + (i > 1 ? farBefore * x[i - 2] : 0);
  }
  for (let i = 0; i < count; i++) x[i] /= d[i];
  for (let i = count - 1; i >= 0; i--)
    x[i] -= (i + 1 < count ? near[i] * x[i + 1] : 0) + (i + 2 < count ? far[i] * x[i + 2] : 0);
  return x;
}
