import fc from 'fast-check';
import Module from 'manifold-3d';
import { Vector3 } from 'three';
import { describe, expect, it } from 'vitest';
import { chordsOf as chordLengths, curveLengths } from '../src/curve/arc-length.js';
import { joinCurves } from '../src/curve/carry.js';
import { type CurveSet, createHit, newUse, Surface, Surroundings, signedVolume, singleCurve } from '../src/index.js';
import { meetingBoxes } from '../src/make/truss/boxes.js';
import { layoutOf } from '../src/make/truss/layout.js';
import { loadLevelSets } from '../src/mesh/level-set.js';
import { topologyOf } from '../src/mesh/weld.js';
import { realMesh } from '../src/part/part.js';
import type { Made, MeshPart, Part } from '../src/unit/carriers.js';
import { sheet } from './helpers.js';
import { arc, figure, many, members, part, ring, SHAPES, straight, truss } from './trusses.js';
import { made } from './units.js';

describe('what holds a truss together', () => {
  // joints n(b + 1), chord members n·b, frames n(b + 1), one diagonal a face and bay: counted on any drawing
  it.each(SHAPES)('%s of %i chords: joints, members and Maxwell’s count (Phil. Mag. 27, 1864)', (form, n) => {
    for (const bays of [1, 2, 7, 40])
      for (const webs of ['one-way', 'zigzag', 'crossed', 'k', 'none']) {
        const made = truss({ form, bays, webs });
        const faces = n === 2 ? 1 : n;
        const middles = webs === 'k' ? faces * (bays + 1) : 0;
        const joints = n * (bays + 1) + middles;
        const diagonals = { 'one-way': 1, zigzag: 1, crossed: 2, k: 2, none: 0 }[webs]! * faces * bays;
        const frames = faces * (bays + 1) + middles;
        expect(figure(made, 'joints')).toBe(joints);
        expect(figure(made, 'chord-count')).toBe(n * bays);
        expect(figure(made, 'web-count')).toBe(diagonals);
        expect(figure(made, 'frame-count')).toBe(frames);
        expect(figure(made, 'spare')).toBe(n * bays + diagonals + frames - (n === 2 ? 2 * joints - 3 : 3 * joints - 6));
      }
    // a triangle with one diagonal a face, and a plane one, are just stiff
    if (n < 4) expect(figure(truss({ form, webs: 'one-way' }), 'spare')).toBe(0);
  });

  it('with braced ends any of them is just stiff: n − 3 bars at either end', () => {
    for (const [form, n] of SHAPES) {
      for (const bays of [1, 6])
        expect(figure(truss({ form, bays, webs: 'one-way', ends: 'braced' }), 'spare')).toBe(0);
      expect(figure(truss({ form, ends: 'braced' }), 'frame-count') - figure(truss({ form }), 'frame-count')).toBe(
        2 * Math.max(0, n - 3),
      );
      expect(figure(truss({ form, ends: 'open', every: 3 }), 'frame-count')).toBe((n === 2 ? 1 : n) * 2);
    }
  });

  it('side by side they are tied joint to joint, whichever way each line runs and however many bays it has', () => {
    const beside = (ways: readonly number[], lengths = [4, 4, 4]): CurveSet => ({
      ...many(3),
      position: Float64Array.from(
        ways.flatMap((way, k) => (way > 0 ? [0, 0, 3 * k, lengths[k], 0, 3 * k] : [lengths[k], 0, 3 * k, 0, 0, 3 * k])),
      ),
      pointData: {},
      curveData: {},
    });
    for (const ways of [
      [1, 1, 1],
      [1, -1, 1],
      [-1, -1, 1],
    ]) {
      const set = { form: 'square', lineAt: 'top', webs: 'none', ties: 'ties', bays: 8 };
      const ties = members(part(truss(set, beside(ways)), 'ties'));
      // from the near side of one to the near side of the next: 3 m less their width and what is hidden in the chords
      expect(ties.map(({ z }) => z.length())).toEqual(Array(18).fill(expect.closeTo(3 - 0.5 - 2 * 0.3 * 0.04, 5)));
      for (const { z, from } of ties)
        expect([Math.abs(z.x), from.y]).toEqual([expect.closeTo(0, 5), expect.closeTo(-0.04, 5)]);
      expect(members(part(truss({ ...set, tieEvery: 3 }, beside(ways)), 'ties'))).toHaveLength(2 * 4);
      expect(members(part(truss({ ...set, ties: 'braced' }, beside(ways)), 'ties'))).toHaveLength(2 * (9 + 16));
      expect(figure(truss(set, beside(ways)), 'spare')).toBe(
        figure(truss({ ...set, ties: 'none' }, beside(ways)), 'spare'),
      );
    }
    const uneven = truss({ by: 'length', bay: 1, ties: 'ties' }, beside([1, 1, 1], [4, 2, 3]));
    const tied = members(part(uneven, 'ties'));
    expect(tied).toHaveLength(9 + 5);
    // as far along the one as along the other, to the nearest joint
    for (const { from, to } of tied) {
      const [a, b] = [from, to].map(({ x, z }) => x / [4, 2, 3][Math.round(z / 3)]);
      expect(Math.abs(a - b)).toBeLessThan(0.5 / 4 + 0.02);
    }
    expect(figure(truss({ form: 'square' }, beside([1, 1, 1])), 'spare')).toBe(
      3 * figure(truss({ form: 'square' }), 'spare'),
    );
    for (const one of [ring(3), straight(3)]) expect(part(truss({ ties: 'braced' }, one), 'ties')).toBeUndefined();
  });

  it('a ring has as many bays as joints, and joins up', () => {
    const made = truss({ form: 'square', bays: 24, webs: 'one-way', joint: 'ball' }, ring(3));
    expect(figure(made, 'joints')).toBe(4 * 24);
    expect(figure(made, 'chord-count')).toBe(4 * 24);
    const lengths = members(part(made, 'chords')).map(({ z }) => z.length());
    expect(Math.max(...lengths) / Math.min(...lengths)).toBeLessThan(3.3 / 2.7);
  });
});

