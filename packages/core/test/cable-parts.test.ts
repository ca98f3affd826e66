import { describe, expect, it } from 'vitest';
import { newUse, signedVolume, singleCurve } from '../src/index.js';
import { baredEnds } from '../src/make/cable/bared.js';
import type { Cable } from '../src/make/cable/course.js';
import { jacketOf, reportRibs, ribsAt } from '../src/make/cable/jacket.js';
import { PLUGS, plugShape, plugVertices } from '../src/make/cable/plug-shapes.js';
import { topologyOf } from '../src/mesh/weld.js';
import type { Finding } from '../src/unit/finding.js';

// What a cable is put together from, by hand.

const numbers = (set: Partial<Cable>) =>
  ({ ...newUse('make', 'cable').parameters, radius: 0.01, sides: 16, ...set }) as Cable;

describe('a jacket', () => {
  const jacket = (set: Partial<Cable>, density = 1) => jacketOf(numbers(set), density);

  it('says how flat it is, how far its skin is from its middle at least, and whether it is round', () => {
    const reported = (set: Partial<Cable>) => {
      const { flatness, least, isRound, outline, size } = jacket(set).steered;
      return [flatness, least, isRound, outline === undefined, size];
    };
    expect(reported({})).toEqual([1, 1, true, true, 0.01]);
    expect(reported({ section: 'box', width: 3 })).toEqual([3, 1, false, false, 0.01]);
    expect(reported({ section: 'box', width: 0.25 })).toEqual([4, 0.25, false, false, 0.01]);
    // the middle of a face of a hexagon on a circle of 1
    expect(reported({ section: 'polygon', sides: 6 })).toEqual(
      [1, Math.sqrt(3) / 2, false, false, 0.01].map((one) => (typeof one === 'number' ? expect.closeTo(one, 12) : one)),
    );
    expect(jacket({ sides: 15 }).steered.section.x.length).toBe(16);
    for (const [density, places] of [
      [0.5, 8],
      [0.3, 4],
      [2, 30],
    ])
      expect(jacket({ sides: 15 }, density).steered.section.x.length).toBe(places + 1);
    // a box keeps its faces, and has finer corners
    expect(jacket({ section: 'box', width: 2, rounding: 0.5 }, 2).steered.section.x.length).toBeGreaterThan(
      jacket({ section: 'box', width: 2, rounding: 0.5 }).steered.section.x.length,
    );
  });

  it('has rings as waves along it, or one rib that winds once in each wave; none where they would be mush', () => {
    const ribbed = { wave: 0.8, depth: 0.2 };
    expect(jacket({ ...ribbed, ribs: 'rings' }).steered.ripple).toEqual({ wave: 0.008, depth: 0.2 });
    expect(jacket({ ...ribbed, ribs: 'none' }).steered.ripple).toBeUndefined();
    const wound = jacket({ ...ribbed, ribs: 'screw', twist: 3 });
    expect(wound.steering.twist).toBeCloseTo(3 + 1 / 0.008, 9);
    expect(wound.steered.least).toBe(0.8);
    const far = wound.steered.section.x.map((x, k) => Math.hypot(x, wound.steered.section.y[k]));
    expect([Math.max(...far), Math.min(...far)]).toEqual([expect.closeTo(1, 9), expect.closeTo(0.8, 9)]);
    expect(far.length).toBeGreaterThanOrEqual(24);
    expect(jacket({ ...ribbed, ribs: 'screw', twist: 3, section: 'box' }).steering.twist).toBe(3);
    const lane = {
      ease: 'straight' as const,
      knots: [
        { at: 0, value: 0 },
        { at: 1, value: 2 },
      ],
    };
    expect(jacket({ ...ribbed, ribs: 'screw', twist: lane }).steering.twist).toMatchObject({
      knots: [{ value: 125 }, { value: 127 }],
    });
    for (const [set, density, made] of [
      [{ ribs: 'rings', depth: 0.2 }, 0.44, 'none'],
      [{ ribs: 'rings', depth: 0.2 }, 0.45, 'rings'],
      [{ ribs: 'screw', depth: 0 }, 1, 'none'],
    ] as const)
      expect(ribsAt(set, density)).toBe(made);
    const reported = (set: Partial<Cable>, density: number) => {
      const codes: string[] = [];
      reportRibs(numbers({ depth: 0.2, ...set }), {
        density,
        report: ({ code }: Finding) => codes.push(code),
      } as never);
      return codes;
    };
    expect(reported({ ribs: 'rings' }, 1)).toEqual([]);
    expect(reported({ ribs: 'rings' }, 0.3)).toEqual(['ribs-smooth']);
    expect(reported({ ribs: 'rings', depth: 0 }, 0.3)).toEqual([]);
    expect(reported({ ribs: 'none' }, 0.3)).toEqual([]);
    expect(reported({ ribs: 'screw', section: 'box' }, 1)).toEqual(['ribs-round']);
    expect(reported({ ribs: 'rings', section: 'box' }, 1)).toEqual([]);
  });
});

