import fc from 'fast-check';
import { Quaternion, Vector3 } from 'three';
import { describe, expect, it } from 'vitest';
import { curveLengths } from '../src/curve/arc-length.js';
import {
  type CurveSet,
  type LinkChange,
  newUse,
  polygonSection,
  Surface,
  Surroundings,
  singleCurve,
  sweep,
} from '../src/index.js';
import { childId } from '../src/numeric/random.js';
import { keyOfPick } from '../src/path/strung/attachments.js';
import { connectionId } from '../src/path/strung/connections.js';
import { spanBetween, writeSpan } from '../src/path/strung/hanging.js';
import { catenaryFromPull, catenaryFromSag, catenaryTension } from '../src/shape/catenary.js';
import { hangingLine } from '../src/shape/hang.js';
import { createHit } from '../src/surface/surface.js';
import { bunnyMesh, controls, evenly } from './helpers.js';
import { build } from './units.js';

type Place = readonly [number, number, number];
const UP: [number, number, number] = [0, 1, 0];
const NONE = { least: 0, most: 0 };
const even = (value: number) => ({ least: value, most: value });
const at = (id: string, position: Place) => ({ on: 'place' as const, id, position });
const prop = (id: string, was?: Place) => ({ on: 'prop' as const, id, ...(was ? { was } : {}) });
const key = (id: string) => keyOfPick({ on: 'place', id });
const string = (set: Record<string, unknown>, context: Parameters<typeof build>[3] = {}) =>
  build('path', 'strung', set, { thickness: 0, ...context });
const three = (all: ArrayLike<number>, i: number) => new Vector3(all[i], all[i + 1], all[i + 2]);
const ends = ({ position, start }: CurveSet, c: number) => [
  three(position, 3 * start[c]),
  three(position, 3 * start[c + 1] - 3),
];
const apart = (lines: CurveSet, c: number) => ends(lines, c)[0].distanceTo(ends(lines, c)[1]);
/** Places on a circle, an ellipse: none as far from the next as another. */
const ROUND = Array.from({ length: 7 }, (_, k) => at(`p${k}`, [3 * Math.cos(k * 0.9), 0.2 * k, 2 * Math.sin(k * 0.9)]));
/** A square post from the ground up. */
const post = (x: number, z: number, tall: number, placement?: Place) =>
  Surface.of(
    sweep(singleCurve([x, 0, z, x, tall, z]), polygonSection(4), { radius: 0.05 }),
    placement && { position: [...placement], rotation: [0, 0, 0, 1], scale: 1 },
  );

