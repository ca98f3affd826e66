import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { weightIn } from '../src/document/region-weight.js';
import {
  createCache,
  curveLengths,
  evaluatePiece,
  type KelpDocument,
  type Mesh,
  newPiece,
  newUse,
  type ParameterValues,
  type Piece,
  type Region,
  Surroundings,
  signedVolume,
  topologyOf,
  World,
} from '../src/index.js';
import { ringOf } from '../src/make/laid/packing.js';
import { pairsOf, touching } from '../src/make/laid/touch.js';
import { evenly } from './helpers.js';
import { alongPoints } from './projects.js';

// What bundles of strands have in common, however they are laid: braids, ends, life, views, regions, figures.

type Place = [number, number, number];
const R = 0.01;
const STRAIGHT: Place[] = [
  [0, 0, 0],
  [0.1, 0, 0],
  [0.2, 0, 0],
];
const BENT: Place[] = [
  [0, 0, 0],
  [0.07, 0.02, 0.01],
  [0.14, 0.01, -0.02],
  [0.2, 0, 0],
];
const THREE = [{ count: 3, filling: 'hollow', hand: 'z', lay: 3.5, by: 'thickness' }];

function made(
  unit: string,
  points: readonly Place[],
  change: ParameterValues,
  regions: Region[] = [],
  more?: (document: KelpDocument, piece: Piece) => void,
) {
  const { document, piece } = alongPoints(points, (one) => {
    one.make = newUse('make', unit);
    Object.assign(one.make.parameters, { radius: R, ...(unit === 'laid' ? { levels: THREE } : {}), ...change });
  });
  document.regions.push(...regions);
  more?.(document, piece);
  const built = evaluatePiece(new World(document, new Surroundings(new Map())), piece);
  const [body] = built.made.bodies;
  const mesh = (id: string) =>
    built.parts.flatMap((part) => (part.kind === 'mesh' && part.id.startsWith(id) ? [part.mesh] : []))[0] as Mesh;
  const codes = built.findings.map(({ code }) => code);
  return { ...built, curves: body?.curves, radius: body?.section.radius, mesh, codes };
}
type Bundle = ReturnType<typeof made>;

const at = (curves: { position: ArrayLike<number> }, p: number): Place =>
  [0, 1, 2].map((n) => curves.position[3 * p + n]) as Place;
const apart = (a: Place, b: Place) => Math.hypot(a[0] - b[0], a[1] - b[1], a[2] - b[2]);

/** Least distance of two strands over the sum of their radii, by trying every point of one against every step of the other beside it. */
function nearest({ curves, radius }: Bundle, a: number, b: number, window = 60): number {
  const { start } = curves;
  let least = Infinity;
  for (let p = start[a] + 5; p < start[a + 1] - 5; p++) {
    const here = at(curves, p);
    const middle = start[b] + p - start[a];
    for (let q = Math.max(start[b], middle - window); q < Math.min(start[b + 1] - 1, middle + window); q++) {
      const [from, to] = [at(curves, q), at(curves, q + 1)];
      const step = to.map((v, n) => v - from[n]);
      const dot = step.reduce((sum, v, n) => sum + v * (here[n] - from[n]), 0);
      const t = Math.max(0, Math.min(1, dot / step.reduce((sum, v) => sum + v * v, 0)));
      const on = from.map((v, n) => v + t * step[n]) as Place;
      least = Math.min(least, apart(here, on) / (radius[p] + radius[q]));
    }
  }
  return least;
}

