import { curveLengths } from '../../curve/arc-length.js';
import { type CurveSet, curveCount, POINT, singleCurve } from '../../curve/curve-set.js';
import { rotationMinimizingFrames } from '../../curve/frames.js';
import { Walk } from '../../curve/walk.js';
import { type Mesh, mergeMeshes } from '../../mesh/mesh.js';
import { transformMesh } from '../../mesh/transform.js';
import { valueAt } from '../../numeric/lane.js';
import { childId } from '../../numeric/random.js';
import { addScaled, cross, dot, length, normalize, type Vec3, vec3 } from '../../numeric/vector.js';
import { roundedBoxSection } from '../../section/section.js';
import { sweep } from '../../sweep/sweep.js';
import type { Mark, PlacedPart, Placements } from '../../unit/carriers.js';
import { lathe, moved } from '../elements/solids.js';
import type { Cable, Held } from './course.js';
import type { Row } from './strands.js';

/** One thing that is on a cable: axes whose lengths are its scale. */
interface Standing {
  id: number;
  curve: number;
  along: number;
  at: Vec3;
  x: Vec3;
  y: Vec3;
  z: Vec3;
}

export const placementsOf = (all: readonly Standing[]): Placements => ({
  id: Uint32Array.from(all, ({ id }) => id),
  matrix: Float32Array.from(all.flatMap(({ x, y, z, at }) => [...x, 0, ...y, 0, ...z, 0, ...at, 1])),
  along: Float32Array.from(all, ({ along }) => along),
  curve: Uint32Array.from(all, ({ curve }) => curve),
});

export const markOf = (kind: string, label: string, { id, along, curve }: Placements): Mark => ({
  kind,
  label,
  id,
  along,
  curve,
});

/** A band of a tie is so thick and so broad, in radii of one cable. */
const BAND = { thick: 0.16, broad: 0.7 } as const;
/** Ties of one piece at most. */
export const MAX_TIES = 20_000;

/** A tie round all cables of a row, of radius 1, about z: a band with its lock on top. */
function tieMesh({ high, wide }: Row): Mesh {
  const flat = wide > high ? wide - high : 0;
  const reach = high + BAND.thick / 2;
  const steps = 16;
  const places: number[] = [];
  // round one end, and then the other
  for (const side of [1, -1])
    for (let k = 0; k <= steps; k++) {
      const angle = Math.PI * (k / steps) + (side === 1 ? -Math.PI / 2 : Math.PI / 2);
      places.push(-reach * Math.sin(angle), side * flat + reach * Math.cos(angle), 0);
    }
  // a round one has its half circles meet in the same place
  const line = flat > 0 ? places : places.filter((_, i) => Math.floor(i / 3) % (steps + 1) !== steps);
  const band = sweep(
    singleCurve(line, { closed: true, smooth: true }),
    roundedBoxSection(BAND.broad / BAND.thick, 0.4, 2),
    {
      radius: BAND.thick / 2,
      startDirection: [1, 0, 0],
      hardAngle: Math.PI,
    },
  );
  const lock = sweep(singleCurve([reach + 0.22, -0.35, 0, reach + 0.22, 0.35, 0]), roundedBoxSection(1.5, 0.3, 2), {
    radius: 0.3,
    startDirection: [1, 0, 0],
    start: 'chamfered',
    end: 'chamfered',
  });
  return mergeMeshes([band, lock]);
}

/** Ties round a bundle, none where its cables leave each other. */
export function tiesOf(rails: CurveSet, row: Row, p: Cable, every: number, size: number): PlacedPart | undefined {
  const lengths = curveLengths(rails);
  const step = Math.max(every, lengths.reduce((sum, one) => sum + one, 0) / MAX_TIES);
  const frames = rotationMinimizingFrames(rails);
  const fan = p.fanOver * size * row.high;
  const all: Standing[] = [];
  for (let curve = 0; curve < curveCount(rails); curve++) {
    const walk = new Walk(rails, curve, { along: rails.pointData[POINT.along], length: lengths[curve] });
    const from = p.fans === 'start' || p.fans === 'both' ? fan : 0;
    const to = lengths[curve] - (p.fans === 'end' || p.fans === 'both' ? fan : 0);
    const count = Math.floor(lengths[curve] / step);
    // where cables lie closest: at whole steps
    for (let k = rails.closed[curve] ? 0 : 1; k <= count; k++) {
      const at = k * step;
      if (at < from || at > to || (!rails.closed[curve] && at > lengths[curve] - 0.3 * size)) continue;
      const { a, b, t } = walk.spot(at);
      const roll = valueAt(p.roll, at / lengths[curve]) + (rails.pointData[POINT.roll]?.[a] ?? 0);
      const [up, z] = [frames.normal, frames.tangent].map((data) =>
        normalize(vec3(), [0, 1, 2].map((n) => data[3 * a + n] * (1 - t) + data[3 * b + n] * t) as Vec3),
      );
      const aside = cross(vec3(), z, up);
      const thick = valueAt(p.radius, at / lengths[curve]);
      const [x, y] = [turned(up, aside, roll), turned(aside, up, -roll)];
      all.push({
        id: childId(rails.id[curve], k),
        curve,
        along: at,
        at: walk.pointAt(at, vec3()),
        x: times(x, thick),
        y: times(y, thick),
        z: times(z, thick),
      });
    }
  }
  if (all.length === 0) return undefined;
  return { kind: 'placed', id: 'ties', name: 'Ties', slot: 'ties', mesh: tieMesh(row), places: placementsOf(all) };
}

