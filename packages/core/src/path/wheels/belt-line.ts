/** A wheel in the plane of the belt. */
export interface PlaneWheel {
  x: number;
  y: number;
  /** Of the belt's line round it, metres. */
  radius: number;
  /** 1: the belt goes round it counter-clockwise, −1: clockwise. */
  sense: 1 | -1;
}

/** How the belt lies on a wheel. */
export interface Wrap {
  /** Which of the wheels. */
  wheel: number;
  /** Direction of travel where the belt runs onto it, radians from x; and how far it is led round, above 0. */
  from: number;
  turn: number;
}

export interface BeltLine {
  /** In the order in which the belt meets them. */
  wraps: Wrap[];
  /** From each wrap to the next in a straight line, metres. */
  spans: number[];
  /** Wheels that the belt passes without touching. */
  untouched: number[];
  /** Two wheels between which no belt fits: one lies within the other, or they are too near for it to cross. */
  stuck?: { a: number; b: number };
}

/**
 * Leads a belt tightly round wheels, in their order. Between two circles of signed radius s·r it runs along their common
 * tangent: its direction θ fulfils sin(φ − θ) = (R₂ − R₁) / D for the way (D, φ) between their middles. A wheel of which
 * the belt stays clear is left out. For wheels in convex order, all within, this is the hull of the circles.
 */
export function beltLine(wheels: readonly PlaneWheel[]): BeltLine {
  const kept = wheels.map((_wheel, i) => i);
  const untouched: number[] = [];
  for (let i = 0, steady = 0; kept.length > 1 && steady < kept.length; ) {
    if (kept.length > 2 && isClear(wheels, kept, i)) {
      untouched.push(...kept.splice(i, 1));
      // its neighbours have others beside them now
      i = (i + kept.length - 1) % kept.length;
      steady = 0;
    } else {
      i = (i + 1) % kept.length;
      steady++;
    }
  }
  untouched.sort((a, b) => a - b);
  const directions: number[] = [];
  const spans: number[] = [];
  for (let k = 0; k < kept.length; k++) {
    const [a, b] = [kept[k], kept[(k + 1) % kept.length]];
    const tangent = tangentBetween(wheels[a], wheels[b]);
    if (!tangent || a === b) return { wraps: [], spans: [], untouched, stuck: { a, b } };
    directions.push(tangent.direction);
    spans.push(tangent.length);
  }
  const wraps = kept.map((wheel, k): Wrap => {
    const from = directions[(k + kept.length - 1) % kept.length];
    const by = wheels[wheel].sense * (directions[k] - from);
    const turn = by - FULL * Math.floor(by / FULL);
    // one that it only touches
    return { wheel, from, turn: turn > FULL - JUST ? 0 : turn };
  });
  return { wraps, spans, untouched };
}

const FULL = 2 * Math.PI;
/** A wheel is touched from so near, in radii; and led round by less than this much it is only touched, radians. */
const TOUCHES = 1e-9;
const JUST = 1e-6;

/** Direction and length of the belt from one wheel to the next; none where there is no way. */
function tangentBetween(a: PlaneWheel, b: PlaneWheel): { direction: number; length: number } | undefined {
  const [x, y] = [b.x - a.x, b.y - a.y];
  const far = Math.hypot(x, y);
  const rise = b.sense * b.radius - a.sense * a.radius;
  if (!(far > Math.abs(rise) * (1 + 1e-9))) return undefined;
  return { direction: Math.atan2(y, x) - Math.asin(rise / far), length: Math.sqrt(far * far - rise * rise) };
}

/** Whether the belt from the wheel before to the one after stays clear of a wheel, on the side where it would pass it. */
function isClear(wheels: readonly PlaneWheel[], kept: readonly number[], i: number): boolean {
  const before = wheels[kept[(i + kept.length - 1) % kept.length]];
  const wheel = wheels[kept[i]];
  const after = wheels[kept[(i + 1) % kept.length]];
  const direct = tangentBetween(before, after);
  if (!direct) return false;
  // to the left of the line, from where it touches the wheel before
  const [nx, ny] = [-Math.sin(direct.direction), Math.cos(direct.direction)];
  const left = (wheel.x - before.x) * nx + (wheel.y - before.y) * ny + before.sense * before.radius;
  return wheel.sense * left > wheel.radius * (1 + TOUCHES);
}

/** Length of the belt, metres. */
export const beltLength = (wheels: readonly PlaneWheel[], { wraps, spans }: BeltLine): number =>
  wraps.reduce((sum, { wheel, turn }, k) => sum + turn * wheels[wheel].radius + spans[k], 0);