describe('a braid', () => {
  it.each([
    ['of 4, one by one', { carriers: 4, over: 'one', lay: 3 }],
    ['of 8, one by one', { carriers: 8, over: 'one', lay: 2.6 }],
    ['of 12, two by two', { carriers: 12, over: 'two', lay: 3 }],
    ['of 16, steep', { carriers: 16, over: 'two', lay: 2 }],
    ['thinner than would fit', { carriers: 8, over: 'two', lay: 3, scale: 0.7 }],
    ['flat, of 3', { form: 'flat', across: 3, lay: 2.8 }],
    ['flat, of 4', { form: 'flat', across: 4, lay: 3 }],
    ['flat, of 7', { form: 'flat', across: 7, lay: 3.2 }],
  ])('%s: crossing strands touch, and no two cut, by trying all of their points', (_name, change) => {
    const braid = made(
      'braid',
      [
        [0, 0, 0],
        [0.05, 0, 0],
        [0.1, 0, 0],
      ],
      { ...change, core: 'hollow', places: 12 },
    );
    const count = braid.curves.closed.length;
    const tube = !('form' in change);
    for (let b = 1; b < count; b++) {
      const near = nearest(braid, 0, b, tube ? 30 : 60);
      expect(near, `0 and ${b}`).toBeGreaterThan(0.99);
      // those that go the other way cross it; of a band, all do
      if (tube ? b >= count / 2 : true) expect(near, `0 and ${b}`).toBeLessThan(1.01);
    }
    expect(braid.findings).toEqual([]);
  });

  it('goes over and under by turns: over one, or over two', () => {
    for (const [over, run] of [
      ['one', 1],
      ['two', 2],
    ] as const) {
      const braid = made('braid', STRAIGHT, { carriers: 8, over, lay: 3, core: 'hollow', places: 10 });
      const { start } = braid.curves;
      // at each crossing of strand 0 with one that goes the other way: is it farther out?
      const signs: { x: number; up: boolean }[] = [];
      for (let b = 4; b < 8; b++)
        for (let k = 1; k < start[1]; k++) {
          const turn = (p: number) => Math.atan2(braid.curves.position[3 * p + 2], braid.curves.position[3 * p + 1]);
          const gap = (n: number) => Math.sin(turn(n) - turn(start[b] + n));
          const near = Math.cos(turn(k) - turn(start[b] + k)) > 0;
          if (near && gap(k - 1) * gap(k) < 0)
            signs.push({
              x: at(braid.curves, k)[0],
              up: Math.hypot(...at(braid.curves, k).slice(1)) > Math.hypot(...at(braid.curves, start[b] + k).slice(1)),
            });
        }
      const ups = signs.sort((a, b) => a.x - b.x).map(({ up }) => up);
      const runs = ups
        .join()
        .match(/true(,true)*|false(,false)*/g)
        ?.slice(1, -1)
        .map((all) => all.split(',').length);
      expect(runs?.length).toBeGreaterThan(5);
      expect(new Set(runs)).toEqual(new Set([run]));
    }
  });

  it('cuts nowhere on bends and over a core that grows; its core touches it', () => {
    const radius = {
      ease: 'smooth' as const,
      knots: [
        { at: 0, value: 0.006 },
        { at: 1, value: 0.01 },
      ],
    };
    const braid = made('braid', BENT, { radius, carriers: 8, over: 'two', lay: 3, core: 'core' });
    expect(braid.codes).not.toContain('strands-cut');
    expect(Math.abs(nearest(braid, 0, 8) - 1)).toBeLessThan(0.04);
  });

  it('of a closed line closes, in every weave', () => {
    const ring: Place[] = [
      [0, 0, 0],
      [0.1, 0, 0],
      [0.1, 0, 0.1],
      [0, 0, 0.1],
    ];
    for (const change of [
      { carriers: 6, over: 'one' },
      { carriers: 8, over: 'two' },
      { form: 'flat', across: 5 },
    ] as ParameterValues[]) {
      const { curves } = made('braid', ring, change, [], (document) => {
        document.curves[0].closed = true;
      });
      for (let c = 0; c < curves.closed.length; c++) {
        const [first, last] = [curves.start[c], curves.start[c + 1] - 1];
        expect(
          apart(at(curves, last), at(curves, first)) / apart(at(curves, first), at(curves, first + 1)),
        ).toBeLessThan(1.6);
      }
    }
  });
});

