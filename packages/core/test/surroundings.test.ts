import fc from 'fast-check';
import { BoxGeometry, SphereGeometry } from 'three';
import { expect, it } from 'vitest';
import { createHit, Surface, Surroundings } from '../src/index.js';
import { noReads } from '../src/surface/reads.js';

// Many props against closed forms of a box: its distance (Ericson, Real-Time Collision Detection, 5.1.3) and where a ray
// meets it (slabs, 5.3.3). Whole numbers bring about ties.

type Place = [number, number, number];
interface Box {
  middle: Place;
  half: Place;
}

const whole = (min: number, max: number) => fc.integer({ min, max });
const box = fc.record({
  middle: fc.tuple(whole(-6, 6), whole(-6, 6), whole(-6, 6)),
  half: fc.tuple(whole(1, 2), whole(1, 2), whole(1, 2)),
});
const place = fc
  .tuple(whole(-20, 20), whole(-20, 20), whole(-20, 20))
  .map((at) => at.map((v) => v / 2 + 0.125) as Place);

const propsOf = (boxes: readonly Box[]) =>
  new Map(
    boxes.map(({ middle, half }, k) => {
      const geometry = new BoxGeometry(2 * half[0], 2 * half[1], 2 * half[2]).translate(...middle);
      const position = Float32Array.from(geometry.getAttribute('position').array);
      return [`box-${k}`, Surface.of({ position, index: Uint32Array.from(geometry.index!.array) })];
    }),
  );

/** Distance outside a box, negative inside. */
function outside({ middle, half }: Box, at: Place): number {
  const over = at.map((value, n) => Math.abs(value - middle[n]) - half[n]);
  return Math.hypot(...over.map((value) => Math.max(0, value))) + Math.min(0, Math.max(...over));
}

/** Where a ray first meets the skin of a box. */
function meets({ middle, half }: Box, from: Place, way: Place): number {
  const [enter, leave] = [[], []] as number[][];
  for (const n of [0, 1, 2]) {
    const ends = [-1, 1].map((side) => (middle[n] + side * half[n] - from[n]) / way[n]);
    enter.push(Math.min(...ends));
    leave.push(Math.max(...ends));
  }
  const [first, last] = [Math.max(...enter), Math.min(...leave)];
  return first > last || last < 0 ? Infinity : first >= 0 ? first : last;
}

/** The first of the least, and undefined where none is below the limit. */
function leastOf(values: readonly number[], below = Infinity): number | undefined {
  const least = Math.min(...values);
  return least < below ? values.findIndex((value) => value < least + 1e-6) : undefined;
}

const hit = createHit();

it('of many props the nearest is found, how far and on which side, whatever was asked before; of equals the first', () => {
  fc.assert(
    fc.property(
      fc.array(box, { minLength: 1, maxLength: 12 }),
      fc.array(fc.tuple(place, fc.constantFrom(Infinity, 0.5, 2, 5)), { minLength: 1, maxLength: 12 }),
      (boxes, asked) => {
        const on = new Surroundings(propsOf(boxes));
        for (const [at, within] of asked) {
          const far = boxes.map((one) => outside(one, at));
          const skin = far.map(Math.abs);
          const nearest = leastOf(skin, within);
          const id = on.closest(...at, hit, within);
          expect(id).toBe(nearest === undefined ? undefined : `box-${nearest}`);
          if (nearest === undefined) {
            expect(on.signedDistance(...at, hit, within)).toBe(Infinity);
            continue;
          }
          expect(hit.distance).toBeCloseTo(skin[nearest], 5);
          expect(Math.hypot(...at.map((value, n) => value - hit.point[n]))).toBeCloseTo(hit.distance, 5);
          expect(on.isBehind(`box-${nearest}`, ...at, hit)).toBe(far[nearest] < 0);
          expect(on.signedDistance(...at, hit, within)).toBeCloseTo(far[nearest], 5);
          // one prop alone, though another is nearer
          const last = boxes.length - 1;
          expect(on.closest(...at, hit, Infinity, `box-${last}`)).toBe(`box-${last}`);
          expect(hit.distance).toBeCloseTo(skin[last], 5);
          expect(on.closest(...at, hit, skin[last] / 2, `box-${last}`)).toBeUndefined();
          expect(on.signedDistance(...at, hit, Infinity, `box-${last}`)).toBeCloseTo(far[last], 5);
        }
        expect(on.closest(0, 0, 0, hit, Infinity, 'gone')).toBeUndefined();
      },
    ),
    { numRuns: 3000 },
  );
});

it('a ray meets the nearest of many props, of equals the first; a place is in a prop or in none', () => {
  const step = fc.constantFrom(-2, -1, -0.5, 0.5, 1, 2);
  fc.assert(
    fc.property(
      fc.array(box, { minLength: 1, maxLength: 12 }),
      place,
      fc.tuple(step, step, step),
      (boxes, at, toward) => {
        const on = new Surroundings(propsOf(boxes));
        const size = Math.hypot(...toward);
        const way = toward.map((value) => value / size) as Place;
        const met = boxes.map((one) => meets(one, at, way));
        const first = leastOf(met);
        const id = on.cast(at, way, hit);
        // a ray that grazes an edge meets it or does not
        fc.pre(boxes.every((one) => Math.abs(grazes(one, at, way)) > 1e-6));
        expect(id).toBe(first === undefined ? undefined : `box-${first}`);
        if (first !== undefined) expect(hit.distance).toBeCloseTo(met[first], 4);
        const inside = boxes.flatMap((one, k) => (outside(one, at) < 0 ? [`box-${k}`] : []));
        const reported = on.enclosing(...at);
        expect(inside.length === 0 ? reported === undefined : inside.includes(reported ?? '')).toBe(true);
      },
    ),
    { numRuns: 300 },
  );
});

