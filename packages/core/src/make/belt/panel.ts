import { singleCurve } from '../../curve/curve-set.js';
import type { Mesh } from '../../mesh/mesh.js';
import { addScaled, cross, dot, scale, subtract, type Vec3, vec3 } from '../../numeric/vector.js';
import { type Run, sectionFromRuns } from '../../section/runs.js';
import { sweep } from '../../sweep/sweep.js';
import type { WheelArc } from './arcs.js';
import type { BeltRail } from './rails.js';

type Place = [x: number, y: number];

/** The plane of a loop: its origin and two ways, right-handed with the axles. */
interface Plane {
  origin: Vec3;
  x: Vec3;
  y: Vec3;
  axis: Vec3;
}

function planeOf({ arcs: [first], axis = vec3(0, 0, 1), rail }: BeltRail): Plane {
  const from = subtract(vec3(), [rail.position[0], rail.position[1], rail.position[2]], first.centre);
  const size = Math.sqrt(dot(from, from));
  const x = scale(vec3(), from, 1 / size);
  return { origin: first.centre, x, y: cross(vec3(), axis, x), axis };
}

const flat = ({ origin, x, y }: Plane, at: ArrayLike<number>): Place => {
  const from = subtract(vec3(), at, origin);
  return [dot(from, x), dot(from, y)];
};

/**
 * The outline of a plate that fills the loop: along the straight stretches, and round the inner side of each wheel, whose
 * circle it leaves free.
 * @param below how far what runs reaches inwards from its line; over: outwards. metres
 * @param teeth how far wheels reach over the line
 */
export function panelOutline(belt: BeltRail, below: number, over: number, teeth: number, gap: number): Place[] {
  const plane = planeOf(belt);
  const out: Place[] = [];
  for (const arc of belt.arcs.filter(({ first, last }) => last > first)) {
    const [cx, cy] = flat(plane, arc.centre);
    const within = isWithin(arc, plane);
    // where the circle left free meets the line that is kept off the belt
    const free = arc.radius + Math.max(-below, teeth) + gap;
    const lean = within ? Math.acos(Math.min(1, Math.max(-1, (arc.radius - below - gap) / free))) : 0;
    const [px, py] = flat(
      plane,
      belt.rail.position.subarray(3 * indexIn(belt, arc.first), 3 * indexIn(belt, arc.first) + 3),
    );
    const begin = Math.atan2(py - cy, px - cx);
    // within, the plate goes round the other side; from outside the belt itself is between
    const from = within ? begin - lean : begin;
    const by = within ? -(2 * Math.PI - arc.turn - 2 * lean) : -arc.turn;
    const radius = within ? free : arc.radius + over + gap;
    if (within && by >= 0) continue;
    const steps = Math.max(3, Math.ceil(Math.abs(by) / 0.08));
    for (let k = 0; k <= steps; k++) {
      const angle = from + (by * k) / steps;
      out.push([cx + radius * Math.cos(angle), cy + radius * Math.sin(angle)]);
    }
  }
  return out;
}

/** The outline of a guard: as the belt runs, this much further out. */
export function guardOutline(belt: BeltRail, beyond: number): Place[] {
  const plane = planeOf(belt);
  const { position, outward } = belt.rail;
  const out: Place[] = [];
  for (let i = 0; i + 3 < position.length; i += 3) {
    const [x, y] = flat(plane, position.subarray(i, i + 3));
    const o: Vec3 = [outward[i], outward[i + 1], outward[i + 2]];
    out.push([x + beyond * dot(o, plane.x), y + beyond * dot(o, plane.y)]);
  }
  return out;
}

const isWithin = ({ axis }: WheelArc, plane: Plane): boolean => dot(axis, plane.axis) > 0;
/** Points of a rail are counted from its own first one. */
const indexIn = ({ arcs }: BeltRail, p: number): number => p - arcs[0].first;

/** Steps of an outline that turn less than this are one smooth edge, cosine. */
const SMOOTH = Math.cos(0.35);

/** A plate over an outline, from one place on the axles to another; none where the outline folds into itself. */
export function plateMesh(belt: BeltRail, outline: readonly Place[], low: number, high: number): Mesh | undefined {
  const places = outline.filter(
    ([x, y], i) => i === 0 || Math.hypot(x - outline[i - 1][0], y - outline[i - 1][1]) > 1e-7,
  );
  const area =
    places.reduce(
      (sum, [x, y], i) => sum + x * places[(i + 1) % places.length][1] - places[(i + 1) % places.length][0] * y,
      0,
    ) / 2;
  if (places.length < 3 || !(area > 0)) return undefined;
  const plane = planeOf(belt);
  const at = (far: number): Vec3 => addScaled(vec3(), plane.origin, plane.axis, far);
  return sweep(singleCurve([...at(low), ...at(high)]), sectionFromRuns([{ runs: smoothRuns(places), closed: true }]), {
    radius: 1,
    startDirection: plane.x,
  });
}

/** An outline cut at its corners into smooth runs, with the normals of its edges between. */
function smoothRuns(places: readonly Place[]): Run[] {
  const count = places.length;
  const edges = places.map(([x, y], i): Place => {
    const [u, v] = places[(i + 1) % count];
    const size = Math.hypot(u - x, v - y) || 1;
    return [(v - y) / size, (x - u) / size];
  });
  const sharp = (i: number): boolean => {
    const [a, b] = [edges[(i + count - 1) % count], edges[i % count]];
    return a[0] * b[0] + a[1] * b[1] < SMOOTH;
  };
  const first = Math.max(
    0,
    places.findIndex((_place, i) => sharp(i)),
  );
  const runs: Run[] = [];
  let run: Run = { x: [], y: [], normalX: [], normalY: [] };
  const put = (i: number, normal: Place) => {
    const size = Math.hypot(...normal) || 1;
    run.x.push(places[i % count][0]);
    run.y.push(places[i % count][1]);
    run.normalX.push(normal[0] / size);
    run.normalY.push(normal[1] / size);
  };
  for (let k = 0; k <= count; k++) {
    const i = (first + k) % count;
    const [a, b] = [edges[(i + count - 1) % count], edges[i]];
    if (!sharp(i)) {
      put(i, [a[0] + b[0], a[1] + b[1]]);
      continue;
    }
    if (k > 0) {
      put(i, a);
      runs.push(run);
      run = { x: [], y: [], normalX: [], normalY: [] };
    }
    if (k < count) put(i, b);
  }
  if (run.x.length > 1) runs.push(run);
  return runs;
}
