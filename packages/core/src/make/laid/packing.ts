import { BEST } from './best-packings.js';

/** Equal circles in a circle of radius 1: where their middles are, and how large they are. */
export interface Packing {
  x: Float64Array;
  y: Float64Array;
  radius: number;
}

/** The golden angle: seeds of a flower are turned by it from one to the next (Vogel, Mathematical Biosciences 44, 1979). */
const GOLDEN = Math.PI * (3 - Math.sqrt(5));

/** A ring of circles that touch each other and the circle round them; one alone fills it. */
export function ringOf(count: number): Packing {
  if (count === 1) return { x: Float64Array.of(0), y: Float64Array.of(0), radius: 1 };
  const sine = Math.sin(Math.PI / count);
  return within(ringPlaces(count, 1 / sine, 0));
}

/** Packings are looked for once: of very many circles that takes longer than to lay them. */
const KEPT = new Map<number, Packing>();

/** As many circles as close together as is known: the best for up to 19, of hexagons or of a sunflower for more. */
export function filledBy(count: number): Packing {
  const kept = KEPT.get(count) ?? packed(count);
  KEPT.set(count, kept);
  return kept;
}

function packed(count: number): Packing {
  if (count <= 6) return ringOf(count);
  if (count <= 9) return within([0, 0, ...ringPlaces(count - 1, Math.max(2, 1 / Math.sin(Math.PI / (count - 1))), 0)]);
  if (count in BEST) return within(BEST[count]);
  if (count <= 19) {
    const around = [...ringPlaces(6, 2, 0), ...ringPlaces(12, Math.SQRT2 + Math.sqrt(6), Math.PI / 12)];
    return within(count === 19 ? [0, 0, ...around] : around);
  }
  const [hexagons, sunflower] = [within(hexagonPlaces(count)), sunflowerOf(count)];
  return hexagons.radius > sunflower.radius ? hexagons : sunflower;
}

const ringPlaces = (count: number, far: number, turn: number): number[] =>
  Array.from({ length: count }, (_, k) => (2 * Math.PI * k) / count + turn).flatMap((angle) => [
    far * Math.cos(angle),
    far * Math.sin(angle),
  ]);

/** Circles of radius 1 at these places, flat xy, in a circle of radius 1. */
function within(places: readonly number[]): Packing {
  const count = places.length / 2;
  const all = Array.from({ length: count }, (_, k) => [places[2 * k], places[2 * k + 1]] as const);
  const size = 1 + Math.max(...all.map(([x, y]) => Math.hypot(x, y)));
  return {
    x: Float64Array.from(all, ([x]) => x / size),
    y: Float64Array.from(all, ([, y]) => y / size),
    radius: 1 / size,
  };
}

/** The places of a hexagonal lattice nearest to one of its places. */
function hexagonPlaces(count: number): number[] {
  const rings = Math.ceil(Math.sqrt(count)) + 1;
  const all: [number, number][] = [];
  for (let i = -rings; i <= rings; i++) for (let j = -rings; j <= rings; j++) all.push([2 * i + j, Math.sqrt(3) * j]);
  all.sort((a, b) => Math.hypot(...a) - Math.hypot(...b) || Math.atan2(a[1], a[0]) - Math.atan2(b[1], b[0]));
  return all.slice(0, count).flat();
}

/** Seeds of a flower, as large as the nearest two allow. */
function sunflowerOf(count: number): Packing {
  const x = Float64Array.from({ length: count }, (_, k) => Math.sqrt(k + 0.5) * Math.cos(GOLDEN * k));
  const y = Float64Array.from({ length: count }, (_, k) => Math.sqrt(k + 0.5) * Math.sin(GOLDEN * k));
  let nearest = Infinity;
  // its nearest seeds are a number of the Fibonacci sequence apart
  for (let k = 0; k < count; k++)
    for (let [a, b] = [1, 2]; k + a < count && a < 600; [a, b] = [b, a + b])
      nearest = Math.min(nearest, Math.hypot(x[k] - x[k + a], y[k] - y[k + a]));
  const size = Math.sqrt(count - 0.5) + nearest / 2;
  return { x: x.map((value) => value / size), y: y.map((value) => value / size), radius: nearest / 2 / size };
}