describe('a span', () => {
  it('is the catenary of the textbooks by its pull: Hibbeler, cable under its own weight (value from memory, re-computed)', () => {
    const line = catenaryFromPull(20, 0, 45.94 / 5);
    expect(line.length.toFixed(2)).toBe('24.19');
    expect(catenaryTension(line, 5, 0).toFixed(2)).toBe('75.94');
    expect(catenaryTension(line, 5, line.lowest).toFixed(2)).toBe('45.94');
    // uneven supports (Irvine, Cable Structures, chapter 1): T₂ − T₁ = w·(y₂ − y₁), and one line by its sag and by its pull
    const uneven = catenaryFromSag(30, 12, 4);
    expect(catenaryTension(uneven, 7, 30) - catenaryTension(uneven, 7, 0)).toBeCloseTo(7 * 12, 6);
    expect(catenaryFromPull(30, 12, uneven.a).length).toBeCloseTo(uneven.length, 9);
    // V² + H² = T² at the higher support, by the share of the weight that it carries
    const carried =
      7 * (uneven.length * 0.5 + 7 * 0 + (12 / 2) * (Math.cosh(15 / uneven.a) / Math.sinh(15 / uneven.a)));
    expect(Math.hypot(carried, 7 * uneven.a)).toBeCloseTo(catenaryTension(uneven, 7, 30), 6);
  });

  it('hangs the same under any gravity, turned: as the line under plumb gravity turned by a quaternion', () => {
    fc.assert(
      fc.property(
        evenly(-2, 2),
        evenly(-2, 2),
        evenly(-2, 2),
        fc.double({ min: 1e-4, max: 20, noNaN: true }),
        evenly(-1, 1),
        evenly(-1, 1),
        evenly(0.1, 1),
        (x, y, z, slack, a, b, c) => {
          fc.pre(Math.hypot(x, z) > 0.2);
          const turn = new Quaternion(a, b, c, 0.6).normalize();
          const turned = (one: readonly number[]) =>
            new Vector3(...(one as [number, number, number])).applyQuaternion(turn);
          const [up, to] = [turned(UP), turned([x, y, z])];
          const span = spanBetween([0, 0, 0], [to.x, to.y, to.z], [up.x, up.y, up.z], { by: 'slack', slack });
          const line = new Float64Array(3 * span.steps + 3);
          writeSpan(span, [up.x, up.y, up.z], line, 0);
          const wanted = hangingLine([0, 0, 0], [x, y, z], slack, 0, 4000);
          const size = Math.hypot(x, y, z) * (1 + slack);
          for (let i = 0; i < line.length; i += 3) {
            let least = Infinity;
            for (let j = 0; j < wanted.length; j += 3)
              least = Math.min(least, three(line, i).distanceTo(turned([wanted[j], wanted[j + 1], wanted[j + 2]])));
            expect(least).toBeLessThan(1e-3 * size);
          }
          // chords are a little shorter than what they represent
          let far = 0;
          for (let i = 3; i < line.length; i += 3) far += three(line, i).distanceTo(three(line, i - 3));
          expect(far / size).toBeGreaterThan(0.99);
          expect(far / size).toBeLessThan(1 + 1e-6);
        },
      ),
      { numRuns: 60 },
    );
  });

  it('follows the parabola where it is flat, goes straight without slack, and down and up where its ends are plumb', () => {
    const flat = spanBetween([0, 0, 0], [10, 0, 0], UP, { by: 'sag', drop: 0.1 });
    expect(flat.line.length).toBeCloseTo(10 * (1 + (8 / 3) * 0.01 ** 2), 6);
    for (const slack of [0, 1e-4, 0.5, 20])
      for (const to of [
        [0, 2, 0],
        [0, -2, 0],
        [1e-9, 2, 0],
        [2, 0, 0],
      ] as [number, number, number][]) {
        const span = spanBetween([0, 0, 0], to, UP, { by: 'slack', slack });
        const line = new Float64Array(3 * span.steps + 3);
        writeSpan(span, UP, line, 0);
        expect(line.every(Number.isFinite)).toBe(true);
        expect([...line.subarray(-3)]).toEqual(to.map((value) => expect.closeTo(value, 9)));
        let [least, aside] = [0, 0];
        for (let i = 0; i < line.length; i += 3)
          [least, aside] = [Math.min(least, line[i + 1]), Math.max(aside, Math.abs(line[i + 2]))];
        expect(aside).toBe(0);
        if (slack === 20) expect(least).toBeLessThan(-18);
        if (slack === 0) expect(least).toBeGreaterThan(Math.min(0, to[1]) - 1e-9);
      }
  });
});