describe('strands that touch', () => {
  it('have the pitch angles of zero-twist ropes: 39.4°, 42.8°, 43.8° (Bohr and Olsen, EPL 93, 2011; from memory)', () => {
    for (const [count, angle] of [
      [2, 39.4],
      [3, 42.8],
      [4, 43.8],
    ]) {
      const packing = ringOf(count);
      let [best, most] = [0, 0];
      for (let pitch = 2; pitch < 12; pitch *= 1.002) {
        const { radius } = touching(packing, pairsOf(packing), pitch, 'least');
        const ring = 1 - radius[0];
        const turn = Math.atan2(pitch, 2 * Math.PI * ring);
        // turns on a length of strand, in strand thicknesses: at most where pulling it turns it neither way
        const turns = (Math.cos(turn) * radius[0]) / ring;
        if (turns > most) [best, most] = [turn, turns];
      }
      expect((180 * best) / Math.PI).toBeCloseTo(angle, 0);
    }
  });

  it('touch on the axis, two of them, from 45° on, and no longer when laid more steeply (Olsen and Bohr, 2010; from memory)', () => {
    const two = ringOf(2);
    for (let pitch = 1.5; pitch < 20; pitch *= 1.1) {
      const { radius } = touching(two, pairsOf(two), pitch, 'least');
      const ring = 1 - radius[0];
      if (Math.atan2(pitch, 2 * Math.PI * ring) > Math.PI / 4) expect(radius[0] / ring).toBeCloseTo(1, 4);
      else expect(radius[0] / ring).toBeLessThan(1 - 1e-5);
    }
  });

  it('of wire are a third and a fifth of their strand, laid long (geometry)', () => {
    for (const [count, share] of [
      [7, 3],
      [19, 4.8637],
    ]) {
      const levels = [{ count, filling: 'filled', hand: 'z', lay: 200, by: 'thickness' }];
      expect(R / made('laid', STRAIGHT, { levels }).radius[0]).toBeCloseTo(share, 2);
    }
  });

  it('weigh their tex: grammes on a kilometre (ISO 2947), denier on nine (ISO 1144)', () => {
    const [tex, density] = [940, 1.14];
    const thick = 2 * Math.sqrt((tex * 1e-6) / (Math.PI * density * 1000));
    const one = made('laid', STRAIGHT, { radius: thick / 2, levels: [{ ...THREE[0], count: 1 }], density });
    const mass = one.made.measures.find(({ id }) => id === 'mass')?.value ?? 0;
    expect(((mass * 1000) / 0.2) * 1000).toBeCloseTo(tex, 1);
    expect(((mass * 1000) / 0.2) * 9000).toBeCloseTo(9 * tex, 0);
  });

  it('fill of their bundle what areas say: seven ninths of a wire of seven', () => {
    const levels = [{ count: 7, filling: 'filled', hand: 'z', lay: 200, by: 'thickness' }];
    expect(made('laid', STRAIGHT, { levels }).made.measures.find(({ id }) => id === 'filled')?.value).toBeCloseTo(
      7 / 9,
      2,
    );
  });

  it('are counted as turns in all, as turns a metre, and grow no thicker by what is drawn unless asked', () => {
    const inAll = made('laid', STRAIGHT, { levels: [{ ...THREE[0], lay: 4, by: 'turns' }] });
    const lay = made('laid', STRAIGHT, { levels: [{ ...THREE[0], lay: 2.5 }] });
    expect(inAll.radius[0]).toBeCloseTo(lay.radius[0], 5);
    const twisted = (twist: number, twistBy: string) =>
      made('laid', STRAIGHT, { levels: [{ ...THREE[0], lay: 9000 }], twist, twistBy });
    expect(twisted(2, 'whole').radius[0]).toBeCloseTo(twisted(10, 'metre').radius[0], 5);
    const thicker = (fit: string) =>
      made('laid', STRAIGHT, { fit }, [], (document) => {
        document.curves[0].points[2].radius = 0.5;
      });
    const [bundle, own] = [thicker('least'), thicker('drawn')];
    const last = bundle.curves.start[1] - 1;
    expect(bundle.radius[last] / bundle.radius[0]).toBeCloseTo(0.5, 2);
    expect(own.radius[own.curves.start[1] - 1] / own.radius[0]).toBeCloseTo(0.5, 2);
    const out = ({ curves }: Bundle, p: number) => Math.hypot(...at(curves, p).slice(1));
    expect(out(bundle, last) / out(bundle, 0)).toBeCloseTo(0.5, 2);
    expect(out(own, own.curves.start[1] - 1) / out(own, 0)).toBeCloseTo(1, 2);
  });
});

