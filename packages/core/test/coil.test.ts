import { describe, expect, it } from 'vitest';
import {
  curveLengths,
  evaluatePiece,
  newUse,
  realMesh,
  Surroundings,
  signedVolume,
  topologyOf,
  World,
} from '../src/index.js';
import { alongPoints } from './projects.js';

type Place = readonly [number, number, number];
const STRAIGHT: Place[] = [
  [0, 0, 0],
  [0.5, 0, 0],
  [1, 0, 0],
];
const RING: Place[] = [
  [0, 0, 0],
  [0.4, 0, 0.1],
  [0.5, 0.1, 0.5],
  [0, 0, 0.4],
];

function wound(change: object, points = STRAIGHT, closed = false) {
  const { document, piece } = alongPoints(points, (one) => {
    one.make = newUse('make', 'coil');
    Object.assign(one.make.parameters, { closed: 0, ground: 'no', start: 'flat', end: 'flat' }, change);
  });
  document.curves[0].closed = closed;
  const build = evaluatePiece(new World(document, new Surroundings(new Map())), piece);
  return { build, mesh: realMesh(build.parts[0]), lines: build.made.bodies[0].curves };
}

describe('a coil', () => {
  it.each([
    [0.02, 0.1, 3, 1],
    [0.03, 0.2, 1.5, 1],
    [0.01, 0.05, 12, 1],
    [0.02, 0.1, 6, 3],
  ])(
    'has the wire of a spring: n·√((2πR)² + p²) long (any handbook of springs): R %s, wire %s, pitch %s, %s starts',
    (radius, wire, pitch, starts) => {
      const { mesh, lines } = wound({ radius, wire, pitch, starts, sides: 64, bendStep: 0.1 });
      const rise = pitch * 2 * wire * radius;
      const length = (1 / rise) * Math.hypot(2 * Math.PI * radius, rise);
      for (const one of curveLengths(lines)) expect(one / length).toBeCloseTo(1, 3);
      expect(lines.closed).toHaveLength(starts);
      expect(signedVolume(mesh) / (starts * length * Math.PI * (wire * radius) ** 2)).toBeCloseTo(1, 2);
      expect(topologyOf(mesh)).toMatchObject({ openEdges: 0, shells: starts });
    },
  );

  it('goes round as its hand says, each place at its radius from the line', () => {
    for (const [hand, sign] of [
      ['right', 1],
      ['left', -1],
    ] as const) {
      const { lines } = wound({ hand, radius: 0.02, pitch: 4 });
      const { position } = lines;
      let turned = 0;
      for (let i = 0; i < position.length; i += 3) {
        expect(Math.hypot(position[i + 1], position[i + 2])).toBeCloseTo(0.02, 4);
        if (i > 0) turned += position[i - 2] * position[i + 2] - position[i - 1] * position[i + 1];
      }
      // along +x a right-handed screw turns from y to z
      expect(Math.sign(turned)).toBe(sign);
    }
  });

  it('end turns lie against each other, and those between at the pitch', () => {
    const { lines } = wound({ radius: 0.02, wire: 0.1, pitch: 5, closed: 2 });
    const { position } = lines;
    // where it is above the line: once a turn
    const tops: number[] = [];
    for (let i = 3; i + 3 < position.length; i += 3)
      if (position[i + 1] > position[i - 2] && position[i + 1] >= position[i + 4]) tops.push(position[i]);
    const steps = tops.slice(1).map((x, i) => x - tops[i]);
    expect(steps[0]).toBeCloseTo(0.004, 3);
    expect(steps[steps.length - 1]).toBeCloseTo(0.004, 3);
    expect(steps[steps.length >> 1]).toBeCloseTo(0.02, 3);
  });

  it('round a closed line closes too, after whole turns', () => {
    const { mesh, build } = wound({ radius: 0.03, wire: 0.2, pitch: 3 }, RING, true);
    expect(topologyOf(mesh)).toEqual({ openEdges: 0, euler: 0, shells: 1 });
    expect(build.findings).toEqual([]);
  });

  it('tapers with its radius, the wire with it; its turns come no nearer than to touch', () => {
    const lane = {
      knots: [
        { at: 0, value: 0.03 },
        { at: 1, value: 0.01 },
      ],
      ease: 'straight',
    };
    const { lines } = wound({ radius: lane, pitch: 4 });
    const at = (p: number) => Math.hypot(lines.position[3 * p + 1], lines.position[3 * p + 2]);
    expect(at(0)).toBeCloseTo(0.03, 3);
    expect(at(lines.position.length / 3 - 1)).toBeCloseTo(0.01, 3);
    const codes = ({ build }: ReturnType<typeof wound>) => build.findings.map(({ code }) => code);
    expect(codes(wound({ pitch: 1 }))).toEqual([]);
    expect(codes(wound({ pitch: 1, starts: 3 }))).toEqual([]);
  });

  it('that would have more turns than can be made has fewer, and reports it; one that tapers to nothing ends', () => {
    const { build, lines } = wound({ radius: 1e-4, wire: 0.1, pitch: 2 });
    const [finding] = build.findings;
    expect(finding.code).toBe('too-many-turns');
    // a metre of 25,000 turns by 24 places, of which 200,000 can be
    expect(finding.size?.value).toBeCloseTo(3, 1);
    expect(curveLengths(lines)[0] / ((25_000 / 3) * 2 * Math.PI * 1e-4)).toBeCloseTo(1, 1);
    const lane = {
      knots: [
        { at: 0, value: 0.02 },
        { at: 1, value: 1e-5 },
      ],
      ease: 'straight',
    };
    const { mesh, build: tapered } = wound({ radius: lane });
    expect(mesh.position.every(Number.isFinite)).toBe(true);
    expect(tapered.findings.map(({ code }) => code)).not.toContain('too-many-turns');
  });

  it('does not bunch on the inside of a bend: turns that would run into each other lie side by side', () => {
    const bend: Place[] = [
      [0, 0, 0],
      [0.2, 0, 0],
      [0.3, 0.1, 0],
      [0.3, 0.3, 0],
    ];
    const { build, lines } = wound({ radius: 0.02, wire: 0.2, pitch: 1.1 }, bend);
    expect(build.findings.filter(({ code }) => code === 'cuts-itself')).toEqual([]);
    // and bends that leave room change nothing
    const wide = wound({ radius: 0.02, wire: 0.2, pitch: 4 }, bend);
    const turns = (one: typeof lines) => curveLengths(one)[0] / Math.hypot(2 * Math.PI * 0.02, 0.032);
    expect(turns(wide.lines) / (curveLengths(wide.build.guide)[0] / 0.032)).toBeCloseTo(1, 1);
  });
});