describe('where members are', () => {
  it('lengths of straight ones are those of Pythagoras, whatever the section', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...SHAPES),
        fc.double({ min: 0.1, max: 3, noNaN: true }),
        fc.double({ min: 0.2, max: 3, noNaN: true }),
        fc.integer({ min: 1, max: 30 }),
        (shape, depth, width, bays) => {
          const [form, n] = shape;
          const made = truss({ form, depth, width, bays, webs: 'one-way' }, straight(6));
          // end frames stand within the line
          const bay = (6 - 0.08 * depth) / bays;
          // corners of the section by hand: a regular polygon that fills depth × width, on a face
          const angles = Array.from(
            { length: n },
            (_, k) => -Math.PI / 2 + (n === 2 ? 0 : Math.PI / n) + (2 * Math.PI * k) / n,
          );
          const spread = (values: number[]) => Math.max(...values) - Math.min(...values);
          const wide = n === 2 ? 0 : (depth * width) / spread(angles.map(Math.cos));
          const high = depth / spread(angles.map(Math.sin));
          const sides = angles.map((a, k) => {
            const b = angles[(k + 1) % n];
            return Math.hypot(wide * (Math.cos(b) - Math.cos(a)), high * (Math.sin(b) - Math.sin(a)));
          });
          const faces = n === 2 ? sides.slice(1) : sides;
          const around = faces.reduce((sum, side) => sum + Math.max(0, side - 0.16 * depth), 0);
          expect(figure(made, 'chord-length')).toBeCloseTo(n * 6, 5);
          expect(figure(made, 'frame-length')).toBeCloseTo((bays + 1) * around, 5);
          const diagonals = faces.reduce(
            (sum, side) => sum + bays * Math.max(0, Math.hypot(side, bay) - 0.16 * depth),
            0,
          );
          expect(figure(made, 'web-length')).toBeCloseTo(diagonals, 5);
        },
      ),
      { numRuns: 60 },
    );
  });

  it('on an arc chords are the chords of a circle: 2r·sin(φ/2), inside and outside by half the width', () => {
    const made = truss({ form: 'square', joint: 'ball', chord: 0.02, bays: 10, depth: 0.4 }, arc(5, Math.PI / 2));
    const cut = 2 * Math.sqrt((0.9 * 1.9 * 0.004) ** 2 - 0.004 ** 2);
    const lengths = members(part(made, 'chords')).map(({ z }) => z.length() + cut);
    // end frames, 0.016 m to the middle of their tubes, stand within the line
    const half = (Math.PI / 2 - 0.032 / 5) / 20;
    for (const length of lengths) {
      const near = [4.8, 5.2].map((r) => Math.abs(length - 2 * r * Math.sin(half)));
      expect(Math.min(...near)).toBeLessThan(1e-3);
    }
    expect(lengths.filter((length) => length > 2 * 5 * Math.sin(half))).toHaveLength(20);
  });

  it('diagonals of two faces beside each other meet in the same joints; upper and lower faces have their own', () => {
    const ends = (set: Record<string, unknown>) => members(part(truss({ form: 'square', depth: 0.5, ...set }), 'webs'));
    // those of zigzags: four at every second joint of a chord, none between
    const met = new Map<string, number>();
    for (const { from, to, z } of ends({ webs: 'zigzag' }))
      for (const end of [from.clone().sub(z.clone().setLength(0.012)), to.clone().add(z.clone().setLength(0.012))]) {
        const key = [end.x, end.y, end.z].map((value) => (Math.round(1000 * value) / 1000).toFixed(2)).join();
        met.set(key, (met.get(key) ?? 0) + 1);
      }
    expect([...met.values()].filter((count) => count === 4)).toHaveLength(4 * 4 - 2);
    expect(new Set(met.values())).toEqual(new Set([2, 4]));
    const level = (set: Record<string, unknown>, sign: number) =>
      ends({ webs: 'one-way', ...set }).filter(({ from, to }) => sign * from.y > 0.2 && sign * to.y > 0.2).length;
    expect([level({ topWebs: 'none' }, 1), level({ topWebs: 'none' }, -1)]).toEqual([0, 8]);
    expect([level({ bottomWebs: 'crossed' }, 1), level({ bottomWebs: 'crossed' }, -1)]).toEqual([8, 16]);
  });

  it('members run from chord to chord, one of their sides outwards, none mirrored; diagonals turn by turns', () => {
    const made = truss({ form: 'square', webs: 'zigzag', depth: 0.5 }, straight(4));
    // hung below its line its middle is elsewhere, and its ways out are the same
    const ways = (of: Made) =>
      ['webs', 'frames'].flatMap((id) =>
        members(part(of, id)).map(({ x }) => [x.x, x.y, x.z].map((value) => expect.closeTo(value, 6))),
      );
    expect(ways(made)).toEqual(ways(truss({ form: 'square', webs: 'zigzag', depth: 0.5, lineAt: 'top' }, straight(4))));
    for (const id of ['webs', 'frames'])
      for (const { from, to, x, y, z, right } of members(part(made, id))) {
        // square to its face
        expect(Math.max(Math.abs(x.y), Math.abs(x.z)) / x.length()).toBeCloseTo(1, 6);
        expect(right).toBeGreaterThan(0);
        expect(Math.abs(x.dot(z)) + Math.abs(y.dot(z)) + Math.abs(x.dot(y))).toBeLessThan(1e-6);
        expect(x.length()).toBeCloseTo((0.5 * (id === 'webs' ? 0.07 : 0.08)) / 2, 6);
        const middle = from.clone().add(to).multiplyScalar(0.5);
        // out of the truss, whose middle is the line
        expect(x.dot(new Vector3(0, middle.y, middle.z))).toBeGreaterThan(0);
        for (const end of [from, to]) expect(Math.max(Math.abs(end.y), Math.abs(end.z))).toBeGreaterThan(0.22);
      }
    // neighbours of one face lean to the other side
    const one = members(part(made, 'webs')).filter(({ from, to }) => from.y + to.y > 0.9);
    one.sort((a, b) => a.from.x - b.from.x);
    for (let k = 1; k < one.length; k++) expect(Math.sign(one[k].z.z)).toBe(-Math.sign(one[k - 1].z.z));
  });

  it('chords of angle have their corner outwards, square ones of four lie along the faces, swept or placed', () => {
    for (const joint of ['plain', 'ball'])
      for (const form of ['triangle', 'square', 'more']) {
        const { position } = realMesh(part(truss({ form, joint, chordProfile: 'angle', ball: 1.01 }), 'chords'));
        const plain = realMesh(part(truss({ form, joint, chordProfile: 'rod', ball: 1.01 }), 'chords')).position;
        const far = (of: Float32Array) =>
          Math.max(...Array.from({ length: of.length / 3 }, (_, v) => Math.hypot(of[3 * v + 1], of[3 * v + 2])));
        // half a chord is 0.04: its corner is √2 times as far out as a round one
        expect(far(position) - far(plain)).toBeCloseTo(0.04 * (Math.SQRT2 - 1), 2);
        // where its legs meet is most of it
        const mean = (of: Float32Array) =>
          of.reduce((sum, _, i) => sum + (i % 3 === 1 ? Math.hypot(of[i], of[i + 1]) : 0), 0) / (of.length / 3);
        expect(mean(position) - mean(plain)).toBeGreaterThan(0.01);
      }
    for (const joint of ['plain', 'ball']) {
      const { position } = realMesh(part(truss({ form: 'square', joint, chordProfile: 'beam' }), 'chords'));
      expect(Math.max(...position.filter((_, i) => i % 3 > 0))).toBeCloseTo(0.25 + 0.04, 5);
    }
  });

  it('plates lie in their faces, from the chord inwards; on a plumb line a truss stands square to the axes', () => {
    const plates = members(part(truss({ form: 'flat', joint: 'plate' }), 'joints'));
    expect(plates).toHaveLength(18);
    for (const { from, x, y, z, right } of plates) {
      expect(right).toBeGreaterThan(0);
      expect(Math.abs(from.y)).toBeCloseTo(0.25 - y.length() / 2, 6);
      expect([Math.abs(x.x) / x.length(), Math.abs(y.y) / y.length(), Math.abs(z.z) / z.length()]).toEqual(
        [1, 1, 1].map((one) => expect.closeTo(one, 6)),
      );
    }
    for (const top of [4, -4]) {
      const joints = members(
        part(truss({ form: 'square', joint: 'ball', width: 2 }, singleCurve([0, 0, 0, 0, top, 0])), 'joints'),
      );
      for (const { from } of joints)
        expect([Math.abs(from.x), Math.abs(from.z)]).toEqual([expect.closeTo(0.5, 6), expect.closeTo(0.25, 6)]);
    }
  });

  it('hangs entirely below its line, or stands entirely above it, turned or not upright as it is asked', () => {
    const span = (set: Record<string, unknown>, axis: 'y' | 'z') => {
      const ends = members(part(truss({ form: 'triangle', joint: 'ball', ball: 1.01, ...set }), 'joints')).map(
        ({ from }) => from[axis],
      );
      return [Math.min(...ends), Math.max(...ends)];
    };
    // by half a chord more: not even that is on the other side
    expect(span({ lineAt: 'top' }, 'y')).toEqual([expect.closeTo(-0.54, 6), expect.closeTo(-0.04, 6)]);
    expect(span({ lineAt: 'bottom' }, 'y')).toEqual([expect.closeTo(0.04, 6), expect.closeTo(0.54, 6)]);
    expect(span({ lineAt: 'bottom', turn: Math.PI }, 'y')).toEqual([
      expect.closeTo(-0.54, 6),
      expect.closeTo(-0.04, 6),
    ]);
    for (const profile of ['tube', 'square', 'angle'])
      for (const one of truss({ form: 'square', lineAt: 'top', on: 'edge', chordProfile: profile, joint: 'plain' })
        .parts)
        expect(realMesh(one).position.findIndex((value, i) => i % 3 === 1 && !(value < 1e-6))).toBe(-1);
    // turned by a quarter its point looks to the side, t × up, as what is rolled does
    expect(span({ turn: Math.PI / 2 }, 'z')).toEqual([expect.closeTo(-0.25, 6), expect.closeTo(0.25, 6)]);
    const point = members(part(truss({ form: 'triangle', turn: Math.PI / 2, joint: 'ball' }), 'joints')).filter(
      ({ from }) => Math.abs(from.y) < 1e-6,
    );
    expect(point.length).toBe(9);
    for (const { from } of point) expect(from.z).toBeCloseTo(0.25, 6);
    // on a face its point is up, on an edge down
    const low = (set: object) =>
      members(part(truss({ form: 'triangle', joint: 'ball', ball: 1.01, ...set }), 'joints')).filter(
        ({ from }) => from.y < 0,
      ).length;
    expect([low({ on: 'face' }), low({ on: 'edge' })]).toEqual([18, 9]);
    const lane = {
      ease: 'straight',
      knots: [
        { at: 0, value: 0.6 },
        { at: 1, value: 0.2 },
      ],
    };
    const tapered = members(part(truss({ form: 'square', depth: lane, joint: 'ball' }), 'joints'));
    for (const { from } of tapered) expect(Math.abs(from.y)).toBeCloseTo(0.3 - 0.05 * from.x, 5);
  });
});