describe('plugs', () => {
  const KINDS = ['round', 'flat', 'ring', 'gland'] as const;
  it.each(KINDS)(
    '%s: begins where the cable comes in, ends at its face, is shut and outside out, with a place on its skin for the lamp',
    (kind) => {
      const { body, metal } = plugShape(kind, 16);
      let [first, last, reach, up] = [Infinity, -Infinity, 0, 0];
      const [at, far] = PLUGS[kind].lamp;
      for (const mesh of [body, ...(metal ? [metal] : [])]) {
        expect(topologyOf(mesh)).toMatchObject({ openEdges: 0 });
        expect(signedVolume(mesh)).toBeGreaterThan(0);
        for (let i = 0; i < mesh.position.length; i += 3) {
          first = Math.min(first, mesh.position[i + 2]);
          last = Math.max(last, mesh.position[i + 2]);
          reach = Math.max(reach, Math.hypot(mesh.position[i], mesh.position[i + 1]));
        }
      }
      // the skin at the lamp: the highest of what is on either side of it
      const skin = (side: number) => {
        let best = 0;
        for (let i = 0; i < body.position.length; i += 3)
          if (side * (body.position[i + 2] - at) >= 0) best = Math.max(best, body.position[i]);
        return best;
      };
      up = Math.min(skin(1), skin(-1));
      expect(Math.abs(first)).toBeLessThan(0.02);
      expect(Math.abs(last - PLUGS[kind].length)).toBeLessThan(0.21);
      expect(reach).toBeLessThan(4);
      expect(Math.abs(far - up)).toBeLessThan(0.4);
      expect(plugShape(kind, 17)).toBe(plugShape(kind, 18));
      expect(plugShape(kind, 3)).toBe(plugShape(kind, 8));
      expect(plugVertices(kind, 16)).toBe((body.position.length + (metal?.position.length ?? 0)) / 3);
      expect(plugVertices(kind, 32)).toBeGreaterThan(plugVertices(kind, 16));
    },
  );
  it('none has nothing; a prop counts as much as a gland', () => {
    expect([plugVertices('none', 16), plugVertices('own', 16)]).toEqual([0, plugVertices('gland', 16)]);
  });
});

describe('what is bared', () => {
  const SIZE = 0.01;
  const line = singleCurve([0, 0, 0, 1, 0, 0], { id: 3 });
  const bared = (set: Partial<Cable>) =>
    baredEnds(line, numbers({ bared: 'both', cores: 3, coreLength: 8, coreSpread: 0.5, tips: 3, ...set }), SIZE);
  const ends = ({ position, start }: ReturnType<typeof bared>['jackets']) => [
    position[3 * start[0]],
    position[3 * start[1] - 3],
  ];

  it('is cut back at the ends that are asked for, by this many half thicknesses', () => {
    const wanted = { start: [0.08, 1], end: [0, 0.92], both: [0.08, 0.92] } as const;
    for (const [which, [from, to]] of Object.entries(wanted)) {
      const { jackets, cores, tips } = bared({ bared: which } as Partial<Cable>);
      expect(ends(jackets)).toEqual([expect.closeTo(from, 6), expect.closeTo(to, 6)]);
      expect(cores.curves.closed.length).toBe(which === 'both' ? 6 : 3);
      expect(tips.curves.closed.length).toBe(which === 'both' ? 6 : 3);
    }
    // a short line keeps a fifth of its jacket
    expect(ends(bared({ coreLength: 90 }).jackets)).toEqual([expect.closeTo(0.4, 6), expect.closeTo(0.6, 6)]);
  });

  it('cores begin inside the jacket and end where the line did, spread by the square of how far they are out; tips are metal', () => {
    const { cores, tips } = bared({ bared: 'start' });
    // three cores in a ring touch: 2/√3 of one's radius from the middle; all three fill 80 % of the jacket
    const one = (0.8 * SIZE) / (1 + 2 / Math.sqrt(3));
    for (let k = 0; k < 3; k++) {
      const { position, start } = cores.curves;
      const points = Array.from({ length: start[k + 1] - start[k] }, (_, q) =>
        Array.from(position.subarray(3 * (start[k] + q), 3 * (start[k] + q) + 3)),
      );
      expect(points[0][0]).toBeCloseTo(0.08 + 1.5 * SIZE, 6);
      for (const [x, y, z] of points) {
        const out = Math.max(0, 1 - x / 0.08);
        expect(Math.hypot(y, z)).toBeCloseTo((2 / Math.sqrt(3)) * one * (1 + 0.5 * out * out), 4);
      }
      for (let q = start[k]; q < start[k + 1]; q++) expect(cores.radius[q]).toBeCloseTo(one, 4);
      const tip = Array.from(tips.curves.position.subarray(3 * tips.curves.start[k], 3 * tips.curves.start[k + 1]));
      expect(tip.at(-3)).toBeCloseTo(0, 6);
      expect(tip[0]).toBeLessThan(0.05);
      expect(tip[0]).toBeGreaterThan(0.025);
      for (let q = tips.curves.start[k]; q < tips.curves.start[k + 1]; q++)
        expect(tips.radius[q]).toBeCloseTo(0.6 * one, 4);
    }
    expect(bared({ tips: 0 }).tips.curves.closed.length).toBe(0);
  });
});