describe('ends', () => {
  const lines = (change: ParameterValues) => {
    const { mesh, made: whole } = made('laid', STRAIGHT, { end: 'frayed', endOver: 2, ...change });
    return { position: mesh('strands').position, kept: whole.bodies[0].curves, mesh: mesh('strands') };
  };
  it('that come loose lean out, each its own way, no longer than they were, and are closed again when they open by nothing', () => {
    const [cut, closed, loose] = ([{ end: 'round' }, { endOpening: 0 }, {}] as ParameterValues[]).map(lines);
    expect([...closed.position]).toEqual([...cut.position]);
    let [changed, far] = [0, 0];
    for (let v = 0; v < cut.position.length / 3; v++) {
      const moved = Math.hypot(...[0, 1, 2].map((n) => cut.position[3 * v + n] - loose.position[3 * v + n]));
      // it is held until four bundle radii before its end
      if (cut.position[3 * v] < 0.2 - 4.3 * R && loose.position[3 * v] < 0.2 - 4.3 * R)
        expect(moved).toBeLessThan(1e-4);
      else changed++;
      far = Math.max(far, Math.hypot(loose.position[3 * v + 1], loose.position[3 * v + 2]));
    }
    expect(changed).toBeGreaterThan(100);
    expect(far).toBeGreaterThan(1.5 * R);
    // what the checks look at ends where it comes loose
    expect(
      Math.max(...Array.from({ length: loose.kept.position.length / 3 }, (_, p) => loose.kept.position[3 * p])),
    ).toBeLessThan(0.2 - 3.9 * R);
  });

  it('curl by the angle that is asked, and are cut unevenly', () => {
    const direction = (endCurl: number) => {
      const { mesh } = lines({ endCurl, endUnlike: 0, endUneven: 0, endWave: 0, endOpening: 0.4, endCurlRadius: 0.4 });
      // the last ring of a strand faces along its tip
      const rings = mesh.position.length / 3;
      let [tip, up] = [0, 0];
      for (let v = 0; v < rings; v++) if (mesh.position[3 * v] > tip) [tip, up] = [mesh.position[3 * v], v];
      return [mesh.normal[3 * up], tip];
    };
    expect(direction(0)[1]).toBeGreaterThan(direction(1.2)[1]);
    const ends = (endUneven: number) => {
      const { position } = lines({ endUneven, endOpening: 0.3 });
      return position.reduce((sum, value, i) => (i % 3 === 0 && value > 0.18 ? sum + 1 : sum), 0);
    };
    expect(ends(0.9)).toBeLessThan(ends(0));
  });

  it('are whipped by twine that lies on the bundle and does not cut itself, or sealed by a cap that covers every strand', () => {
    const whipped = made('laid', STRAIGHT, { start: 'whipped', startOver: 1.5, twine: 0.1 });
    const twine = whipped.mesh('whipping').position;
    for (let v = 0; v < twine.length / 3; v++) {
      const far = Math.hypot(twine[3 * v + 1], twine[3 * v + 2]);
      expect(far).toBeLessThan(1.21 * R);
      expect(twine[3 * v] > 0 && twine[3 * v] < 3.2 * R).toBe(true);
    }
    // at both ends of a line that winds it stays on it
    for (const end of ['start', 'end']) {
      const bent = made('laid', BENT, { [end]: 'whipped', [`${end}Over`]: 3 });
      const { position } = bent.mesh('whipping');
      for (let v = 0; v < position.length / 3; v += 5) {
        let near = Infinity;
        for (let p = 0; p < bent.radius.length; p++)
          near = Math.min(near, apart(at({ position }, v), at(bent.curves, p)));
        expect(near, end).toBeLessThan(1.1 * R);
      }
    }
    const seal = made('laid', STRAIGHT, { end: 'sealed', endOver: 0.8 });
    const [cap, strands] = [seal.mesh('seal').position, seal.mesh('strands').position];
    const top = Math.max(...cap.filter((_, i) => i % 3 === 0));
    expect(top).toBeGreaterThan(Math.max(...strands.filter((_, i) => i % 3 === 0)));
    const wide = Array.from({ length: cap.length / 3 }, (_, v) => Math.hypot(cap[3 * v + 1], cap[3 * v + 2]));
    expect(Math.max(...wide)).toBeCloseTo(1.08 * R, 5);
    for (let v = 0; v < strands.length / 3; v++)
      if (strands[3 * v] > 0.2 - 1e-6) {
        const [from, over] = [0.2 - 0.32 * R, 1.08 * R];
        expect(Math.hypot(strands[3 * v + 1], strands[3 * v + 2], strands[3 * v] - from)).toBeLessThan(over * 1.001);
      }
  });
});