it('every kind of joint and profile is closed and outside out; at balls nothing comes near the next but the ball', () => {
  for (const joint of ['plain', 'ball', 'plate'])
    for (const profile of ['tube', 'square', 'angle', 'rod', 'beam'])
      for (const curved of ['straight', 'bent']) {
        const set = { joint, curved, chordProfile: profile, webProfile: profile, frameProfile: profile };
        const made = truss({ form: 'square', bays: 5, ...set }, arc(3, 1));
        for (const one of made.parts) {
          const mesh = realMesh(one);
          expect(topologyOf(one.kind === 'placed' ? one.mesh : mesh).openEdges).toBe(0);
          // a ray from far outside meets a front
          const hit = {
            triangle: -1,
            barycentric: [1, 0, 0] as [number, number, number],
            point: new Float64Array(3),
            normal: new Float64Array(3),
            distance: Infinity,
          };
          if (Surface.of(mesh).cast([0.7, 9, 2.8], [0, -1, 0], hit)) expect(hit.normal[1], one.id).toBeGreaterThan(0);
        }
      }
  const made = truss({ form: 'square', joint: 'ball', webs: 'crossed' });
  const balls = members(part(made, 'joints'));
  const radius = balls[0].x.length();
  for (const id of ['chords', 'webs', 'frames'])
    for (const { from, to, x } of members(part(made, id)))
      for (const end of [from, to]) {
        const far = Math.min(...balls.map((ball) => ball.from.distanceTo(end)));
        expect(Math.hypot(far, x.length())).toBeCloseTo(0.9 * radius, 6);
      }
});