describe('what is connected', () => {
  it('goes by its order; one more anchor moves no other line, and each has the same id whichever order it comes by', () => {
    const counts = Object.fromEntries(
      ['picked', 'ring', 'near', 'each', 'chance'].map((order) => [
        order,
        string({ anchors: ROUND, order, reach: 100, links: 2 }).closed.length,
      ]),
    );
    expect(counts).toMatchObject({ picked: 6, ring: 7, near: 6, each: 21 });
    expect(counts['chance']).toBeGreaterThan(6);
    expect(counts['chance']).toBeLessThan(15);
    const near = string({ anchors: ROUND, order: 'near' });
    // from the first always the nearest that is left: by brute force
    const left = new Set(ROUND.slice(1).map(({ position }) => position));
    let here = ROUND[0].position;
    for (let c = 0; c < 6; c++) {
      const next = [...left].sort(
        (p, q) => Math.hypot(...p.map((v, k) => v - here[k])) - Math.hypot(...q.map((v, k) => v - here[k])),
      )[0];
      expect(ends(near, c)[1].toArray()).toEqual([...next]);
      left.delete(next);
      here = next;
    }
    const short = string({ anchors: ROUND, order: 'each', reach: 2.5 });
    for (let c = 0; c < short.closed.length; c++) expect(apart(short, c)).toBeLessThan(2.5);
    expect(short.closed.length).toBe(
      ROUND.flatMap((p, i) =>
        ROUND.slice(i + 1).filter((q) => Math.hypot(...p.position.map((v, k) => v - q.position[k])) <= 2.5),
      ).length,
    );
    for (const order of ['picked', 'each', 'chance']) {
      const [before, after] = [ROUND.slice(0, 6), ROUND].map((anchors) => string({ anchors, order, reach: 100 }));
      const whole = new Map(
        [...after.id].map((id, c) => [id, [...after.position.subarray(3 * after.start[c], 3 * after.start[c + 1])]]),
      );
      const stayed = [...before.id].filter((id) => whole.has(id));
      expect(stayed.length).toBeGreaterThanOrEqual(before.id.length - (order === 'chance' ? 2 : 0));
      before.id.forEach((id, c) => {
        if (whole.has(id))
          expect([...before.position.subarray(3 * before.start[c], 3 * before.start[c + 1])]).toEqual(whole.get(id));
      });
    }
    expect([...string({ anchors: ROUND.toReversed() }).id].sort()).toEqual([...string({ anchors: ROUND }).id].sort());
  });

  it('is held on tops, at the ends of arms, or where bodies are nearest; pairs of arms do not cross', () => {
    const cross = (x: number, turn: number) => {
      const [c, s] = [Math.cos(turn), Math.sin(turn)];
      const pole = sweep(singleCurve([x, 0, 0, x, 3, 0]), polygonSection(4), { radius: 0.05 });
      const arm = sweep(singleCurve([x - 0.6 * c, 2.8, -0.6 * s, x + 0.6 * c, 2.8, 0.6 * s]), polygonSection(4), {
        radius: 0.04,
      });
      const count = pole.position.length / 3;
      return Surface.of({
        position: Float32Array.of(...pole.position, ...arm.position),
        index: Uint32Array.of(...pole.index, ...arm.index.map((v) => v + count)),
      });
    };
    const surroundings = new Surroundings(
      new Map([
        ['a', cross(0, 1.5)],
        ['b', cross(4, 1.5 + Math.PI)],
        ['c', post(8, 0, 2)],
      ]),
    );
    const anchors = [prop('a'), prop('b'), prop('c')];
    const tops = string({ anchors }, { surroundings });
    expect(ends(tops, 0)[0].distanceTo(new Vector3(0, 3, 0))).toBeLessThan(1e-6);
    expect(ends(tops, 1)[1].distanceTo(new Vector3(8, 2, 0))).toBeLessThan(1e-6);
    const arms = string({ anchors: anchors.slice(0, 2), where: 'arms' }, { surroundings });
    expect(arms.closed.length).toBe(2);
    for (const c of [0, 1]) {
      const [p, q] = ends(arms, c);
      expect(Math.sign(p.z)).toBe(Math.sign(q.z));
      for (const end of [p, q]) {
        expect(Math.abs(end.z)).toBeGreaterThan(0.5);
        expect(end.y).toBeGreaterThan(2.8);
      }
    }
    const near = string({ anchors: anchors.slice(1), where: 'near' }, { surroundings });
    const [p, q] = ends(near, 0);
    const hit = createHit();
    surroundings.surface('c')!.closest(p.x, p.y, p.z, hit);
    expect(q.distanceTo(three(hit.point, 0))).toBeLessThan(1e-6);
    expect(q.x).toBeCloseTo(8 - 0.05 * Math.SQRT1_2, 2);
  });

  it('by hand: taken out, led elsewhere, added; all others stay to the bit, and what names nothing does nothing', () => {
    const lines = string({ anchors: ROUND });
    const change = (...changes: LinkChange[]) => string({ anchors: ROUND, changes });
    const idOf = (a: string, b: string) => childId(connectionId(key(a), key(b)), 0);
    const others = (set: CurveSet, without: number[]) =>
      [...set.id].flatMap((id, c) =>
        without.includes(id) ? [] : [[id, ...set.position.subarray(3 * set.start[c], 3 * set.start[c + 1])]],
      );
    const out = change({ from: key('p3'), to: key('p2'), how: 'out' });
    expect(others(out, [])).toEqual(others(lines, [idOf('p2', 'p3')]));
    const led = change({ from: key('p2'), to: key('p3'), how: 'led', instead: key('p6') });
    expect(others(led, [idOf('p2', 'p3')])).toEqual(others(lines, [idOf('p2', 'p3')]));
    const c = [...led.id].indexOf(idOf('p2', 'p3'));
    expect(ends(led, c).map((end) => end.toArray())).toEqual([[...ROUND[2].position], [...ROUND[6].position]]);
    expect([led.curveData['from'][c], led.curveData['to'][c]]).toEqual([key('p2'), key('p6')]);
    const added = change(
      { from: key('p0'), to: key('p4'), how: 'added' },
      { from: key('p0'), to: key('p1'), how: 'added' },
    );
    expect(others(added, [idOf('p0', 'p4')])).toEqual(others(lines, []));
    expect(added.id.length).toBe(7);
    expect(
      others(
        change(
          { from: 1, to: 2, how: 'out' },
          { from: key('p0'), to: 5, how: 'added' },
          { from: key('p0'), to: key('p1'), how: 'led', instead: 9 },
        ),
        [],
      ),
    ).toEqual(others(lines, []));
  });
});

