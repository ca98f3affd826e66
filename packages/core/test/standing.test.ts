import fc from 'fast-check';
import { Vector3 } from 'three';
import { describe, expect, it } from 'vitest';
import { singleCurve } from '../src/curve/curve-set.js';
import {
  type ElementEdit,
  evaluatePiece,
  newUse,
  type PlacedPart,
  realMesh,
  Surface,
  Surroundings,
  topologyOf,
  World,
} from '../src/index.js';
import { framedLines } from '../src/make/elements/framed-lines.js';
import { stationsAlong } from '../src/make/elements/stations.js';
import { chosenParts } from '../src/make/place/chosen-parts.js';
import { bentParts, placedParts } from '../src/make/place/placed.js';
import { type PlaceChoice, placingOf } from '../src/make/place/placing.js';
import { Stander } from '../src/make/place/stand.js';
import { boundsOf } from '../src/mesh/measure.js';
import type { MeshPart } from '../src/unit/carriers.js';
import { evenly, helix } from './helpers.js';
import { alongPoints } from './projects.js';

const PLAIN = newUse('make', 'place').parameters as unknown as PlaceChoice;
const NEVER = { least: 0, most: 0 };
const SAME = { least: 1, most: 1 };
/** Stands as the frame of its station does. */
const STILL = {
  ...PLAIN,
  facing: 'z',
  rise: 0,
  roll: 0,
  lean: 0,
  sizes: SAME,
  turns: NEVER,
  tilt: 0,
  along: 0,
  aside: 0,
  shade: 0,
  missing: 0,
};
const BENT_LINE = framedLines(helix(0.2, 0.1, 1, 200).curve, false);
const STATIONS = stationsAlong(BENT_LINE, { spacing: 0.002, first: 0, last: 0, even: true }, 1e6);
const three = (all: ArrayLike<number>, i: number) => new Vector3(all[i], all[i + 1], all[i + 2]);

/** The frame of a station and how an element stands there, as vectors. */
function standing(p: typeof STILL, n: number, size: number) {
  const stander = new Stander(STATIONS, p);
  stander.place(n, size);
  const [up, tangent] = [three(STATIONS.up, 3 * n), three(STATIONS.tangent, 3 * n)];
  const [x, y, z] = [0, 3, 6].map((i) => three(stander.axes, i));
  return {
    side: up.clone().cross(tangent),
    up,
    tangent,
    x,
    y,
    z,
    off: three(stander.at, 0).sub(three(STATIONS.at, 3 * n)),
  };
}

describe('an element', () => {
  it('is rolled about the line, lifted, leant forward, turned to face along and about its own way up: as three turns vectors', () => {
    const angle = evenly(-3, 3);
    const facings = { x: [1, 0, 0], '-x': [-1, 0, 0], y: [0, 1, 0], '-y': [0, -1, 0], z: [0, 0, 1], '-z': [0, 0, -1] };
    fc.assert(
      fc.property(
        fc.nat(500),
        evenly(0.01, 2),
        angle,
        angle,
        angle,
        evenly(-2, 2),
        fc.constantFrom(...Object.entries(facings)),
        (n, size, roll, lean, turn, rise, [facing, front]) => {
          const { side, up, tangent, x, y, z, off } = standing(
            { ...STILL, roll, lean, rise, facing, turns: { least: turn, most: turn } },
            n,
            size,
          );
          for (const one of [side, up]) one.applyAxisAngle(tangent, roll);
          expect(off.distanceTo(up.clone().multiplyScalar(size * rise))).toBeLessThan(1e-9);
          for (const one of [up, tangent]) one.applyAxisAngle(side, lean);
          expect(x.clone().cross(y).distanceTo(z)).toBeLessThan(1e-9);
          // its own front, before it was turned about its own way up, looks along the line
          const own = new Vector3(...(front as [number, number, number]));
          own.applyAxisAngle(new Vector3(0, 1, 0), -turn);
          const world = new Vector3().addScaledVector(x, own.x).addScaledVector(y, own.y).addScaledVector(z, own.z);
          expect(world.distanceTo(tangent)).toBeLessThan(1e-9);
          if (!facing.endsWith('y')) expect(y.distanceTo(up)).toBeLessThan(1e-9);
        },
      ),
      { numRuns: 200 },
    );
  });

  it('stands off at random as far along and aside as is asked, evenly; tilts to any side within its angle, evenly over that cap', () => {
    const [along, aside, tilt] = [0.6, 0.3, 0.5];
    const sum = { along: 0, aside: 0, cap: 0, ahead: 0 };
    const most = { along: 0, aside: 0, cap: 0 };
    const count = 400;
    for (let n = 0; n < count; n++) {
      const { side, up, tangent, y, z, off } = standing({ ...STILL, along, aside, tilt }, n, 0.1);
      const [a, b] = [off.dot(tangent), off.dot(side)];
      expect(off.dot(up)).toBeCloseTo(0, 12);
      const cap = (1 - y.dot(up)) / (1 - Math.cos(tilt));
      sum.along += a / count;
      sum.aside += b / count;
      sum.cap += cap / count;
      sum.ahead += y.dot(tangent) / count;
      most.along = Math.max(most.along, Math.abs(a));
      most.aside = Math.max(most.aside, Math.abs(b));
      most.cap = Math.max(most.cap, cap);
      // it tips over without turning about itself
      expect(z.dot(tangent)).toBeGreaterThan(Math.cos(tilt) - 1e-9);
    }
    // uniform: mean of none or a half, within three standard errors, and nearly all of the range is met
    const error = 3 / Math.sqrt(12 * count);
    expect(Math.abs(sum.along)).toBeLessThan(0.12 * error);
    expect(Math.abs(sum.aside)).toBeLessThan(0.06 * error);
    expect(Math.abs(sum.cap - 0.5)).toBeLessThan(error);
    expect(Math.abs(sum.ahead)).toBeLessThan(0.06);
    expect([most.along, most.aside, most.cap]).toEqual([
      expect.closeTo(0.06, 2),
      expect.closeTo(0.03, 2),
      expect.closeTo(1, 1),
    ]);
    expect(most.along).toBeLessThan(0.06 + 1e-9);
    expect(most.cap).toBeLessThan(1 + 1e-9);
  });
});