it('ends are closed by a plate over all chords, or by spigots that fit into the next one’s sockets, pin on pin', () => {
  for (const [form, n] of SHAPES) {
    const made = truss({ form, closed: 'plate', chord: 0.16 });
    const plates = (made.parts.find(({ id }) => id === 'ends') as MeshPart).mesh;
    expect(topologyOf(plates)).toEqual({ openEdges: 0, euler: 4, shells: 2 });
    expect(signedVolume(plates)).toBeGreaterThan(0);
    // every chord's end lies within a plate, seen along the truss
    const along = Array.from({ length: plates.position.length / 3 }, (_, v) => plates.position[3 * v]);
    expect([Math.min(...along), Math.max(...along)]).toEqual([expect.closeTo(-0.002, 6), expect.closeTo(4.002, 6)]);
    const surface = Surface.of(plates);
    const hit = createHit();
    for (const angle of [0, 1, 2, 3, 4, 5]) {
      const chord = realMesh(part(made, 'chords')).position;
      const [y, z] = [chord[1] + 0.001 * Math.cos(angle), chord[2] + 0.001 * Math.sin(angle)];
      expect(surface.cast([9, y, z], [-1, 0, 0], hit)).toBe(true);
    }
    const one = members(part(truss({ form, closed: 'spigots' }), 'ends'));
    expect(one).toHaveLength(n * 2 * 2);
    // moved on by its length the next one's sockets are round these spigots, and both pins in one place
    const next = one.map(({ from, to, x }) => ({
      from: from.clone().setX(from.x + 4),
      to: to.clone().setX(to.x + 4),
      thick: x.length(),
    }));
    const here = one.map(({ from, to, x }) => ({ from, to, thick: x.length() })).filter(({ from }) => from.x > 3.5);
    const there = next.filter(({ from }) => from.x > 3.5 && from.x < 5.5);
    for (const rod of here.filter(({ thick }) => thick > 0.02)) {
      const socket = there.find(
        ({ from, thick }) => thick > rod.thick && Math.hypot(from.y - rod.from.y, from.z - rod.from.z) < 1e-6,
      );
      expect(socket, form).toBeDefined();
    }
    const middles = (rods: typeof here) =>
      rods
        .filter(({ thick }) => thick < 0.02)
        .map(({ from, to }) => [from.x + to.x, from.y + to.y, from.z + to.z].map((sum) => (sum / 2).toFixed(6)).join())
        .sort();
    expect(middles(here)).toEqual(middles(there));
    expect(new Set(middles(here)).size).toBe(n);
  }
  expect(truss({ closed: 'spigots' }, ring(3)).parts.some(({ id }) => id === 'ends')).toBe(false);
});