describe('strands', () => {
  const many = Array.from({ length: 401 }, (_, k) => at(`m${k}`, [k, 3, 0.1 * (k % 3)]));

  it('stand side by side, lean with the wind alone, and hang by slack from least to most', () => {
    const set = { anchors: [at('a', [0, 2, 0]), at('b', [4, 2.5, 0])], strands: 5, spread: 0.1, slack: even(0.05) };
    const plain = string(set);
    const begins = [0, 1, 2, 3, 4].map((c) => ends(plain, c)[0].z).sort((a, b) => a - b);
    for (const [k, z] of begins.entries()) expect(z).toBeCloseTo(0.1 * (k - 2), 9);
    for (const [c, metres] of curveLengths(plain).entries())
      expect(metres / (apart(plain, c) * 1.05)).toBeCloseTo(1, 2);
    const blown = string({ ...set, strands: 1, lean: 0.5, wind: [0, 0, 1] });
    const middle = three(blown.position, 3 * Math.floor(blown.position.length / 6));
    const chord = new Vector3(middle.x, 2 + middle.x / 8, 0);
    // it hangs in the plane of gravity and wind: this far aside as it hangs down, times the tangent
    expect(middle.z / (chord.y - middle.y)).toBeCloseTo(Math.tan(0.5), 6);
    const loose = string({ anchors: many, slack: { least: 0.02, most: 0.1 } });
    const slacks = [...curveLengths(loose)].map((metres, c) => metres / apart(loose, c) - 1).sort((a, b) => a - b);
    expect([slacks[0], slacks[200], slacks[399]]).toEqual([
      expect.closeTo(0.02, 2),
      expect.closeTo(0.06, 1),
      expect.closeTo(0.1, 2),
    ]);
    expect(Math.abs(slacks.reduce((sum, one) => sum + one, 0) / 400 - 0.06)).toBeLessThan(
      (3 * 0.08) / Math.sqrt(12 * 400) + 1e-3,
    );
  });

  it('break and cross over as often as asked (three standard errors), the broken ones hanging plumb and no further than asked', () => {
    const set = { anchors: many, strands: 2, seed: 7 };
    const whole = string(set);
    const broken = string({ ...set, broken: 0.25, longestDrop: 0.6 });
    const knots = (lines: CurveSet, c: number) =>
      lines.pointData['knot'][lines.start[c]] + lines.pointData['knot'][lines.start[c + 1] - 1];
    const loose = [...broken.id.keys()].filter((c) => knots(broken, c) === 1);
    expect(Math.abs(loose.length - 200)).toBeLessThan(3 * Math.sqrt(800 * 0.25 * 0.75));
    let deepest = 0;
    for (const c of loose) {
      const [from, to] = ends(broken, c);
      const last = three(broken.position, 3 * broken.start[c + 1] - 6);
      expect(to.clone().sub(last).normalize().y).toBeLessThan(-0.98);
      deepest = Math.max(deepest, from.y - to.y);
    }
    expect(deepest).toBeLessThan(0.6);
    expect(deepest).toBeGreaterThan(0.45);
    // the others stay as they were
    const before = new Map(
      [...whole.id].map((id, c) => [id, whole.position.slice(3 * whole.start[c], 3 * whole.start[c + 1])]),
    );
    for (const c of broken.id.keys())
      if (!loose.includes(c))
        expect(broken.position.slice(3 * broken.start[c], 3 * broken.start[c + 1])).toEqual(before.get(broken.id[c]));
    const crossed = string({ ...set, crossing: 0.2 });
    const other = [...crossed.id.keys()].filter(
      (c) => ends(crossed, c)[1].distanceTo(ends(whole, [...whole.id].indexOf(crossed.id[c]))[1]) > 0.5,
    );
    expect(Math.abs(other.length - 160)).toBeLessThan(3 * Math.sqrt(800 * 0.2 * 0.8));
  });
});