const times = (a: Vec3, by: number): Vec3 => [a[0] * by, a[1] * by, a[2] * by];
const turned = (a: Vec3, b: Vec3, angle: number): Vec3 =>
  addScaled(vec3(), times(a, Math.cos(angle)), b, Math.sin(angle));

/** A clip is so thick and broad, in radii of one cable; its feet reach so far to the sides. */
const CLIP = { thick: 0.2, broad: 0.9, foot: 1.5 } as const;

/** A clip over all cables of a row, of radius 1: its feet on a wall at x = −high, its way along z. */
function clipMesh({ high, wide }: Row): Mesh {
  const [reach, flat] = [high + CLIP.thick / 2, wide - high];
  const floor = -high + CLIP.thick / 2;
  const places: number[] = [floor, -(flat + reach + CLIP.foot), 0, floor, -(flat + reach), 0];
  const steps = 8;
  for (let k = 0; k <= steps; k++) {
    const angle = (Math.PI / 2) * (k / steps);
    places.push(reach * Math.sin(angle), -flat - reach * Math.cos(angle), 0);
  }
  // over one cable alone both quarters meet
  for (let k = flat > 0 ? steps : steps - 1; k >= 0; k--) {
    const angle = (Math.PI / 2) * (k / steps);
    places.push(reach * Math.sin(angle), flat + reach * Math.cos(angle), 0);
  }
  places.push(floor, flat + reach, 0, floor, flat + reach + CLIP.foot, 0);
  const strap = sweep(singleCurve(places), roundedBoxSection(CLIP.broad / CLIP.thick, 0.3, 2), {
    radius: CLIP.thick / 2,
    startDirection: [1, 0, 0],
  });
  // a screw in each foot, its head away from the wall
  const screw = transformMesh(
    lathe(
      [
        [0, 0],
        [0.3, 0],
        [0.3, 0.06],
        [0.16, 0.16],
        [0, 0.17],
      ],
      12,
      0.6,
    ),
    Float64Array.of(0, 1, 0, 0, 1, 0, 0, 0, 0, 0, -1, 0, 0, 0, 0, 1),
  );
  const screws = [-1, 1].map((side) =>
    transformMesh(screw, moved(-high + CLIP.thick * 0.9, side * (flat + reach + CLIP.foot * 0.6), 0)),
  );
  return mergeMeshes([strap, ...screws]);
}

/** A clip spans this many times the reach of what it holds between the line and the wall. */
const NEAR = 1.6;

/** Clips where a cable lies on a wall; those with none near enough are reported. */
export function clipsOf(held: readonly Held[], row: Row, size: number): { part?: PlacedPart; free: Vec3[] } {
  const free: Vec3[] = [];
  const all: Standing[] = [];
  for (const { curve, at, place, way: z, id, off, far } of held) {
    if (far > NEAR * size * row.high) {
      free.push(place);
      continue;
    }
    const x = addScaled(vec3(), off, z, -dot(off, z));
    if (length(x) < 1e-6) continue;
    normalize(x, x);
    // its feet lie on the wall, however far the line is from it
    const seat = addScaled(vec3(), place, x, row.high * size - far);
    all.push({
      id,
      curve,
      along: at,
      at: seat,
      x: times(x, size),
      y: times(cross(vec3(), z, x), size),
      z: times(z, size),
    });
  }
  if (all.length === 0) return { free };
  return {
    part: {
      kind: 'placed',
      id: 'clips',
      name: 'Clips',
      slot: 'holders',
      mesh: clipMesh(row),
      places: placementsOf(all),
    },
    free,
  };
}
