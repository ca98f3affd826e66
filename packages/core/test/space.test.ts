import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  createCache,
  createHit,
  evaluatePiece,
  HOME,
  type KelpDocument,
  type Placement,
  type Prop,
  polygonSection,
  roundSection,
  Surface,
  SurfaceStore,
  Surroundings,
  singleCurve,
  sweep,
  World,
} from '../src/index.js';
import { noReads } from '../src/surface/reads.js';
import { TriangleTree } from '../src/surface/triangle-tree.js';
import { bunnyMesh } from './helpers.js';
import { lyingOnBunny } from './projects.js';

const box = sweep(singleCurve([0, 0, 0, 0.3, 0, 0]), polygonSection(4), { radius: 0.1 });
const rod = sweep(singleCurve([0, 0, 0, 0, 0.4, 0.1]), roundSection(12), { radius: 0.03 });
const shapes = [Surface.of(box), Surface.of(rod)];
const coordinate = fc.integer({ min: -300, max: 300 }).map((value) => value / 100);
const placement = fc.record({
  position: fc.tuple(coordinate, coordinate, coordinate),
  rotation: fc.constantFrom<Placement['rotation']>(
    [0, 0, 0, 1],
    [0, Math.SQRT1_2, 0, Math.SQRT1_2],
    [0.5, 0.5, 0.5, 0.5],
  ),
  scale: fc.constantFrom(1, 0.5, 3),
});
const scene = fc
  .array(fc.tuple(fc.nat(1), placement), { maxLength: 24 })
  .map((props) => props.map(([shape, at]) => shapes[shape].at(at)));
const named = (surfaces: readonly Surface[]) =>
  new Surroundings(new Map(surfaces.map((surface, i) => [`p${i}`, surface])));

describe('one tree over all props', () => {
  it('finds what asking every prop in turn finds: the closest place, the first hit, the side', () => {
    fc.assert(
      fc.property(
        scene,
        coordinate,
        coordinate,
        coordinate,
        fc.constantFrom(Infinity, 1, 0.2),
        (surfaces, x, y, z, within) => {
          const all = named(surfaces);
          const hit = createHit();
          const found = all.closest(x, y, z, hit, within);
          const one = createHit();
          let best = within;
          for (const surface of surfaces) if (surface.closest(x, y, z, one, best)) best = one.distance;
          expect(found === undefined).toBe(best === within);
          if (found !== undefined) {
            expect(hit.distance).toBeCloseTo(best, 9);
            expect(Math.hypot(hit.point[0] - x, hit.point[1] - y, hit.point[2] - z)).toBeCloseTo(hit.distance, 6);
            // the same props in another order, asked before about something else: the same place
            const again = named([...surfaces].reverse());
            again.closest(-x, z, y, one);
            again.closest(x, y, z, one, within);
            expect(one.distance).toBeCloseTo(hit.distance, 12);
          }
          const direction = [0.3, -0.8, 0.5];
          const met = all.cast([x, y, z], direction, hit);
          let first = Infinity;
          for (const surface of surfaces)
            if (surface.cast([x, y, z], direction, one)) first = Math.min(first, one.distance);
          expect(met === undefined ? Infinity : hit.distance).toBeCloseTo(first, 9);
        },
      ),
      { numRuns: 150 },
    );
  });

  it('an answer never hangs on what was asked before: of places as near as each other, the lowest triangle', () => {
    const corner = fc.constantFrom(0, 0.1, -0.1, 0.2, 0.05);
    const tree = new TriangleTree(box);
    fc.assert(
      fc.property(fc.array(fc.tuple(corner, corner, corner), { minLength: 2, maxLength: 12 }), (places) => {
        const ask = ([x, y, z]: readonly number[]) => {
          tree.closest(x, y, z, Infinity);
          return { ...tree.found };
        };
        const once = places.map(ask);
        expect([...places].reverse().map(ask).reverse()).toEqual(once);
      }),
    );
  });

  it('what was read is a box: a prop that moves outside it leaves the key as it is, one that comes in does not', () => {
    const store = new SurfaceStore();
    store.add('box', box);
    const prop = (id: string, x: number): Prop => ({
      id,
      name: id,
      mesh: 'box',
      placement: { ...HOME, position: [x, 0, 0] },
      visible: true,
      colour: '#ffffff',
    });
    const key = (far: number) => {
      const surroundings = store.surroundings({ props: [prop('near', 0), prop('far', far)] });
      const reads = noReads();
      surroundings.recording(reads, () => surroundings.closest(0.1, 0.5, 0, createHit(), 10));
      // what was read in the first scene, answered in this one
      return { reads, of: (other: typeof reads) => surroundings.keyOf(other) };
    };
    const first = key(5);
    expect(key(50).of(first.reads)).toBe(first.of(first.reads));
    expect(key(0.4).of(first.reads)).not.toBe(first.of(first.reads));
  });
});

describe('a piece knows what it looked at', () => {
  const store = new SurfaceStore();
  store.add('bunny', bunnyMesh());
  store.add('box', box);
  const { document } = lyingOnBunny();
  const withBox = (x: number, y = 0.05): KelpDocument => ({
    ...document,
    props: [
      ...document.props,
      {
        id: 'box',
        name: 'Box',
        mesh: 'box',
        placement: { ...HOME, position: [x, y, 0] },
        visible: true,
        colour: '#ffffff',
      },
    ],
  });
  const compute = (made: string[], cache = createCache()) => {
    const reported = {
      ...cache,
      keep: ((piece, place, key, answers, make) =>
        cache.keep(piece, place, key, answers, (old) => {
          made.push(place);
          return make(old);
        })) as typeof cache.keep,
    };
    return (now: KelpDocument) => {
      made.length = 0;
      return evaluatePiece(new World(now, store.surroundings(now), reported), now.pieces[0]);
    };
  };

  it('moving another prop far away computes nothing; moving it to the line does, and gives what is made anew', () => {
    const made: string[] = [];
    const run = compute(made);
    run(withBox(50));
    run(withBox(51));
    expect(made).toEqual([]);
    const near = run(withBox(0, 0.12));
    expect(made).toContain('shape 0');
    expect(near.parts).toEqual(compute([])(withBox(0, 0.12)).parts);
    run(withBox(50));
    expect(run(withBox(50)).parts).toEqual(compute([])(withBox(50)).parts);
  });

  it('a name, a colour or a place in the list of a prop change nothing', () => {
    const made: string[] = [];
    const run = compute(made);
    run(withBox(50));
    const { props } = withBox(50);
    run({ ...withBox(50), props: props.map((prop) => ({ ...prop, name: 'Other', colour: '#000000' })).reverse() });
    expect(made).toEqual([]);
  });
});