describe('ends are cut', () => {
  const rising = singleCurve([0, 0, 0, 4, 2, 1]);
  const chordsOf = (made: Made) => made.parts.find(({ id }) => id === 'chords') as MeshPart;
  /** Vertices of the chords that are at most so far from the end, by how far they are past a plane. */
  const past = (made: Made, at: number[], normal: number[], near: number) => {
    const { position } = realMesh(chordsOf(made));
    const out: number[] = [];
    for (let i = 0; i < position.length; i += 3) {
      const far = [0, 1, 2].reduce((sum, n) => sum + normal[n] * (position[i + n] - at[n]), 0);
      if (far > -near) out.push(far);
    }
    return out;
  };
  const level = Math.hypot(4, 1);

  it.each(SHAPES)(
    'plumb and level, as rafters are: %s chords end in the plane, whole, as heavy as square ones',
    (form) => {
      for (const [endCut, normal] of [
        ['plumb', [4 / level, 0, 1 / level]],
        ['level', [0, 1, 0]],
      ] as const)
        for (const closed of ['caps', 'plate', 'spigots'])
          for (const curved of ['straight', 'bent']) {
            const set = { form, closed, curved, depth: 0.3 };
            const made = truss({ ...set, endCut }, rising);
            const end = past(made, [4, 2, 1], [...normal], 0.05);
            expect(Math.max(...end)).toBeLessThan(1e-5);
            // the rims and what closes them
            expect(end.filter((far) => far > -1e-5).length).toBeGreaterThanOrEqual(
              24 * SHAPES.find(([one]) => one === form)![1],
            );
            const mesh = realMesh(chordsOf(made));
            expect(topologyOf(mesh).openEdges).toBe(0);
            const square = realMesh(chordsOf(truss(set, rising)));
            // a cut through a chord's middle takes as much off as it leaves on; chords before and behind the line's end make up for each other
            if (form !== 'triangle' && curved === 'straight')
              expect(signedVolume(mesh) / signedVolume(square)).toBeCloseTo(1, 3);
          }
    },
  );

  it('at a prop each chord ends where it meets it, whatever that looks like; what it does not meet stays square, and is reported', () => {
    const wall = sheet(2, 2, (s, t) => [4.3 + 0.5 * s, 4 * s - 1, 4 * t - 2]);
    const at = (set: object, line = straight(4)) => {
      const reported: string[] = [];
      const surroundings = new Surroundings(new Map([['wall', wall]]));
      return [
        made(
          'truss',
          { by: 'count', bays: 8, depth: 0.5, endCut: 'prop', cutBy: 'wall', ...set },
          { input: line, surroundings, reported },
        ),
        reported,
      ] as const;
    };
    const normal = [4, -0.5, 0].map((value) => value / Math.hypot(4, 0.5));
    for (const form of ['flat', 'square', 'triangle']) {
      const [made_, reported] = at({ form });
      // the other end has no wall before it
      expect(reported).toEqual(['ends-uncut']);
      const end = past(made_, [4.3, -1, 0], normal, 0.2);
      expect(Math.max(...end)).toBeLessThan(1e-5);
      expect(end.filter((far) => far > -1e-5).length).toBeGreaterThan(40);
      for (const one of made_.parts)
        for (const far of past({ ...made_, parts: [{ ...one, id: 'chords' } as MeshPart] }, [4.3, -1, 0], normal, 9))
          expect(far).toBeLessThan(0.03);
    }
    const [gone, reported] = at({ cutBy: 'nobody' });
    expect(reported).toEqual(['ends-uncut']);
    expect([...realMesh(chordsOf(gone)).position]).toEqual([...realMesh(chordsOf(truss({}))).position]);
    // a line that lies level cannot be cut level
    const codes: string[] = [];
    truss({ endCut: 'level' }, straight(4), codes);
    expect(codes).toEqual(['ends-uncut']);
    expect(truss({ endCut: 'plumb' }, ring(2), []).parts.length).toBe(truss({}, ring(2)).parts.length);
  });
});