describe('life', () => {
  it('adds stray fibres without moving the others, on their strands, as long as asked', () => {
    const fuzz = (change: ParameterValues) => {
      const part = made('laid', STRAIGHT, { fuzz: 2, ...change }).parts.find(({ id }) => id === 'fuzz');
      if (part?.kind !== 'strands') throw new Error('Stray fibres are lines');
      return part.curves;
    };
    const [few, many] = [fuzz({}), fuzz({ fuzz: 5 })];
    const where = new Map(Array.from(many.id, (id, c) => [id, c]));
    expect(many.id.length).toBeGreaterThan(1.5 * few.id.length);
    few.id.forEach((id, c) => {
      const other = where.get(id) ?? -1;
      expect(apart(at(few, few.start[c]), at(many, many.start[other]))).toBe(0);
      expect(apart(at(few, few.start[c + 1] - 1), at(many, many.start[other + 1] - 1))).toBe(0);
      const root = at(few, few.start[c]);
      expect(Math.hypot(root[1], root[2])).toBeLessThan(R);
    });
    // loops come back
    const loops = fuzz({ loops: 1, flyaways: 0 });
    const spans = Array.from(loops.id, (_, c) => apart(at(loops, loops.start[c]), at(loops, loops.start[c + 1] - 1)));
    const whole = fuzz({ loops: 0, flyaways: 0 });
    expect(Math.max(...spans)).toBeLessThan(Math.max(...curveLengths(whole)));
    const longer = fuzz({ lifeBy: 'length', fuzzLength: 0.05, flyaways: 0, loops: 0 });
    expect(Math.max(...curveLengths(longer))).toBeGreaterThan(0.04);
  });

  it('lets strands wander, which the checks tell where they cut, with a fix that mends it', () => {
    const change = { wander: 1.2, wave: 2 };
    const wild = made('laid', STRAIGHT, change);
    const cut = wild.findings.find(({ code }) => code === 'strands-cut');
    expect(cut?.size?.value).toBeGreaterThan(0);
    expect(cut?.place?.length).toBe(3);
    expect(cut?.fix).toMatchObject({ kind: 'set', parameter: 'wander', value: 0.6 });
    const thick = made('laid', STRAIGHT, { scale: 1.4 }).findings.find(({ code }) => code === 'strands-cut');
    const value = thick?.fix?.kind === 'set' ? thick.fix.value : 0;
    expect(made('laid', STRAIGHT, { scale: value as number }).codes).not.toContain('strands-cut');
  });

  it('held in space ripples when the line slides through it; on its strands it goes along', () => {
    const profile = (held: string, shift: number) => {
      const points = STRAIGHT.map(([x, y, z]) => [x + shift, y, z] as Place);
      const { curves } = made('laid', points, { swell: 0.3, held, wave: 2 });
      return Array.from({ length: 40 }, (_, k) => Math.hypot(...at(curves, 3 * k).slice(1)));
    };
    const differ = (held: string) =>
      Math.max(...profile(held, 0).map((value, k) => Math.abs(value - profile(held, 0.013)[k])));
    expect(differ('strand')).toBeLessThan(1e-6);
    expect(differ('space')).toBeGreaterThan(0.03 * R);
  });
});