describe('on and round bodies', () => {
  const crate = (y: number) =>
    Surface.of(sweep(singleCurve([1.5, y, 0, 2.5, y, 0]), polygonSection(4), { radius: 0.5 }));
  const set = { anchors: [at('a', [0, 1, 0.1]), at('b', [4, 1, 0.1])], slack: even(0.05) };

  it('a line lies on what it meets, is drawn up, left out or goes through: nothing of it is deeper than its skin, by brute force', () => {
    const surroundings = new Surroundings(new Map([['crate', crate(0.2)]]));
    const thickness = 0.02;
    const deepest = (lines: CurveSet) => {
      const hit = createHit();
      let least = Infinity;
      for (let i = 0; i + 3 < lines.position.length; i += 3)
        for (const t of [0, 0.5]) {
          const [x, y, z] = [0, 1, 2].map((k) => lines.position[i + k] * (1 - t) + lines.position[i + 3 + k] * t);
          least = Math.min(least, surroundings.signedDistance(x, y, z, hit, 10));
        }
      return least;
    };
    const line = (meets: string) => string({ ...set, meets }, { surroundings, thickness });
    expect(deepest(line('through'))).toBeLessThan(-0.05);
    expect(line('dropped').closed.length).toBe(0);
    const lies = line('lies');
    // eased over the edges of what it lies on by less than its skin
    expect(deepest(lies)).toBeGreaterThan(-0.01);
    expect(curveLengths(lies)[0]).toBeLessThan(4.3);
    // it hangs to where it begins to lie, and climbs no side of the crate
    for (let i = 3; i < lies.position.length; i += 3)
      expect(
        Math.abs(lies.position[i + 1] - lies.position[i - 2]) /
          Math.hypot(...[0, 1, 2].map((k) => lies.position[i + k] - lies.position[i - 3 + k])),
      ).toBeLessThan(0.9);
    const drawn = line('lifted');
    expect(deepest(drawn)).toBeGreaterThan(0);
    expect(curveLengths(drawn)[0]).toBeLessThan(curveLengths(line('through'))[0]);
    // over a crate that is above the straight way
    const tall = new Surroundings(new Map([['crate', crate(1)]]));
    for (const meets of ['lies', 'lifted']) {
      const over = string({ ...set, meets, slack: even(0.002) }, { surroundings: tall, thickness });
      let top = 0;
      for (let i = 1; i < over.position.length; i += 3) top = Math.max(top, over.position[i]);
      expect(top).toBeGreaterThan(1 + 0.5 * Math.SQRT1_2 - 0.02);
    }
    // a broken one ends where it meets the ground
    const short = string(
      { ...set, anchors: [at('a', [1.9, 1.2, 0]), at('b', [2.1, 4, 0])], broken: 1, longestDrop: 9, seed: 3 },
      { surroundings, thickness },
    );
    for (let i = 1; i < short.position.length; i += 3) expect(short.position[i]).toBeGreaterThan(0.2);
    // one that hangs down beside a wall is lifted off it, and is as long as it was
    const wall = new Surroundings(
      new Map([['wall', Surface.of(sweep(singleCurve([0, -2, 0, 0, 1, 0]), polygonSection(4), { radius: 0.3 }))]]),
    );
    const alone = {
      ...set,
      anchors: [at('a', [0.215, 0.9, 0]), at('b', [4, 3, 0])],
      broken: 1,
      longestDrop: 0.8,
      seed: 1,
    };
    const [free, beside] = [string(alone, { thickness }), string(alone, { surroundings: wall, thickness })];
    expect(beside.id).toEqual(free.id);
    expect(beside.position[0]).toBeLessThan(1);
    expect(curveLengths(beside)[0] / curveLengths(free)[0]).toBeCloseTo(1, 1);
    const hit = createHit();
    for (let i = 9; i < beside.position.length; i += 3)
      expect(
        wall.signedDistance(beside.position[i], beside.position[i + 1], beside.position[i + 2], hit, 9),
      ).toBeGreaterThan(0.9 * thickness);
  });

  it('follows a post that is moved: more is paid out, or it keeps its length and says when it is too short', () => {
    const reported: string[] = [];
    const anchors = [prop('a', [0, 0, 0]), prop('b', [0, 0, 0])];
    const strung = (by: Place, extra: Record<string, unknown> = {}) =>
      string(
        { anchors, slack: even(0.1), ...extra },
        {
          surroundings: new Surroundings(
            new Map([
              ['a', post(0, 0, 3)],
              ['b', post(3, 0, 2.5, by)],
            ]),
          ),
          reported,
        },
      );
    const [here, away] = [strung([0, 0, 0]), strung([1, 0, 0.5])];
    expect(away.id).toEqual(here.id);
    expect(ends(away, 0)[1].toArray()).toEqual([4, 2.5, 0.5].map((value) => expect.closeTo(value, 6)));
    for (const line of [here, away]) expect(curveLengths(line)[0] / apart(line, 0)).toBeCloseTo(1.1, 1);
    const kept = strung([0.2, 0, 0], { moves: 'kept' });
    expect(curveLengths(kept)[0] / curveLengths(here)[0]).toBeCloseTo(1, 2);
    expect(reported).toEqual([]);
    const tight = strung([1, 0, 0.5], { moves: 'kept' });
    expect(curveLengths(tight)[0] / apart(tight, 0)).toBeCloseTo(1, 3);
    expect(reported).toEqual(['overstretched']);
  });

  it('lines at random go by area and by the way faces look, keep within their span, and more of them move none', () => {
    const board = (y: number) => ({
      position: Float32Array.of(0, y, 0, 2, y, 0, 2, y, 1, 0, y, 1),
      index: Uint32Array.of(0, 2, 1, 0, 3, 2),
    });
    const surroundings = new Surroundings(
      new Map([
        ['a', Surface.of(board(0))],
        ['b', Surface.of({ ...board(1), index: Uint32Array.of(0, 1, 2, 0, 2, 3) })],
      ]),
    );
    const anchors = [prop('a'), prop('b')];
    const scatter = (extra: Record<string, unknown>, reported?: string[]) =>
      string({ anchors, fasten: 'scattered', meets: 'through', longest: 3, ...extra }, { surroundings, reported });
    const [some, more] = [scatter({ lines: 300 }), scatter({ lines: 600 })];
    expect(more.position.subarray(0, some.position.length)).toEqual(some.position);
    // from one body to the other, evenly over sixteen fields of one metre by a quarter: chi-square with 15 degrees of freedom, 0.1 %
    const fields = new Float64Array(16);
    for (let c = 0; c < more.closed.length; c++) {
      const [p, q] = ends(more, c);
      expect(Math.abs(p.y - q.y)).toBeCloseTo(1, 9);
      fields[(p.y > 0.5 ? 8 : 0) + 4 * Math.floor(p.x) + Math.floor(4 * p.z)]++;
    }
    const wanted = more.closed.length / 16;
    expect(fields.reduce((sum, n) => sum + (n - wanted) ** 2 / wanted, 0)).toBeLessThan(37.7);
    const own = scatter({ lines: 200, between: 'own', shortest: 0.5, longest: 0.8 });
    for (let c = 0; c < own.closed.length; c++) {
      expect(ends(own, c)[0].y).toBeCloseTo(ends(own, c)[1].y, 9);
      expect(Math.abs(apart(own, c) - 0.65)).toBeLessThan(0.15 + 1e-6);
    }
    const upwards = scatter({ lines: 50, between: 'any', to: 0.5 });
    for (let i = 0; i < upwards.closed.length; i++) expect(ends(upwards, i)[0].y).toBe(0);
    const reported: string[] = [];
    expect(
      scatter({ from: 1, to: 1.2 }, reported).closed.length +
        scatter({ shortest: 5, longest: 6 }, reported).closed.length,
    ).toBe(0);
    expect(reported).toEqual(['no-places', 'no-places']);
    const rabbit = new Surroundings(new Map([['a', Surface.of(bunnyMesh())]]));
    const grown = string(
      { anchors: [prop('a')], fasten: 'scattered', between: 'own', lines: 80, shortest: 0.01, longest: 0.06 },
      { surroundings: rabbit, thickness: 0.0005, reported },
    );
    expect(grown.closed.length).toBeGreaterThan(60);
    expect(reported.length).toBe(2);
  });

  it('reports what is asked for in vain, and hangs the rest', () => {
    const reported: string[] = [];
    const tell = (extra: Record<string, unknown>) => string({ anchors: ROUND, ...extra }, { reported }).closed.length;
    expect(tell({ anchors: [] }) + tell({ anchors: [ROUND[0]] })).toBe(0);
    expect(tell({ anchors: [ROUND[0], at('q', ROUND[0].position), ROUND[1]] })).toBe(1);
    expect(tell({ anchors: [...ROUND, prop('gone')] })).toBe(6);
    expect(tell({ by: 'pull', weight: 0 })).toBe(6);
    expect(tell({ order: 'each', reach: 100, strands: 200 })).toBe(4200);
    expect(tell({ fasten: 'scattered' })).toBe(0);
    expect(reported).toEqual([
      'anchors-few',
      'anchors-few',
      'anchors-together',
      'anchor-gone',
      'no-weight',
      'anchors-few',
    ]);
    const crowd = Array.from({ length: 150 }, (_, k) => at(`c${k}`, [k, 0, 0]));
    expect(tell({ anchors: crowd, order: 'each', reach: 1e4, strands: 3 })).toBe(19_998);
    expect(reported.at(-1)).toBe('too-many-lines');
    const host = Array.from({ length: 5000 }, (_, k) => at(`h${k}`, [k, 0, 0]));
    for (const order of ['chance', 'near']) expect(tell({ anchors: host, order, crossing: 0.5 })).toBeGreaterThan(1500);
    expect(reported.splice(-2)).toEqual(['too-many-lines', 'too-many-lines']);
    expect(tell({ anchors: host, crossing: 1, strands: 3 })).toBeGreaterThan(14_000);
    expect(newUse('path', 'strung').parameters['anchors']).toEqual([]);
    expect(tell({ slack: NONE, by: 'sag', sag: even(1e4) })).toBe(6);
  });
});

