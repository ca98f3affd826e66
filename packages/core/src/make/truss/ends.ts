import { curveCount, singleCurve } from '../../curve/curve-set.js';
import { type Mesh, mergeMeshes } from '../../mesh/mesh.js';
import { childId } from '../../numeric/random.js';
import { roundSection, sectionFromOutline } from '../../section/section.js';
import { sweep } from '../../sweep/sweep.js';
import type { Part, PlacedPart } from '../../unit/carriers.js';
import type { ChordLines } from './chords.js';
import { memberMesh } from './members.js';

/** An end plate, in half thicknesses of a chord: from where to where along it, and how far over the chords' middles. */
const PLATE = { from: -0.45, to: 0.05, over: 1.35 };
/**
 * What joins a truss to the next: a spigot out of each chord's end that goes into the socket at the other's beginning,
 * with a pin across each. Half thicknesses of a chord: how thick, from where to where along the chord.
 */
const SPIGOT = { radius: 0.74, from: -1, to: 3 };
const SOCKET = { radius: 1.22, from: -3, to: 0 };
const PIN = { radius: 0.2, half: 1.75, off: 1.5 };

interface End {
  /** Where the chord ends, the way out of it there, and a way out of the truss square to that. */
  at: number[];
  way: number[];
  side: number[];
  first: boolean;
  id: number;
}

/** The ends of all open chords, those of one truss and one end together. @param plates the way out is that of the cut */
function endsOf({ curves, outward, cuts }: ChordLines, chords: number, plates: boolean): End[][] {
  const { position, start, closed, id } = curves;
  const groups: End[][] = [];
  const normals = new Map(cuts.map(({ curve, first, normal }) => [2 * curve + (first ? 1 : 0), normal]));
  for (let c = 0; c < curveCount(curves); c += chords) {
    if (closed[c] || start[c + 1] - start[c] < 2) continue;
    for (const first of [true, false]) {
      const group: End[] = [];
      for (let k = c; k < c + chords; k++) {
        const p = first ? start[k] : start[k + 1] - 1;
        const q = first ? p + 1 : p - 1;
        const at = [0, 1, 2].map((n) => position[3 * p + n]);
        const cut = plates ? normals.get(2 * k + (first ? 1 : 0)) : undefined;
        const way = cut ? [...cut] : unit([0, 1, 2].map((n) => at[n] - position[3 * q + n]));
        const out = [0, 1, 2].map((n) => outward[3 * p + n]);
        const lean = out[0] * way[0] + out[1] * way[1] + out[2] * way[2];
        group.push({
          at,
          way,
          side: unit(out.map((value, n) => value - lean * way[n])),
          first,
          id: childId(id[k], first ? 1 : 2),
        });
      }
      groups.push(group);
    }
  }
  return groups;
}

/** A plate over each open end of a truss. @param radius half the thickness of a chord, metres */
export function endPlates(chords: ChordLines, count: number, radius: number): Part[] {
  const plates: Mesh[] = [];
  for (const group of endsOf(chords, count, true)) {
    const way = group[0].way;
    const middle = [0, 1, 2].map((n) => group.reduce((sum, { at }) => sum + at[n], 0) / count);
    const up = group[0].side;
    const aside = cross(way, up);
    const corners = group.map(({ at }) => [dot(from(middle, at), up), dot(from(middle, at), aside)]);
    // two chords have a plate as broad as they are; more have one round all of them
    const outline = count === 2 ? bar(corners, PLATE.over * radius) : grown(corners, PLATE.over * radius);
    const area = outline.reduce((sum, [x, y], i) => {
      const [nx, ny] = outline[(i + 1) % outline.length];
      return sum + x * ny - nx * y;
    }, 0);
    const turned = area > 0 ? outline : outline.toReversed();
    const section = sectionFromOutline(
      Float64Array.from(turned, ([x]) => x),
      Float64Array.from(turned, ([, y]) => y),
      { hardAngle: 0.3 },
    );
    const ends = [PLATE.from, PLATE.to].flatMap((far) => middle.map((value, n) => value + far * radius * way[n]));
    plates.push(sweep(singleCurve(ends), section, { radius: 1, startDirection: up as [number, number, number] }));
  }
  return plates.length > 0
    ? [{ kind: 'mesh', id: 'ends', name: 'End plates', slot: 'joints', mesh: mergeMeshes(plates) }]
    : [];
}