describe('views', () => {
  it.each([
    ['laid', {}],
    ['laid', { scale: 0.9 }],
    ['laid', { levels: [{ ...THREE[0], count: 19, filling: 'filled' }] }],
    ['braid', { carriers: 8, core: 'hollow' }],
  ] as [string, ParameterValues][])(
    'a hull lies on the strands it represents, and looks where they look: %s',
    (unit, change) => {
      const [full, hull] = ['strands', 'hull'].map((shown) =>
        made(unit, STRAIGHT, { ...change, shown, places: unit === 'laid' ? 72 : 12 }),
      );
      const mesh = hull.mesh('hull');
      const { curves, radius } = full;
      let [off, turned, seen] = [0, 0, 0];
      for (let v = 0; v < mesh.position.length / 3; v += 11) {
        const here = at(mesh, v);
        if (here[0] < 0.05 || here[0] > 0.15) continue;
        // the nearest strand's skin, and its way out
        const skins = Array.from(radius, (thick, p) => apart(here, at(curves, p)) - thick);
        const near = Math.min(...skins);
        seen++;
        off = Math.max(off, Math.abs(near) / R);
        // where it bridges a hole it looks outwards, and in a groove as either side does
        if (Math.abs(near) > 0.05 * R) continue;
        const looks = skins.some((d, p) => {
          if (d > near + 0.03 * R) return false;
          const way = here.map((value, n) => value - curves.position[3 * p + n]);
          return way.reduce((sum, value, n) => sum + value * mesh.normal[3 * v + n], 0) > 0.8 * Math.hypot(...way);
        });
        if (!looks) turned++;
      }
      expect(seen).toBeGreaterThan(100);
      expect(off).toBeLessThan(unit === 'laid' ? 0.1 : 0.25);
      expect(turned / seen, `${unit} ${curves.closed.length}`).toBeLessThan(0.08);
      if (curves.closed.length > 10) expect(mesh.index.length).toBeLessThan(0.5 * full.mesh('strands').index.length);
    },
  );

  it.each([
    ['laid', {}],
    ['laid', { levels: [{ ...THREE[0], count: 19, filling: 'filled' }], scale: 0.7 }],
    ['braid', { carriers: 8, core: 'hollow' }],
    ['braid', { form: 'flat' }],
  ] as [string, ParameterValues][])('a hull is closed, its faces outwards: %s %o', (unit, change) => {
    const mesh = made(unit, BENT, { ...change, shown: 'hull' }).mesh('hull');
    expect(topologyOf(mesh)).toMatchObject({ openEdges: 0, shells: 1 });
    expect(signedVolume(mesh)).toBeGreaterThan(0);
  });

  it('the line alone is one line, as thick as the bundle', () => {
    const { parts } = made('laid', STRAIGHT, { shown: 'line' });
    expect(parts.map(({ kind, id }) => `${kind} ${id}`)).toEqual(['strands line']);
    expect(parts[0].kind === 'strands' && parts[0].width[0]).toBeCloseTo(2 * R, 6);
  });
});