it('welded it is one valid body of the right genus by manifold-3d: as many loops as bars beyond a tree', async () => {
  await loadLevelSets();
  for (const [form, bays] of [
    ['flat', 3],
    ['triangle', 2],
  ] as const) {
    const made = truss(
      {
        form,
        bays,
        joint: 'welded',
        webs: 'one-way',
        depth: 0.4,
        chord: 0.16,
        web: 0.1,
        frame: 0.1,
        cell: 0.9,
        fillet: 0,
      },
      straight(1.2),
    );
    const { mesh } = made.parts[0] as MeshPart;
    expect(topologyOf(mesh).openEdges).toBe(0);
    const manifold = await Module();
    manifold.setup();
    const welded = new manifold.Mesh({ numProp: 3, vertProperties: mesh.position, triVerts: mesh.index });
    welded.merge();
    const body = new manifold.Manifold(welded);
    // Euler: a graph of m bars and j joints in one piece has m − j + 1 loops, and this many holes its skin
    expect(body.genus()).toBe(figure(made, 'members') - figure(made, 'joints') + 1);
    expect(body.decompose()).toHaveLength(1);
    const volume = made.bodies.reduce(
      (sum, { curves, section }) => sum + Math.PI * section.radius[0] ** 2 * chordLengths(curves).sum,
      0,
    );
    // less where they overlap, more by round ends
    expect(body.volume() / volume).toBeGreaterThan(0.8);
    expect(body.volume() / volume).toBeLessThan(1.05);
  }
}, 60_000);