describe('elements of a piece', () => {
  const box = {
    position: Float32Array.from({ length: 24 }, (_, i) =>
      i % 3 === 0 ? ((i / 3) & 1 ? 0.3 : -0.1) : i % 3 === 1 ? ((i / 3) & 2 ? 0.5 : 0.1) : (i / 3) & 4 ? 0.8 : 0.2,
    ),
    index: Uint32Array.of(
      0,
      2,
      1,
      1,
      2,
      3,
      4,
      5,
      6,
      5,
      7,
      6,
      0,
      1,
      4,
      1,
      5,
      4,
      2,
      6,
      3,
      3,
      6,
      7,
      0,
      4,
      2,
      2,
      4,
      6,
      1,
      3,
      5,
      3,
      7,
      5,
    ),
  };
  const props = new Surroundings(new Map([['box', Surface.of(box)]]));
  const line = singleCurve([0, 0, 0, 0.3, 0.1, 0.2, 0.6, 0.2, 0.4, 3, 1, 2]);
  const PARTS = [
    { part: 'peg', times: 2, size: 1 },
    { part: 'prop-1', times: 1, size: 0.5 },
  ];
  const choice: PlaceChoice = {
    ...STILL,
    parts: PARTS,
    props: ['box'],
    propSize: 'asked',
    order: 'turns',
    size: 0.05,
    by: 'spacing',
    spacing: 0.2,
    even: false,
    upright: false,
    held: 'middle',
    sides: 8,
  };
  const parts = (set: Partial<PlaceChoice> = {}) => chosenParts({ ...choice, ...set }, props, 1);

  it('stand the same whether their frames are written at once or one after the other, and as bent ones do on a straight line', () => {
    const moved = {
      ...choice,
      roll: 0.4,
      lean: -0.3,
      rise: 0.7,
      turns: { least: -1, most: 2 },
      sizes: { least: 0.5, most: 1.5 },
      tilt: 0.3,
      along: 0.5,
      aside: 0.4,
      missing: 0.2,
      facing: '-x',
    };
    const [rigid, bent] = [
      placedParts(placingOf(line, moved, parts()), moved),
      bentParts(placingOf(line, moved, parts()), moved),
    ];
    expect(rigid.map(({ name, slot, id }) => [name, slot, id])).toEqual([
      ['Peg', 'main', 'part-1'],
      ['Props', 'second', 'part-2'],
    ]);
    expect(bent.map(({ id }) => id)).toEqual(['part-1', 'part-2']);
    rigid.forEach((part, k) => {
      const [a, b] = [realMesh(part), realMesh(bent[k])];
      expect(a.position.length).toBe(b.position.length);
      const worst = { position: 0, normal: 0 };
      for (const name of ['position', 'normal'] as const)
        a[name].forEach((value, i) => {
          worst[name] = Math.max(worst[name], Math.abs(value - b[name][i]));
        });
      expect(worst.position).toBeLessThan(1e-5);
      expect(worst.normal).toBeLessThan(2e-3);
    });
    // and are known where they are
    rigid.forEach((part, k) => {
      const { places, of } = (bent[k] as MeshPart).elements!;
      const there = (part as PlacedPart).places;
      expect([places.id, places.along, places.curve, places.matrix.length]).toEqual([
        there.id,
        there.along,
        there.curve,
        there.matrix.length,
      ]);
      // turned about where they are held, not about where their mesh begins
      for (let i = 0; i < places.id.length; i++)
        for (let c = 0; c < 12; c++) expect(places.matrix[16 * i + c]).toBeCloseTo(there.matrix[16 * i + c], 5);
      expect(of.length).toBe((bent[k] as MeshPart).mesh.position.length / 3);
    });
    // one part in plain frames is written another way than where one of them is left out
    const alone = { ...choice, parts: [PARTS[0]], held: 'top' };
    for (const one of [alone, { ...alone, parts: [PARTS[1]], held: 'middle' }]) {
      const all = placedParts(placingOf(line, one, parts(one)), one)[0] as PlacedPart;
      const some = placedParts(placingOf(line, { ...one, missing: 0.3 }, parts(one)), {
        ...one,
        missing: 0.3,
      })[0] as PlacedPart;
      expect(some.places.id.length).toBeLessThan(all.places.id.length);
      some.places.id.forEach((id, k) => {
        const n = all.places.id.indexOf(id);
        for (let i = 0; i < 16; i++)
          expect(some.places.matrix[16 * k + i]).toBeCloseTo(all.places.matrix[16 * n + i], 6);
        expect([some.places.along[k], some.places.curve[k]]).toEqual([all.places.along[n], all.places.curve[n]]);
      });
    }
    const all = placedParts(placingOf(line, alone, parts(alone)), alone)[0] as PlacedPart;
    // what is not wanted any more is written over, where it fits
    const again = placedParts(placingOf(line, alone, parts(alone)), alone, [all])[0] as PlacedPart;
    expect(again.places.matrix).toBe(all.places.matrix);
    const other = placedParts(placingOf(line, { ...alone, spacing: 0.3 }, parts(alone)), alone, [all])[0] as PlacedPart;
    expect(other.places.matrix).not.toBe(all.places.matrix);
  });

  it('bent on a bend have the normals of their own faces, the texture of what they are copies of, and go straight on beyond an end', () => {
    const ball = {
      ...choice,
      parts: [{ part: 'ball', times: 1, size: 1 }],
      size: 0.09,
      by: 'count',
      count: 3,
      sides: 48,
      upright: true,
    };
    const bend = helix(0.2, 0.1, 0.5, 200).curve;
    const placing = placingOf(bend, ball, parts(ball));
    const { mesh } = bentParts(placing, ball)[0] as MeshPart;
    const own = placing.parts[0].mesh;
    const worst = { normal: 1 };
    for (let i = 0; i < mesh.index.length; i += 3) {
      const [a, b, c] = [...mesh.index.subarray(i, i + 3)].map((v) => three(mesh.position, 3 * v));
      const face = b.clone().sub(a).cross(c.clone().sub(a));
      if (face.length() < 1e-8) continue;
      for (const v of mesh.index.subarray(i, i + 3))
        worst.normal = Math.min(worst.normal, three(mesh.normal, 3 * v).dot(face.clone().normalize()));
    }
    expect(worst.normal).toBeGreaterThan(0.985);
    const vertices = own.position.length / 3;
    for (const n of [0, 1, 2]) {
      expect(mesh.uv.subarray(2 * n * vertices, 2 * (n + 1) * vertices)).toEqual(own.uv);
      expect([...mesh.index.subarray(n * own.index.length, (n + 1) * own.index.length)]).toEqual(
        [...own.index].map((v) => v + n * vertices),
      );
    }
    // half of the first stands before the line: as round as it was
    const [start, way, up] = [
      three(placing.stations.at, 0),
      three(placing.stations.tangent, 0),
      three(placing.stations.up, 0),
    ];
    const before = Array.from({ length: vertices }, (_, v) => three(mesh.position, 3 * v).sub(start)).filter(
      (place) => place.dot(way) < -0.001,
    );
    expect(before.length).toBeGreaterThan(vertices / 3);
    for (const place of before) expect(Math.hypot(place.length())).toBeCloseTo(0.09, 4);
    expect(Math.max(...before.map((place) => place.dot(up)))).toBeGreaterThan(0.085);
  });

  it('are as large as asked, or props as large as they are times what varies; their size follows a lane and chance', () => {
    const [peg, prop] = parts();
    expect([peg.scale, peg.sized, peg.times]).toEqual([1, true, 2]);
    // half as broad as 1: the box measures 0.4 by 0.4 by 0.6, and is asked for half as large
    expect(prop.scale).toBeCloseTo(0.5 / 0.3, 6);
    expect(prop.reach.map((value) => Math.round(1000 * value))).toEqual([200, 200, 300]);
    expect(prop.hold.map((value) => Math.round(1000 * value))).toEqual([100, 300, 500]);
    const size = {
      knots: [
        { at: 0, value: 0.05 },
        { at: 1, value: 0.1 },
      ],
      ease: 'straight' as const,
    };
    const own = { propSize: 'own', size, sizes: { least: 2, most: 2 } };
    const placing = placingOf(line, { ...choice, ...own }, parts(own));
    placing.which.forEach((which, n) => {
      const wanted = 2 * (0.05 + 0.05 * placing.stations.share[n]);
      expect(placing.size[n]).toBeCloseTo(wanted, 6);
      expect(which).toBe(n % 3 === 2 ? 1 : 0);
      // of a prop as large as it is, the widest of the lane is 1
      expect(placing.scale[n]).toBeCloseTo(which === 1 ? (0.5 * wanted) / 0.1 : wanted, 6);
    });
    const spread = placingOf(line, { ...choice, spacing: 0.002, sizes: { least: 0.5, most: 1.5 } }, parts());
    const sizes = [...spread.size].sort((a, b) => a - b);
    expect([sizes[0], sizes[sizes.length >> 1], sizes[sizes.length - 1]]).toEqual([
      expect.closeTo(0.025, 3),
      expect.closeTo(0.05, 2),
      expect.closeTo(0.075, 3),
    ]);
    // without size nothing is divided by it
    expect(
      placingOf(line, { ...choice, propSize: 'own', size: 0 }, parts({ propSize: 'own' })).scale.every(Number.isFinite),
    ).toBe(true);
  });

  it('are darker at random, each one as a whole, as far as asked', () => {
    const dark = { ...choice, parts: [PARTS[0]], spacing: 0.002, shade: 0.4 };
    const { colour, id } = (placedParts(placingOf(line, dark, parts(dark)), dark)[0] as PlacedPart).places;
    const light = Array.from({ length: id.length }, (_, n) => [...colour!.subarray(3 * n, 3 * n + 3)]);
    for (const [r, g, b] of light) expect([g, b]).toEqual([r, r]);
    const sorted = light.map(([r]) => r).sort((a, b) => a - b);
    expect([sorted[0], sorted[sorted.length >> 1], sorted[sorted.length - 1]]).toEqual([
      expect.closeTo(0.6, 2),
      expect.closeTo(0.8, 1),
      expect.closeTo(1, 2),
    ]);
    expect((placedParts(placingOf(line, choice, parts()), choice)[0] as PlacedPart).places.colour).toBeUndefined();
  });
});