describe('regions', () => {
  const region = (change: Partial<Region> = {}): Region => ({
    id: 'here',
    name: 'Here',
    form: 'ball',
    position: [0.1, 0, 0],
    size: [0.02, 0.02, 0.02],
    rotation: [0, 0, 0, 1],
    edge: 0.01,
    ...change,
  });
  const driven = (from: number, into: number) => ({
    ease: 'smooth' as const,
    region: 'here',
    knots: [
      { at: 0, value: from },
      { at: 1, value: into },
    ],
  });

  it('weigh 1 inside, 0 beyond their edge, never more or less, and turn with their rotation', () => {
    fc.assert(
      fc.property(
        fc.constantFrom('ball', 'box'),
        evenly(-1, 1),
        evenly(-1, 1),
        evenly(-1, 1),
        evenly(0, 0.5),
        (form, x, y, z, edge) => {
          const one = region({ form: form as Region['form'], position: [0, 0, 0], size: [0.5, 0.2, 0.3], edge });
          const w = weightIn(one, x, y, z);
          const inside =
            form === 'ball'
              ? Math.hypot(x, y, z) <= 0.5
              : Math.abs(x) <= 0.5 && Math.abs(y) <= 0.2 && Math.abs(z) <= 0.3;
          expect(w >= 0 && w <= 1).toBe(true);
          if (inside) expect(w).toBe(1);
          if (edge < 0.2 && Math.hypot(x, y, z) > 1) expect(w).toBe(0);
          // a quarter turn about z: what was x is y
          const turned = { ...one, rotation: [0, 0, Math.SQRT1_2, Math.SQRT1_2] as Region['rotation'] };
          expect(weightIn(turned, -y, x, z)).toBeCloseTo(w, 6);
        },
      ),
      { numRuns: 200 },
    );
  });

  it('twist a rope only where they are, whichever of several lines comes through them', () => {
    const both = made(
      'laid',
      STRAIGHT,
      { levels: [{ ...THREE[0], lay: 9000 }], twist: driven(0, 30) },
      [region()],
      (document, piece) => {
        const [line] = document.curves;
        document.curves.push({
          ...line,
          id: 'far',
          points: line.points.map((point) => ({ ...point, position: [point.position[0] + 0.08, 0, 0.3] })),
        });
        piece.path = { ...piece.path, parameters: { curves: ['line', 'far'] } };
      },
    );
    const angles = (body: number) => {
      const { curves } = both.made.bodies[body];
      const [first, last] = [at(curves, 0), at(curves, curves.start[1] - 1)];
      const turn = ([, y, z]: Place, off: number) => Math.atan2(z - off, y);
      let sum = 0;
      for (let p = 1; p < curves.start[1]; p++) {
        const off = body === 0 ? 0 : 0.3;
        sum += Math.atan2(
          Math.sin(turn(at(curves, p), off) - turn(at(curves, p - 1), off)),
          Math.cos(turn(at(curves, p), off) - turn(at(curves, p - 1), off)),
        );
      }
      return { sum, first, last };
    };
    expect(both.made.bodies.map(({ id }) => id)).toEqual(['strands', 'strands 2']);
    // 40 mm inside and two soft edges of 10 mm that count half
    expect(angles(0).sum / (2 * Math.PI)).toBeCloseTo(30 * 0.05, 1);
    expect(angles(1).sum).toBeCloseTo(0, 1);
    // one that is not there is nowhere, and one far off changes nothing
    for (const regions of [[], [region({ position: [9, 9, 9] })]])
      expect(made('laid', STRAIGHT, { twist: driven(0, 30) }, regions).parts[0]).toEqual(
        made('laid', STRAIGHT, { twist: 0 }, []).parts[0],
      );
  });

  it('leave each of two lines a mesh of its own when they are built again', () => {
    const { document, piece } = alongPoints(STRAIGHT, (one) => {
      one.make = newUse('make', 'cable');
      Object.assign(one.make.parameters, { radius: driven(0.002, 0.006) });
    });
    const [line] = document.curves;
    document.curves.push({
      ...line,
      id: 'far',
      points: line.points.map((point) => ({ ...point, position: [point.position[0], 0, 0.4] })),
    });
    piece.path = { ...piece.path, parameters: { curves: ['line', 'far'] } };
    document.regions.push(region());
    const cache = createCache();
    const meshes = [0.006, 0.007].map((into) => {
      const changed = {
        ...piece,
        make: { ...piece.make, parameters: { ...piece.make.parameters, radius: driven(0.002, into) } },
      };
      const world = new World({ ...document, pieces: [changed] }, new Surroundings(new Map()), cache);
      return evaluatePiece(world, changed).parts.map((part) =>
        part.kind === 'mesh' ? Math.max(...part.mesh.position.filter((_, i) => i % 3 === 2)) : 0,
      );
    });
    // the second line lies 0.4 m beside the first, where no region is
    for (const [first, second] of meshes) {
      expect(first).toBeLessThan(0.01);
      expect(second).toBeCloseTo(0.402, 4);
    }
  });

  it('drive lanes of any unit, shapes too', () => {
    const offset = made('cable', STRAIGHT, {}, [region()], (_document, piece) => {
      piece.shape = [
        {
          unit: 'offset',
          enabled: true,
          parameters: { ...newUse('shape', 'offset').parameters, distance: driven(0, 0.05) },
        },
      ];
    });
    const { guide } = offset.made;
    const off = Array.from({ length: guide.start[1] }, (_, p) => ({
      x: guide.position[3 * p],
      far: Math.hypot(...at(guide, p).slice(1)),
    }));
    expect(Math.max(...off.filter(({ x }) => Math.abs(x - 0.1) > 0.036).map(({ far }) => far))).toBeLessThan(2e-3);
    expect(Math.max(...off.map(({ far }) => far))).toBeGreaterThan(0.03);
    const swollen = made('cable', STRAIGHT, { radius: driven(0.005, 0.02) }, [region()]);
    expect(Math.max(...swollen.radius)).toBeCloseTo(0.02, 3);
    expect(swollen.radius[0]).toBeCloseTo(0.005, 4);
  });
});