/** How far the ray through a box stays in all its slabs; about 0 where it grazes an edge. */
function grazes({ middle, half }: Box, from: Place, way: Place): number {
  const ends = [0, 1, 2].map((n) => [-1, 1].map((side) => (middle[n] + side * half[n] - from[n]) / way[n]));
  return Math.min(...ends.map((pair) => Math.max(...pair))) - Math.max(...ends.map((pair) => Math.min(...pair)));
}

it('what was asked is known again by its key: it changes with every prop that may change an answer, and with no other', () => {
  fc.assert(
    fc.property(
      fc.array(box, { minLength: 2, maxLength: 8 }),
      place,
      fc.constantFrom<'closest' | 'only' | 'empty' | 'single' | 'cast' | 'enclosing'>(
        'closest',
        'only',
        'empty',
        'single',
        'cast',
        'enclosing',
      ),
      fc.nat(7),
      (boxes, at, question, which) => {
        const props = propsOf(boxes);
        const keys = new Map([...props.keys()].map((id) => [id, `as ${id} was`]));
        const changed = `box-${which % boxes.length}`;
        const reads = noReads();
        const answer = (on: Surroundings) => {
          if (question === 'closest') return on.closest(...at, hit, 3);
          if (question === 'only') return on.closest(...at, hit, Infinity, 'box-0');
          if (question === 'empty') return on.isEmpty;
          if (question === 'single') return on.only;
          if (question === 'cast') return on.cast(at, [1, 0, 0], hit);
          return on.enclosing(...at);
        };
        const before = new Surroundings(props, keys);
        const reported = before.recording(reads, () => answer(before));
        expect(before.keyOf(reads)).toBe(new Surroundings(propsOf(boxes), keys).keyOf(reads));
        const after = new Surroundings(props, new Map(keys).set(changed, 'otherwise'));
        const gone = new Map(props);
        gone.delete(changed);
        const without = new Surroundings(gone, keys);
        if (answer(without) !== reported) expect(without.keyOf(reads)).not.toBe(before.keyOf(reads));
        if (reported === changed) expect(after.keyOf(reads)).not.toBe(before.keyOf(reads));
        // a prop far beyond what was asked is not known by it
        const far = { middle: [500, 500, 500] as Place, half: [1, 1, 1] as Place };
        const wider = new Surroundings(new Map([...props, ['far', propsOf([far]).get('box-0')!]]), keys);
        if (question === 'closest' || question === 'only' || question === 'enclosing')
          expect(wider.keyOf(reads)).toBe(before.keyOf(reads));
      },
    ),
    { numRuns: 300 },
  );
});

it('the ball before a face touches it, is as large as fits, and has no prop within; what it hangs on is written down', () => {
  fc.assert(
    fc.property(
      fc.uniqueArray(box, { minLength: 1, maxLength: 6, selector: ({ middle }) => middle.join() }),
      (boxes) => {
        const around = new Surroundings(propsOf(boxes));
        const before = around.freeBefore('box-0')!;
        const most = Math.hypot(...boxes[0].half) / 2;
        const ball = new Float64Array(4);
        for (let face = 0; face < 12; face++) {
          const reads = noReads();
          around.recording(reads, () => before(face, ball));
          const middle: Place = [ball[0], ball[1], ball[2]];
          const gap = Math.min(...boxes.map((one) => outside(one, middle)));
          // another box may cover the face: then there is none
          if (ball[3] === 0) continue;
          expect(gap).toBeGreaterThanOrEqual(ball[3] - 1e-5);
          expect(outside(boxes[0], middle)).toBeCloseTo(Math.max(ball[3], outside(boxes[0], middle)), 5);
          expect(reads.box[0]).toBeLessThanOrEqual(ball[0] - ball[3]);
          // alone it is as large as may be, and lies on its face
          if (boxes.length > 1) continue;
          expect(ball[3]).toBeCloseTo(most, 5);
          expect(gap).toBeCloseTo(ball[3], 5);
        }
        before(12, ball);
        expect([...ball]).toEqual([0, 0, 0, 0]);
      },
    ),
    { numRuns: 60 },
  );
  // in a round bowl it is nearly as round: facets around it cut off a little
  const bowl = new SphereGeometry(1, 64, 48).scale(-1, 1, 1);
  const inner = Surface.of({
    position: Float32Array.from(bowl.getAttribute('position').array),
    index: Uint32Array.from(bowl.index!.array),
  });
  const ball = new Float64Array(4);
  new Surroundings(new Map([['bowl', inner]])).freeBefore('bowl')!(3000, ball);
  expect(ball[3]).toBeGreaterThan(0.6);
});