describe('elements in one mesh', () => {
  const bent = (set: object, elements: ElementEdit[] = []) => {
    const { document, piece } = alongPoints(
      [
        [0, 0, 0],
        [0.3, 0, 0],
        [0.5, 0.1, 0.2],
        [0.6, 0.3, 0.3],
      ],
      (one) => {
        one.make = newUse('make', 'place');
        Object.assign(one.make.parameters, {
          parts: [{ part: 'peg', times: 1, size: 1 }],
          size: 0.02,
          by: 'count',
          count: 5,
          bent: 'bent',
          ...set,
        });
        one.elements = elements;
      },
    );
    const box = new Surroundings(
      new Map([
        [
          'box',
          Surface.of({
            position: Float32Array.of(0, 0, 0, 1, 0, 0, 0, 1, 0, 0, 0, 1),
            index: Uint32Array.of(0, 2, 1, 0, 1, 3, 1, 2, 3, 0, 3, 2),
          }),
        ],
      ]),
    );
    return evaluatePiece(new World(document, box), piece).parts as MeshPart[];
  };

  it('are moved, turned, sized, dropped and replaced one by one, each about its own foot; the others stay to the bit', () => {
    const [plain] = bent({});
    const { places, of } = plain.elements!;
    expect(places.id.length).toBe(5);
    const of1 = [...of.keys()].filter((v) => of[v] === 1);
    const foot = three(places.matrix, 16 + 12);
    const up = three(places.matrix, 16 + 4).normalize();
    const edit = { id: places.id[1], move: [0.1, 0.2, 0.3] as [number, number, number], turn: 0.7, size: 1.5 };
    const [moved] = bent({}, [edit]);
    for (const v of of.keys()) {
      const [was, now] = [three(plain.mesh.position, 3 * v), three(moved.mesh.position, 3 * v)];
      if (of[v] !== 1) expect(now.distanceTo(was)).toBe(0);
      else {
        const wanted = was
          .sub(foot)
          .applyAxisAngle(up, 0.7)
          .multiplyScalar(1.5)
          .add(foot)
          .add(new Vector3(...edit.move));
        expect(now.distanceTo(wanted)).toBeLessThan(1e-6);
        expect(
          three(moved.mesh.normal, 3 * v).distanceTo(three(plain.mesh.normal, 3 * v).applyAxisAngle(up, 0.7)),
        ).toBeLessThan(1e-6);
      }
    }
    expect([...moved.elements!.places.matrix.subarray(28, 31)]).toEqual(
      edit.move.map((by, k) => expect.closeTo(foot.getComponent(k) + by, 6)),
    );
    const [dropped] = bent({}, [{ id: places.id[1], dropped: true }]);
    expect(dropped.mesh.position.length / 3).toBe(of.length - of1.length);
    expect([...dropped.elements!.places.id]).toEqual([0, 2, 3, 4].map((i) => places.id[i]));
    expect(topologyOf(dropped.mesh).openEdges).toBe(0);
    // who is where is known by its new number
    for (const [v, i] of dropped.elements!.of.entries())
      expect(
        three(dropped.mesh.position, 3 * v).distanceTo(three(dropped.elements!.places.matrix, 16 * i + 12)),
      ).toBeLessThan(0.13);
    const [rest, instead] = bent({}, [{ id: places.id[1], prop: 'box' }]);
    expect(rest.mesh.position.length).toBe(dropped.mesh.position.length);
    const tall = boundsOf(realMesh(instead).position);
    expect(Math.max(...tall.max.map((value, k) => value - tall.min[k]))).toBeGreaterThan(0.06);
    expect(
      three(Float32Array.from(tall.min.map((value, k) => (value + tall.max[k]) / 2)), 0).distanceTo(foot),
    ).toBeLessThan(0.1);
    expect(bent({}, [{ id: 12345, dropped: true }])[0].mesh.position).toEqual(plain.mesh.position);
  });

  it('are each stitch with all its threads, whatever they are laid of', () => {
    for (const [kind, plies] of [
      ['cross', '1'],
      ['whip', '3'],
      ['backstitch', '2'],
      ['chain', '1'],
    ]) {
      const { document, piece } = alongPoints(
        [
          [0, 0, 0],
          [0.05, 0, 0],
        ],
        (one) => {
          one.make = newUse('make', 'stitch');
          Object.assign(one.make.parameters, { kind, plies });
        },
      );
      const build = evaluatePiece(new World(document, new Surroundings(new Map())), piece);
      const [{ mesh, elements }] = build.parts as MeshPart[];
      const { of, places } = elements!;
      expect(places.id.length, kind).toBe(build.measures.further.find(({ id }) => id === 'stitches')!.value);
      expect(of.length).toBe(mesh.position.length / 3);
      // no triangle holds two together
      for (let i = 0; i < mesh.index.length; i += 3)
        expect(new Set([...mesh.index.subarray(i, i + 3)].map((v) => of[v])).size).toBe(1);
      const middle = new Float64Array(places.id.length);
      const count = new Float64Array(places.id.length);
      of.forEach((i, v) => {
        middle[i] += mesh.position[3 * v];
        count[i]++;
      });
      for (const [i, sum] of middle.entries())
        expect(Math.abs(sum / count[i] - places.matrix[16 * i + 12]), kind).toBeLessThan(0.004);
    }
  });
});