/** Spigots at the ends of chords, sockets at their beginnings, and the pins through both. */
export function spigots(chords: ChordLines, count: number, radius: number, sides: number): Part[] {
  const rods = endsOf(chords, count, false)
    .flat()
    .flatMap((end) => {
      const { radius: thick, from: begin, to } = end.first ? SOCKET : SPIGOT;
      const across = cross(end.way, end.side);
      const far = end.first ? -PIN.off : PIN.off;
      const pin = end.at.map((value, n) => value + radius * (far * end.way[n] - PIN.half * across[n]));
      return [
        {
          id: childId(end.id, 1),
          at: end.at.map((value, n) => value + radius * begin * end.way[n]),
          way: end.way,
          side: end.side,
          long: (to - begin) * radius,
          thick: thick * radius,
        },
        {
          id: childId(end.id, 2),
          at: pin,
          way: across,
          side: end.side,
          long: 2 * PIN.half * radius,
          thick: PIN.radius * radius,
        },
      ];
    });
  if (rods.length === 0) return [];
  const matrix = new Float32Array(16 * rods.length);
  rods.forEach(({ at, way, side, long, thick }, n) => {
    const y = cross(way, side);
    for (let k = 0; k < 3; k++) {
      matrix[16 * n + k] = thick * side[k];
      matrix[16 * n + 4 + k] = thick * y[k];
      matrix[16 * n + 8 + k] = long * way[k];
      matrix[16 * n + 12 + k] = at[k];
    }
    matrix[16 * n + 15] = 1;
  });
  const part: PlacedPart = {
    kind: 'placed',
    id: 'ends',
    name: 'Spigots and pins',
    slot: 'joints',
    mesh: memberMesh(roundSection(sides)),
    places: {
      id: Uint32Array.from(rods, ({ id }) => id),
      matrix,
      along: new Float32Array(rods.length),
      curve: new Uint32Array(rods.length),
    },
  };
  return [part];
}

/** A polygon with each side this much further out, its corners where the sides meet. */
function grown(corners: readonly (readonly number[])[], by: number): number[][] {
  const way = corners.reduce((sum, [x, y], i) => {
    const [nx, ny] = corners[(i + 1) % corners.length];
    return sum + x * ny - nx * y;
  }, 0);
  const sign = way > 0 ? 1 : -1;
  const side = (i: number) => {
    const [a, b] = [corners[i], corners[(i + 1) % corners.length]];
    const size = Math.hypot(b[0] - a[0], b[1] - a[1]) || 1;
    return [(sign * (b[1] - a[1])) / size, (-sign * (b[0] - a[0])) / size];
  };
  return corners.map(([x, y], i) => {
    const [before, after] = [side((i + corners.length - 1) % corners.length), side(i)];
    const share = 1 + before[0] * after[0] + before[1] * after[1];
    // a corner as sharp as a needle would reach for ever
    const far = by / Math.max(0.3, share);
    return [x + far * (before[0] + after[0]), y + far * (before[1] + after[1])];
  });
}

/** A rectangle round two places. */
function bar([[ax, ay], [bx, by]]: readonly (readonly number[])[], wide: number): number[][] {
  const size = Math.hypot(bx - ax, by - ay) || 1;
  const [x, y] = [((bx - ax) / size) * wide, ((by - ay) / size) * wide];
  return [
    [ax - x + y, ay - y - x],
    [bx + x + y, by + y - x],
    [bx + x - y, by + y + x],
    [ax - x - y, ay - y + x],
  ];
}

const from = (a: readonly number[], b: readonly number[]): number[] => b.map((value, n) => value - a[n]);
const dot = (a: readonly number[], b: readonly number[]): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
const cross = (a: readonly number[], b: readonly number[]): number[] => [
  a[1] * b[2] - a[2] * b[1],
  a[2] * b[0] - a[0] * b[2],
  a[0] * b[1] - a[1] * b[0],
];
const unit = (a: readonly number[]): number[] => {
  const size = Math.hypot(...a) || 1;
  return a.map((value) => value / size);
};
