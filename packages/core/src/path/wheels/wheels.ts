import { allocateCurves, CURVE, type CurveSet, POINT } from '../../curve/curve-set.js';
import { greatest } from '../../numeric/lane.js';
import { addScaled, type Vec3, vec3 } from '../../numeric/vector.js';
import type { ValuesOf } from '../../unit/parameters.js';
import { type BuildContext, defineUnit } from '../../unit/unit.js';
import { noCurves } from '../trace.js';
import { type BeltLine, beltLength, beltLine, type PlaneWheel } from './belt-line.js';
import { reportFew, reportGone, reportOverlaps, reportStuck, reportTension, reportUntouched } from './findings.js';
import { WHEELS } from './parameters.js';
import { inPlane, inWorld, type WheelPlace, type WheelPlane, wheelPlaces } from './places.js';
import { takenUp } from './tension.js';

/** A step round a wheel turns by this much, radians: the belt leaves its wheel by a three-thousandth of the radius. */
const STEP = Math.PI / 60;
/** Steps of a stretch on which the belt is turned over. */
const OVER_STEPS = 48;
/** Wheels have this many teeth at least. */
const MIN_TEETH = 6;

export type WheelsChoice = ValuesOf<typeof WHEELS>;

export const wheels = defineUnit({
  stage: 'path',
  id: 'wheels',
  label: 'Wheels',
  purpose: 'A closed line routed tightly around wheels, for belts, chains, tracks and conveyors.',
  synonyms: ['pulley', 'belt', 'sprocket', 'track', 'conveyor'],
  together: true,
  begins: { make: 'belt', dress: 'plain' },
  sample: {
    parameters: {
      wheels: [
        { id: 'a', position: [-0.13, 0.06, 0] },
        { id: 'b', position: [0, 0.1, 0], outside: true, radius: 0.02 },
        { id: 'c', position: [0.13, 0.06, 0] },
        { id: 'd', position: [0, 0.01, 0], radius: 0.03 },
      ],
      radius: 0.045,
    },
  },
  parameters: WHEELS,
  presets: [{ id: 'wheels', label: 'Wheels', parameters: {} }],
  describe: ({ wheels: all, by, length }, text) =>
    `${all.length === 1 ? '1 wheel' : `${all.length} wheels`}${by === 'given' ? `, ${text(length)}` : ''}`,
  build(_input, p, context) {
    const axis: Vec3 = [...p.axis];
    const places = wheelPlaces(p.wheels, axis, context);
    reportGone(p.wheels.length - places.length, context);
    if (places.length < 2) {
      reportFew(places.length, context);
      return noCurves();
    }
    const { plane, flat } = inPlane(places, axis, p.tilt);
    const reach = greatest(context.thickness);
    let round = planeWheels(places, flat, p, reach);
    reportOverlaps(places, round, reach, p, context);
    // what cannot be gone round is left out: the rest still shows
    let led = beltLine(round);
    let shown = places;
    while (led.stuck && round.length > 2) {
      reportStuck(led.stuck, shown, round, reach, p, context);
      const out = led.stuck.b;
      round = round.filter((_wheel, i) => i !== out);
      shown = shown.filter((_place, i) => i !== out);
      led = beltLine(round);
    }
    if (led.stuck) {
      reportStuck(led.stuck, shown, round, reach, p, context);
      return noCurves();
    }
    const wanted = p.by === 'given' ? p.length : p.pitch > 0 ? wholeLength(beltLength(round, led), p.pitch) : undefined;
    if (wanted !== undefined) {
      const by = slider(shown);
      const moved = takenUp(round, by, wanted);
      if (moved) {
        round = moved;
        led = beltLine(round);
      } else if (p.by === 'given') reportTension(beltLength(round, led), shown[by], p, context);
    }
    reportUntouched(led.untouched, shown, p, context);
    return written(led, round, shown, plane, p, context);
  },
});

/** Which wheel slides: the one that is said to, else the last one that is no prop. */
function slider(places: readonly WheelPlace[]): number {
  const said = places.findIndex(({ pick }) => pick.takesUp);
  const free = places.findLastIndex(({ pick }) => pick.prop === undefined);
  return said >= 0 ? said : free >= 0 ? free : places.length - 1;
}

/** The nearest length that is an even number of pitches: a chain's two kinds of links take turns. */
const wholeLength = (length: number, pitch: number): number =>
  2 * pitch * Math.max(1, Math.round(length / (2 * pitch)));

/** Wheels as the belt's middle goes round them. Met counter-clockwise, seen against the axles, or the other way as they are ordered. */
function planeWheels(
  places: readonly WheelPlace[],
  flat: readonly [number, number][],
  p: WheelsChoice,
  reach: number,
): PlaneWheel[] {
  let area = 0;
  flat.forEach(([x, y], i) => {
    const [u, v] = flat[(i + 1) % flat.length];
    area += x * v - u * y;
  });
  const way = area < 0 ? -1 : 1;
  return places.map(({ pick, radius }, i) => {
    const wanted = (radius ?? p.radius) + reach;
    const teeth = Math.max(MIN_TEETH, Math.round((2 * Math.PI * wanted) / p.pitch));
    return {
      x: flat[i][0],
      y: flat[i][1],
      radius: p.pitch > 0 ? (teeth * p.pitch) / (2 * Math.PI) : wanted,
      sense: pick.outside ? (-way as 1 | -1) : way,
    };
  });
}

/** A point of the line, and what it says of a wheel. */
interface BeltPoint {
  at: Vec3;
  along: number;
  wheel: number;
  round: number;
  off: number;
  roll: number;
}