describe('across a line', () => {
  /** Two long walls, 2 m apart, and a line between them. */
  const long = (z: number) => Surface.of(sweep(singleCurve([-3, 0, z, 3, 0, z]), polygonSection(4), { radius: 0.4 }));
  const ravine = new Surroundings(
    new Map([
      ['left', long(-1.4)],
      ['right', long(1.4)],
    ]),
  );
  const between = (points: Place[]) => ({
    curves: new Map([['g', controls(points)]]),
    surroundings: ravine,
  });
  const guide = { fasten: 'guided', anchors: [{ on: 'curve', id: 'g' }], every: 0.5, slack: NONE, meets: 'through' };
  const spans = (
    set: object,
    points: Place[] = [
      [-2, 0, 0],
      [2, 0, 0.3],
    ],
    reported?: string[],
  ) => string({ ...guide, ...set }, { ...between(points), reported });

  it('lines go from wall to wall at even places, square to it; only the chosen walls count, and what is too far off does not', () => {
    const lines = spans({});
    expect(lines.id.length).toBe(8);
    for (let c = 0; c < 8; c++) {
      const [a, b] = ends(lines, c);
      // from one face to the other, 2 m across and square to the line
      expect(Math.abs(a.z - b.z)).toBeCloseTo(2, 1);
      expect(Math.abs((b.x - a.x) * 4 + (b.z - a.z) * 0.3)).toBeLessThan(0.05);
      const far = (0.25 + 0.5 * c) / Math.hypot(4, 0.3);
      // the middle of a crossing is not the guide, but on the way across it
      expect((a.x + 2) * 4 + a.z * 0.3).toBeCloseTo(far * (16 + 0.09), 3);
    }
    // as thick as it is it lies on both walls, between them
    const thick = string(
      { ...guide },
      {
        ...between([
          [-2, 0, 0],
          [2, 0, 0.3],
        ]),
        thickness: 0.05,
      },
    );
    expect(Math.abs(ends(thick, 3)[0].z - ends(thick, 3)[1].z)).toBeCloseTo(1.9, 1);
    const reported: string[] = [];
    expect(spans({ longest: 0.7 }, undefined, reported).id.length).toBe(0);
    expect(spans({ anchors: [...guide.anchors, prop('left')] }, undefined, reported).id.length).toBe(0);
    expect(spans({ anchors: [...guide.anchors, prop('left'), prop('right')] }, undefined, reported).id.length).toBe(8);
    expect(spans({ anchors: [prop('left')] }, undefined, reported).id.length).toBe(0);
    expect(reported).toEqual(['no-walls', 'no-walls', 'anchors-few']);
  });

  it('a longer line moves none of its crossings, and disorder leaves each near its place', () => {
    const [short, longer] = [
      spans({ disorder: 0.2 }),
      spans({ disorder: 0.2 }, [
        [-2, 0, 0],
        [2, 0, 0.3],
        [2.9, 0, 0.3675],
      ]),
    ];
    expect([...longer.id.subarray(0, 8)]).toEqual([...short.id]);
    const even = spans({});
    for (let c = 0; c < 8; c++) expect(ends(short, c)[0].distanceTo(ends(even, c)[0])).toBeLessThan(0.8);
    expect(ends(short, 2)[0].distanceTo(ends(even, 2)[0])).toBeGreaterThan(0.001);
  });

  it('a plumb guide has crossings too', () => {
    expect(
      spans({}, [
        [0, -0.2, 0],
        [0, 0.3, 0],
      ]).id.length,
    ).toBe(1);
  });
});