it('with other numbers of how members look joints stay where they are, others are worked out anew; nothing is left of what was', () => {
  const fresh = { form: 'square', webs: 'zigzag', joint: 'plate' };
  const input = arc(4, 1.2);
  const all = (made: Made) => made.parts.map((one) => [...realMesh(one).position, ...realMesh(one).index].join());
  for (const set of [
    {},
    { web: 0.12 },
    { wall: 0.3, webProfile: 'angle' },
    { sides: 6 },
    { tie: 0.2 },
    { curved: 'bent' },
    { webs: 'k' },
    { bays: 5 },
    { depth: 0.3 },
    { frame: 0.2 },
    { chord: 0.3, lineAt: 'top' },
    { joint: 'ball', ball: 3 },
    { turn: 0.4 },
    { every: 2 },
    { ends: 'braced' },
  ]) {
    truss(fresh, input);
    // on lines that nothing was made on yet
    expect(all(truss({ ...fresh, ...set }, input)), JSON.stringify(set)).toEqual(
      all(truss({ ...fresh, ...set }, arc(4, 1.2))),
    );
  }
  const [before, after] = [{}, { web: 0.12 }].map((set) =>
    layoutOf(input, { ...newUse('make', 'truss').parameters, ...set } as never, {
      density: 1,
      surroundings: new Surroundings(new Map()),
    }),
  );
  expect(after).toBe(before);
  expect(
    layoutOf(input, { ...newUse('make', 'truss').parameters, frame: 0.12 } as never, {
      density: 1,
      surroundings: new Surroundings(new Map()),
    }),
  ).not.toBe(before);
});

