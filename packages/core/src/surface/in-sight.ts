import { pressedBeam } from '../numeric/pressed-beam.js';
import { createHit } from './surface.js';
import type { Surroundings } from './surroundings.js';

/** How far the line goes off for each step to the side, at most: behind an edge it slants down, it does not drop. */
const SLOPE = 0.8;
/** What is seen goes on from place to place where it recedes by this many steps to the side at most; more is an edge. */
const GOES_ON = 5;
/** A place is free if a ball this much thicker than the thing has room there. */
const ROOM = 1.05;
/** How stiff the line is, in its least bends, and by how much more while it bends too tightly still. */
const STIFF = 1;
const STIFFER = 3;
const ROUNDS = 3;
/** A ball comes at least this many of its radii nearer in each step, and goes no further than this many metres. */
const FINE = 0.04;
const FAR = 1000;

/** A line as it was drawn on the picture: which way each of its places lies from the eye, and how far one sees there. */
export interface Sight {
  eye: ArrayLike<number>;
  /** Flat xyz, one unit vector a place. Places follow each other in small even steps. */
  directions: Float64Array;
  /** Metres to the first thing; Infinity where nothing is seen. One of them at least is finite. */
  depths: Float64Array;
}

/**
 * Lays a line that was drawn on the picture where it can be: between the eye and the first thing behind the line there is
 * room. It is pressed away from the eye onto what is there as something stiff, so it bridges what is narrower than its
 * bend, and from an edge slants down to what is behind. Places as flat xyz.
 *
 * @param clear from its middle to the skin of the thing, metres
 * @param bend the tightest bend wanted, metres; the hand's own may be tighter
 */
export function layInSight(sight: Sight, surroundings: Surroundings, clear: number, bend: number): Float64Array {
  const { directions } = sight;
  const stops = stopsOf(sight, surroundings, ROOM * clear);
  const step = levelled(directions, stops) / Math.max(1, stops.length - 1);
  let best: Float64Array | undefined;
  let least = Infinity;
  let stiffness = (STIFF * bend) ** 3 / step ** 4;
  for (let round = 0; round < ROUNDS; round++, stiffness *= STIFFER) {
    const places = placesAt(sight, stops.length < 3 ? stops : pressedBeam(directions, stops, stiffness));
    const tightest = tightestBend(places);
    if (tightest < least) {
      best = places;
      least = tightest;
    }
    if (tightest * bend < 1) break;
  }
  return best ?? placesAt(sight, stops);
}

/** How far a ball can go from the eye along each direction, past all that it would touch on its way; no further than is seen. */
function stopsOf({ eye, directions, depths }: Sight, surroundings: Surroundings, clear: number): Float64Array {
  const hit = createHit();
  return Float64Array.from(depths, (depth, i) => {
    let t = 0;
    while (t < depth) {
      const [x, y, z] = [0, 1, 2].map((k) => eye[k] + t * directions[3 * i + k]);
      // as far as there is room it goes at once
      const near = surroundings.closest(x, y, z, hit, Math.min(depth, FAR) - t + clear);
      if (near === undefined) return depth;
      if (hit.distance <= clear) break;
      t += Math.max(hit.distance - clear, FINE * clear);
    }
    return Math.min(t, depth);
  });
}

/**
 * Draws stops nearer until the line leaves nothing more steeply than the slope; along what recedes, it recedes with that.
 * Returns the length of the whole, metres.
 */
function levelled(directions: Float64Array, stops: Float64Array): number {
  const angle = (i: number, j: number) => {
    let dot = 0;
    for (let k = 0; k < 3; k++) dot += directions[3 * i + k] * directions[3 * j + k];
    return Math.acos(Math.min(1, dot));
  };
  const seen = stops.slice();
  const last = stops.length - 1;
  const from = (i: number, j: number) => {
    const aside = stops[j] * angle(i, j);
    const recedes = Math.abs(seen[i] - seen[j]);
    stops[i] = Math.min(stops[i], stops[j] + SLOPE * aside + (recedes < GOES_ON * aside ? recedes : 0));
  };
  for (let i = 1; i <= last; i++) if (stops[i - 1] < Infinity) from(i, i - 1);
  for (let i = last - 1; i >= 0; i--) if (stops[i + 1] < Infinity) from(i, i + 1);
  let length = 0;
  for (let i = 1; i <= last; i++) length += stops[i] * angle(i, i - 1);
  return Math.max(length, 1e-9);
}

function placesAt({ eye, directions }: Sight, t: Float64Array): Float64Array {
  return directions.map((way, n) => eye[n % 3] + t[Math.floor(n / 3)] * way);
}

/** The largest turn a metre, radians. */
function tightestBend(places: Float64Array): number {
  let most = 0;
  for (let i = 3; i < places.length - 3; i += 3) {
    let [dot, before, after] = [0, 0, 0];
    for (let k = i; k < i + 3; k++) {
      const u = places[k] - places[k - 3];
      const v = places[k + 3] - places[k];
      dot += u * v;
      before += u * u;
      after += v * v;
    }
    const [a, b] = [Math.sqrt(before), Math.sqrt(after)];
    if (a * b > 0) most = Math.max(most, (2 * Math.acos(Math.max(-1, Math.min(1, dot / (a * b))))) / (a + b));
  }
  return most;
}