it('reports what is wrong with its wire where that is along its line', () => {
  // drawn coarsely, the last turns the tightest
  const radius = {
    ease: 'straight',
    knots: [
      { at: 0, value: 0.06 },
      { at: 0.7, value: 0.06 },
      { at: 1, value: 0.02 },
    ],
  };
  const { build } = wound({ radius, wire: 0.15, pitch: 3, bendStep: 0.9 });
  const [coarse] = build.findings.filter(({ code }) => code === 'coarse');
  expect(coarse.along).toBeCloseTo(coarse.place?.[0] ?? -1, 6);
  expect(coarse.along).toBeLessThan(1);
});

it('ground ends are flat and square to the line over three quarters of a turn, and leave the wire closed (common practice, no source)', () => {
  const spring = { radius: 0.02, wire: 0.2, pitch: 3, closed: 2, sides: 32, bendStep: 0.1 };
  for (const starts of [1, 2]) {
    const whole = wound({ ...spring, starts });
    const { mesh, build } = wound({ ...spring, starts, ground: 'flat' });
    expect(build.findings).toEqual([]);
    expect(topologyOf(mesh)).toEqual({ openEdges: 0, euler: 2 * starts, shells: starts });
    expect(signedVolume(mesh)).toBeLessThan(signedVolume(whole.mesh));
    const { position, normal } = mesh;
    // half a radius of the wire is left beyond its middle: it is 2 mm in from the ends of the line
    for (const [end, out] of [
      [0.002, -1],
      [0.998, 1],
    ] as const) {
      const flat = Array.from({ length: position.length / 3 }, (_, v) => v).filter(
        (v) => Math.abs(position[3 * v] - end) < 1e-6 && normal[3 * v] * out > 0.999999,
      );
      const angles = flat.map((v) => Math.atan2(position[3 * v + 2], position[3 * v + 1])).sort((a, b) => a - b);
      // from the tip on round to where the wire has risen clear of it, for each of its starts
      const gaps = angles.map((angle, i) => (angles[(i + 1) % angles.length] - angle + 2 * Math.PI) % (2 * Math.PI));
      if (starts === 1) expect(2 * Math.PI - Math.max(...gaps)).toBeCloseTo(1.5 * Math.PI, 0);
      expect(flat.length).toBeGreaterThan(50);
    }
    expect(position.findIndex((at, i) => i % 3 === 0 && !(Math.abs(at - 0.5) < 0.498 + 1e-6))).toBe(-1);
  }
});

it('of a spring that is bent, or made for many lines at once, only the ends are ground', () => {
  const bent: Place[] = [
    [0, 0, 0],
    [0.2, 0.1, 0],
    [0.3, 0.3, 0],
    [0.1, 0.35, 0],
  ];
  const change = { radius: 0.02, wire: 0.15, closed: 2, pitch: 3, end: 'round' };
  const [whole, ground] = [wound(change, bent), wound({ ...change, ground: 'flat' }, bent)];
  expect(topologyOf(ground.mesh)).toEqual({ openEdges: 0, euler: 2, shells: 1 });
  const taken = 1 - signedVolume(ground.mesh) / signedVolume(whole.mesh);
  expect(taken).toBeGreaterThan(0.005);
  expect(taken).toBeLessThan(0.1);
  expect(ground.mesh.quads).toBeGreaterThan(0.8 * whole.mesh.quads);
  const closed = wound({ ...change, ground: 'flat' }, RING, true);
  expect(topologyOf(closed.mesh).openEdges).toBe(0);
});