describe('what makes no sense', () => {
  it.each<[string, string, ParameterValues, string | undefined]>([
    ['one strand', 'laid', { levels: [{ ...THREE[0], count: 1 }] }, undefined],
    [
      'thousands',
      'laid',
      { levels: [{ ...THREE[0], count: 2000, filling: 'filled', lay: 40 }], sides: 3, places: 8 },
      undefined,
    ],
    ['a lay shorter than the thickness', 'laid', { levels: [{ ...THREE[0], lay: 0.3 }] }, 'lay-steep'],
    ['one strand in a ring about a core', 'laid', { levels: [{ ...THREE[0], count: 1, filling: 'cored' }] }, undefined],
    [
      'no thickness in between',
      'laid',
      {
        radius: {
          ease: 'straight',
          knots: [
            { at: 0, value: R },
            { at: 0.5, value: 1e-6 },
            { at: 1, value: R },
          ],
        },
      },
      undefined,
    ],
    [
      'levels so deep that memory would not do',
      'laid',
      { levels: [1, 2, 3, 4].map(() => ({ ...THREE[0], count: 40, filling: 'filled' })) },
      'too-many-strands',
    ],
    ['too few places for its lay', 'laid', { places: 4 }, 'few-places'],
    ['too few places for its crossings', 'braid', { places: 2 }, 'few-places'],
    ['a line shorter than one lay', 'braid', { lay: 100 }, undefined],
    ['a braid as steep as it goes', 'braid', { lay: 0.5, carriers: 32, places: 3 }, undefined],
  ])('%s: is made, as far as it can be, or reported', (_name, unit, change, code) => {
    const built = made(
      unit,
      [
        [0, 0, 0],
        [0.02, 0.001, 0],
        [0.04, 0, 0],
      ],
      change,
    );
    if (code) expect(built.codes).toContain(code);
    expect(built.codes).not.toContain('unit-failed');
    for (const part of built.parts)
      if (part.kind === 'mesh') expect(part.mesh.position.every(Number.isFinite)).toBe(true);
  });
});

describe('with shapes', () => {
  const across = (shape: string[]) =>
    made(
      'laid',
      [
        [-0.1, 0, 0],
        [0, 0, 0],
        [0.1, 0, 0],
      ],
      { levels: [{ ...THREE[0] }] },
      [],
      (document, piece) => {
        const [line] = document.curves;
        document.curves.push({
          ...line,
          id: 'other',
          points: line.points.map((point, k) => ({ ...point, position: [0, 0.004, 0.1 * (k - 1)] })),
        });
        piece.path = { ...piece.path, parameters: { curves: ['line', 'other'] } };
        piece.shape = shape.map((unit) => ({ ...newUse('shape', unit), enabled: true }));
      },
    );

  it('ropes that lie across each other cut until they are kept apart', () => {
    expect(across([]).codes).toContain('strands-cut');
    expect(across(['keep-apart']).codes).not.toContain('strands-cut');
  });

  it('a rope that slides along its line keeps its lay', () => {
    const slid = (from: number) =>
      made(
        'laid',
        [
          [0, 0, 0],
          [0.05, 0, 0],
          [0.1, 0, 0],
        ],
        {},
        [],
        (document, piece) => {
          const other = newPiece('rail', 'Rail', ['long'], false);
          document.curves.push({
            ...document.curves[0],
            id: 'long',
            points: document.curves[0].points.map((point, k) => ({ ...point, position: [0.3 * k, 0.5, 0] })),
          });
          document.pieces.push(other);
          piece.shape = [{ ...newUse('shape', 'slide'), enabled: true }];
          Object.assign(piece.shape[0].parameters, { along: 'rail', from });
        },
      );
    const [a, b] = [slid(0.02), slid(0.3)];
    const turn = ({ curves }: Bundle) => Array.from({ length: 12 }, (_, k) => at(curves, k)[1]);
    expect(a.guide.position[0]).not.toBeCloseTo(b.guide.position[0], 3);
    turn(a).forEach((value, k) => void expect(value).toBeCloseTo(turn(b)[k], 5));
  });
});