describe('clearance', () => {
  const flat = (y: number) =>
    Surface.of({
      position: Float32Array.of(-3, y, -3, 3, y, -3, 3, y, 3, -3, y, 3),
      index: Uint32Array.of(0, 2, 1, 0, 3, 2),
    });
  const over = new Surroundings(new Map([['floor', flat(0)]]));
  const ends = [at('a', [-1, 1, 0]), at('b', [1, 1, 0])];
  const sag = { by: 'sag', sag: even(0.4), meets: 'through' };

  it('is reported where a line hangs nearer to a prop than is asked, with how near; and not where it is clear', () => {
    const reported: { code: string; size?: { value: number } }[] = [];
    const report = (finding: (typeof reported)[number]) => reported.push(finding);
    const set = { anchors: ends, ...sag, clear: 0.7 };
    const near = string(set, { surroundings: over, thickness: 0.02, report } as never);
    // its lowest place is 0.6 m up, its skin 20 mm lower
    expect(reported.map(({ code }) => code)).toEqual(['too-near']);
    expect(reported[0].size?.value).toBeCloseTo(0.58, 2);
    expect(near.curveData['clear'][0]).toBeCloseTo(0.58, 2);
    string({ ...set, clear: 0.5 }, { surroundings: over, thickness: 0.02, report } as never);
    string({ ...set, clear: 0 }, { surroundings: over, thickness: 0.02, report } as never);
    expect(reported.length).toBe(1);
  });

  it('is reported between two lines, but not at an end where both are fastened', () => {
    const reported: string[] = [];
    const anchors = [at('a', [-1, 1, 0]), at('b', [1, 1, 0]), at('c', [-1, 1, 0.5])];
    string({ anchors, ...sag, clear: 0.1 }, { reported });
    expect(reported).toEqual([]);
    const crossing = [at('a', [-1, 1, 0]), at('b', [1, 1, 0]), at('c', [0, 1.02, -1]), at('d', [0, 1.02, 1])];
    const out = [{ from: key('b'), to: key('c'), how: 'out' }];
    const cross = { anchors: crossing, ...sag, changes: out, clear: 0.1 };
    string(cross, { reported });
    expect(reported).toEqual(['too-near']);
    // 20 mm from middle to middle, less both skins
    expect(string(cross, { thickness: 0.004 }).curveData['clear'][0]).toBeCloseTo(0.012, 3);
  });
});
