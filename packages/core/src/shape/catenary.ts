/**
 * The hanging line y = a·cosh(x/a) between two supports (any statics text; uneven supports: Irvine, Cable Structures,
 * MIT Press 1981, chapter 1). Everything here in one vertical plane: x sideways, y up.
 */
export interface Catenary {
  /** Parameter, metres; Infinity for a taut line. */
  a: number;
  /** Sideways place of the lowest point, from the first support; may lie outside the span. */
  lowest: number;
  length: number;
}

/** Slack below this share of the span is a straight line: the drop would be under 1/150 of it, and no solver gains. */
const TAUT = 1e-9;

/**
 * From the length of the line.
 * @param span sideways distance, above 0
 * @param rise height of the second support over the first
 * @param length along the line; a length below the straight distance gives the straight line
 */
export function catenaryFromLength(span: number, rise: number, length: number): Catenary {
  const straight = Math.hypot(span, rise);
  if (!(length > straight * (1 + TAUT))) return { a: Infinity, lowest: span / 2, length: straight };
  // √(L² − v²) = 2a·sinh(h/2a): with x = h/2a, sinh(x)/x = r
  const r = Math.sqrt(length * length - rise * rise) / span;
  const x = inverseSinhc(r);
  return finish(span, rise, span / (2 * x), length);
}

/**
 * From the sag: how far the line hangs below the straight line between the supports, halfway across.
 * d = a·cosh(m/a)·(cosh(h/2a) − 1) with m the middle's distance from the lowest point, solved by bisection.
 */
export function catenaryFromSag(span: number, rise: number, sag: number): Catenary {
  if (!(sag > 1e-9 * span)) return { a: Infinity, lowest: span / 2, length: Math.hypot(span, rise) };
  const sagOf = (x: number) => {
    const a = span / (2 * x);
    const middle = Math.asinh(rise / (2 * a * Math.sinh(x)));
    // cosh(x) − 1 = 2·sinh²(x/2), which keeps its digits for a flat line
    return a * Math.cosh(middle) * 2 * Math.sinh(x / 2) ** 2;
  };
  let low = 0;
  let high = 1;
  while (sagOf(high) < sag && high < 500) high *= 2;
  for (let i = 0; i < 200 && high - low > 1e-15 * high; i++) {
    const x = (low + high) / 2;
    if (sagOf(x) < sag) low = x;
    else high = x;
  }
  const x = (low + high) / 2;
  const a = span / (2 * x);
  return finish(span, rise, a, Math.hypot(2 * a * Math.sinh(x), rise));
}

/** Place at share `t` of the length: [x, y] from the first support. */
export function catenaryPoint(
  { a, lowest, length }: Catenary,
  span: number,
  rise: number,
  t: number,
): [number, number] {
  if (!Number.isFinite(a)) return [span * t, rise * t];
  const s0 = a * Math.sinh(-lowest / a);
  const x = a * Math.asinh((s0 + t * length) / a);
  // cosh(p) − cosh(q) = 2·sinh((p + q)/2)·sinh((p − q)/2), which keeps its digits for a flat line
  const q = -lowest / a;
  const p = x / a;
  return [x + lowest, 2 * a * Math.sinh((p + q) / 2) * Math.sinh((p - q) / 2)];
}

function finish(span: number, rise: number, a: number, length: number): Catenary {
  const middle = a * Math.asinh(rise / (2 * a * Math.sinh(span / (2 * a))));
  return { a, lowest: span / 2 - middle, length };
}

/** x with sinh(x)/x = r, r ≥ 1: Newton from a start that is close at both ends. */
function inverseSinhc(r: number): number {
  let x = r < 3 ? Math.sqrt(6 * (r - 1)) : Math.log(2 * r) + Math.log(Math.log(2 * r));
  for (let i = 0; i < 50; i++) {
    const f = sinhc(x) - r;
    const slope = (Math.cosh(x) - sinhc(x)) / x;
    const step = f / slope;
    if (!Number.isFinite(step)) break;
    x -= step;
    if (Math.abs(step) < 1e-15 * x) break;
  }
  return x;
}

const sinhc = (x: number): number => (x < 1e-3 ? 1 + (x * x) / 6 + x ** 4 / 120 : Math.sinh(x) / x);

/** Half the span over a, at most: cosh of more is beyond what numbers hold. */
const MAX_HALF_SPAN = 300;

/**
 * From how hard the line is pulled sideways: a = H / w, the horizontal tension over the weight of a length.
 * @param a metres; less than a 600th of the span is taken as that: the line would be longer than numbers hold
 */
export function catenaryFromPull(span: number, rise: number, a: number): Catenary {
  if (!(a < Infinity)) return { a: Infinity, lowest: span / 2, length: Math.hypot(span, rise) };
  const held = Math.max(a, span / (2 * MAX_HALF_SPAN));
  return finish(span, rise, held, Math.hypot(2 * held * Math.sinh(span / (2 * held)), rise));
}

/** Tension at a sideways place from the first support, newtons: T = w·a·cosh(x/a). @param weight of a metre, newtons */
export const catenaryTension = ({ a, lowest }: Catenary, weight: number, x: number): number =>
  weight * a * Math.cosh((x - lowest) / a);