/** The line as points: fine round wheels, few between them; each says which wheel it lies on, or is the nearest to. */
function written(
  led: BeltLine,
  round: readonly PlaneWheel[],
  places: readonly WheelPlace[],
  plane: WheelPlane,
  p: WheelsChoice,
  { density, thickness }: BuildContext,
): CurveSet {
  const { wraps, spans } = led;
  const points: BeltPoint[] = [];
  let along = 0;
  let roll = 0;
  let aside = 1;
  const markOf = (wheel: number) =>
    (places[wheel].pick.prop === undefined ? 1 : -1) * (1 + p.wheels.indexOf(places[wheel].pick));
  const beside = besideSpans(led, round);
  wraps.forEach(({ wheel, from, turn }, k) => {
    const { radius, sense } = round[wheel];
    const steps = turn === 0 ? 0 : Math.max(2, Math.ceil(turn / (STEP / density)));
    for (let i = 0; i <= steps; i++) {
      const share = steps === 0 ? 0 : i / steps;
      const [x, y] = touching(round[wheel], from + sense * turn * share);
      points.push({
        at: inWorld(plane, x, y),
        along: along + turn * radius * share,
        wheel: markOf(wheel),
        round: sense * radius,
        off: 0,
        roll,
      });
    }
    along += turn * radius;
    const next = round[wraps[(k + 1) % wraps.length].wheel];
    const direction = from + sense * turn;
    const end = points[points.length - 1].at;
    const to = inWorld(plane, ...touching(next, direction));
    const over = p.over && next.sense !== sense;
    const by = over ? (sense > 0 ? Math.PI : -Math.PI) : 0;
    const shares = (
      over ? evenly(OVER_STEPS) : graded(spans[k], turn === 0 ? spans[k] / 4 : (radius * turn) / steps)
    ).map((share) => ({ share, wheel: 0, round: 0, off: 0 }));
    const passed = (beside.get(k) ?? []).map(({ wheel: one, share, off }) => ({
      share,
      wheel: markOf(one),
      round: round[one].sense * round[one].radius,
      off,
    }));
    for (const { share, ...mark } of [...shares, ...passed].sort((a, b) => a.share - b.share)) {
      const at = vec3(
        end[0] + share * (to[0] - end[0]),
        end[1] + share * (to[1] - end[1]),
        end[2] + share * (to[2] - end[2]),
      );
      // two that cross lie side by side where they are on edge
      if (over) addScaled(at, at, plane.axis, aside * Math.sin(Math.PI * share) ** 2 * 1.02 * greatest(thickness));
      points.push({
        at,
        along: along + share * spans[k],
        ...mark,
        roll: roll + by * (share - Math.sin(2 * Math.PI * share) / (2 * Math.PI)),
      });
    }
    if (over) aside = -aside;
    roll += by;
    along += spans[k];
  });
  const out = allocateCurves(1, points.length, [
    POINT.wheel,
    POINT.wheelRound,
    POINT.wheelOff,
    POINT.roll,
    POINT.along,
  ]);
  points.forEach((point, i) => {
    out.position.set(point.at, 3 * i);
    out.pointData[POINT.wheel][i] = point.wheel;
    out.pointData[POINT.wheelRound][i] = point.round;
    out.pointData[POINT.wheelOff][i] = point.off;
    out.pointData[POINT.roll][i] = point.roll;
    out.pointData[POINT.along][i] = point.along;
  });
  out.start[1] = points.length;
  out.closed[0] = 1;
  out.id[0] = 1;
  out.curveData[CURVE.length] = Float32Array.of(along);
  return out;
}

/** Where the belt lies on a wheel when it runs in a direction: its middle is to the left of what goes round counter-clockwise. */
const touching = ({ x, y, radius, sense }: PlaneWheel, direction: number): [number, number] => [
  x + sense * radius * Math.sin(direction),
  y - sense * radius * Math.cos(direction),
];

/** Wheels that the belt passes without touching: by the straight stretch that is nearest, where along it, and how far off. */
function besideSpans(
  { wraps, spans, untouched }: BeltLine,
  round: readonly PlaneWheel[],
): Map<number, { wheel: number; share: number; off: number }[]> {
  const out = new Map<number, { wheel: number; share: number; off: number }[]>();
  for (const wheel of untouched) {
    const { x, y, radius, sense } = round[wheel];
    let best: { k: number; share: number; off: number } | undefined;
    wraps.forEach(({ wheel: from, from: direction, turn }, k) => {
      const leaves = direction + round[from].sense * turn;
      const [px, py] = touching(round[from], leaves);
      const [u, v] = [Math.cos(leaves), Math.sin(leaves)];
      const share = ((x - px) * u + (y - py) * v) / spans[k];
      const off = sense * ((y - py) * u - (x - px) * v) - radius;
      if (share > 0 && share < 1 && Math.abs(off) < Math.abs(best?.off ?? Infinity)) best = { k, share, off };
    });
    if (best) out.set(best.k, [...(out.get(best.k) ?? []), { wheel, share: best.share, off: best.off }]);
  }
  return out;
}

const evenly = (steps: number): number[] => Array.from({ length: steps - 1 }, (_, k) => (k + 1) / steps);

/** Shares of a straight stretch: steps grow from its ends by doubling, so that none is much longer than the one beside it. */
function graded(length: number, first: number): number[] {
  const half: number[] = [];
  for (let step = first, at = step; at < 0.5 * length && half.length < 64; step *= 2, at += step)
    half.push(at / length);
  return [...half, ...half.toReversed().map((share) => 1 - share)];
}