it('boxes that meet are both found, however they lie over each other; those far from all others are not', () => {
  const side = fc.double({ min: -20, max: 20, noNaN: true });
  const size = fc.double({ min: 0, max: 15, noNaN: true });
  fc.assert(
    fc.property(fc.array(fc.tuple(side, side, side, size, size, size), { minLength: 1, maxLength: 80 }), (list) => {
      const box = Float64Array.from(
        [...list, [100, 100, 100, 1, 1, 1]].flatMap(([x, y, z, a, b, c]) => [x, y, z, x + a, y + b, z + c]),
      );
      const found = meetingBoxes(box, list.length + 1);
      expect(found[list.length]).toBe(0);
      for (let a = 0; a < list.length; a++)
        for (let b = 0; b < a; b++) {
          const touch = [0, 1, 2].every(
            (k) => box[6 * a + k] <= box[6 * b + 3 + k] && box[6 * b + k] <= box[6 * a + 3 + k],
          );
          if (touch) expect([found[a], found[b]]).toEqual([1, 1]);
        }
    }),
  );
});

it('what is made does not hang on what was made before along the same lines, nor on whose memory it is made in', () => {
  const lines = joinCurves(
    [0, 1, 2].map((k) => singleCurve([0, 0, k, 2, 0.3, k, 4, 0, k], { id: k + 1, smooth: true })),
  );
  const sets: Record<string, unknown>[] = [
    {},
    { turn: 0.4 },
    { webs: 'k' },
    { webs: 'k', turn: 0.4 },
    { every: 2 },
    { ends: 'open' },
    { form: 'square', ends: 'braced' },
    { form: 'flat' },
    { topWebs: 'crossed' },
    { bays: 5 },
    { by: 'length', bay: 0.9 },
    { by: 'length', bay: 1.6 },
    { upright: 'line' },
    { depth: 0.3 },
    { width: 1.4 },
    { lineAt: 'bottom' },
    { ties: 'ties' },
    { ties: 'braced', tieEvery: 2 },
    { joint: 'ball' },
    { joint: 'ball', ball: 2 },
    { joint: 'plate' },
    { bakedAs: 'lines' },
  ];
  const spare: { parts: Part[] } = { parts: [] };
  fc.assert(
    fc.property(fc.shuffledSubarray(sets, { minLength: 2 }), (order) => {
      for (const set of order) {
        const anew = truss(set, { ...lines });
        const again = made('truss', { by: 'count', bays: 8, depth: 0.5, ...set }, { input: lines, spare: spare.parts });
        expect(again).toEqual(anew);
        spare.parts = again.parts;
      }
    }),
    { numRuns: 12 },
  );
});

it('diagonals that meet in a frame do so in its middle', () => {
  const { parts } = truss({ form: 'flat', webs: 'k', bakedAs: 'lines' });
  const frames = parts.find(({ id }) => id === 'frame');
  if (frames?.kind !== 'strands') throw new Error('There are no frames');
  const halves = Array.from(curveLengths(frames.curves));
  expect(halves.length).toBeGreaterThan(10);
  for (const half of halves) expect(half).toBeCloseTo(halves[0], 6);
});
