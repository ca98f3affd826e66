import { Matrix4, Vector3 } from 'three';
import { describe, expect, it } from 'vitest';
import {
  type Finding,
  greatest,
  newUse,
  type PlacedPart,
  POINT,
  PROP_WHEEL,
  presetParameters,
  type RideTrack,
  riddenTo,
  type SlideTrack,
  signedVolume,
  slidRepeats,
  type TurnTrack,
  turnedBy,
  unitOf,
} from '../src/index.js';
import { pitchDiameter } from '../src/make/belt/figures.js';
import { boundsOf } from '../src/mesh/measure.js';
import { topologyOf } from '../src/mesh/weld.js';
import { movedPart } from '../src/motion/moved.js';
import type { Made, MeshPart } from '../src/unit/carriers.js';
import { straight } from './trusses.js';
import { build, made } from './units.js';

const unit = unitOf('make', 'belt');
const THREE = [
  { id: 'a', position: [0, 0, 0] },
  { id: 'b', position: [1, 0, 0], radius: 0.15 },
  { id: 'c', position: [0.5, 0.25, 0], outside: true, radius: 0.1 },
  { id: 'd', position: [0.5, 0.6, 0] },
];
const has = (preset: string, set: Record<string, unknown>) => ({
  ...newUse('make', 'belt').parameters,
  ...presetParameters(unit, preset),
  ...set,
});

/** A belt round wheels, and how far its line keeps off them. */
function belt(
  preset: string,
  set: Record<string, unknown> = {},
  path: Record<string, unknown> = {},
  reported: Finding[] = [],
): { made: Made; half: number } {
  const parameters = has(preset, set);
  const half = greatest(unit.thickness!(parameters as never));
  const stepped = parameters['kind'] === 'toothed' || parameters['kind'] === 'roller';
  const input = build(
    'path',
    'wheels',
    { radius: 0.2, wheels: THREE, pitch: stepped ? parameters['pitch'] : 0, ...path },
    { thickness: half },
  );
  const made_ = made('belt', parameters, { input, report: (one) => reported.push(one) });
  // of a toothed one half its band, the rest is teeth
  return { made: made_, half: parameters['kind'] === 'toothed' ? (parameters['thickness'] as number) / 4 : half };
}

const rides = ({ motion }: Made) => motion.filter((track) => track.kind === 'ride') as (RideTrack & { part: string })[];
const turns = ({ motion }: Made) => motion.filter((track) => track.kind === 'turn') as (TurnTrack & { part: string })[];
/** How near the nearest vertex is to a place, seen along z. */
const nearestTo = (position: Float32Array, x: number, y: number): number =>
  position.reduce(
    (least, at, i) => (i % 3 === 0 ? Math.min(least, Math.hypot(at - x, position[i + 1] - y)) : least),
    Infinity,
  );
const PRESETS = unit.presets.map(({ id }) => id);

describe('belts', () => {
  it.each(PRESETS)(
    '%s: every body is closed and the right way out; the band lies on its wheels and cuts none',
    (preset) => {
      const { made: all, half } = belt(preset);
      for (const part of all.parts) {
        const { mesh } = part as MeshPart;
        expect([part.id, topologyOf(mesh).openEdges]).toEqual([part.id, 0]);
        expect(signedVolume(mesh)).toBeGreaterThan(0);
      }
      const band = all.parts.find(({ id }) => id === 'band') as MeshPart | undefined;
      const [{ rows }] = all.tables;
      THREE.forEach(({ position: [x, y] }, k) => {
        const radius = Number(rows.find(([name]) => name === `Wheel ${k + 1}`)![1]);
        // the one that slides for whole teeth has another place
        if (!band || (preset === 'toothed-belt' && k === 3)) return;
        expect(nearestTo(band.mesh.position, x, y)).toBeCloseTo(radius - half, 3);
      });
    },
  );

  it.each(PRESETS)(
    '%s runs without slip: each wheel turns by what the belt travels, those outside the other way',
    (preset) => {
      const { made: all } = belt(preset, { run: 7, wheel: 'disc' });
      const [{ rows }] = all.tables;
      const length = all.measures.find(({ id }) => id === 'belt-length')!.value;
      const [ride] = rides(all);
      const travel = ride ? (ride.steps / ride.of) * length : 7 * ((2 * Math.PI * Number(rows[0][1])) / 12);
      expect(turns(all)).toHaveLength(4);
      for (const { part, turns: by, axis } of turns(all)) {
        const number = Number(part.slice('wheel-'.length));
        const radius = Number(rows.find(([name]) => name === `Wheel ${number}`)![1]);
        expect(by * 2 * Math.PI * radius).toBeCloseTo(travel, 6);
        expect(axis[2]).toBeCloseTo(number === 3 ? -1 : 1, 9);
      }
    },
  );

  it('what runs on by a step is to the bit where the next one was, and at the end of the loop as at its beginning', () => {
    for (const preset of PRESETS.slice(2)) {
      const { made: all } = belt(preset, { run: 6, riders: 'some', apart: 0.3 });
      for (const track of rides(all)) {
        const [begin, end] = [0, 1].map((phase) => riddenTo(track, phase, new Float32Array(track.local.length)));
        track.first.forEach((step, n) => {
          const on = track.first.indexOf((step + track.steps) % track.of);
          if (on >= 0) expect(end.slice(16 * n, 16 * n + 16)).toEqual(begin.slice(16 * on, 16 * on + 16));
        });
      }
      for (const track of turns(all)) {
        const whole = { ...track, turns: Math.round(track.turns) };
        expect(turnedBy(whole, 1, new Float64Array(16))).toEqual(turnedBy(whole, 0, new Float64Array(16)));
      }
    }
  });

  it('links of a chain meet in their pins wherever they are', () => {
    const { made: all } = belt('roller-drive', { run: 1 });
    const [inner, outer] = rides(all);
    const pitch = all.measures.find(({ id }) => id === 'pitch')!.value;
    for (const phase of [0, 0.37]) {
      const ends = [inner, outer].map((track) => {
        const matrices = riddenTo(track, phase, new Float32Array(track.local.length));
        return Array.from(track.first, (_, n) =>
          [-1, 1].map((way) =>
            new Vector3(0, 0, (way * pitch) / 2).applyMatrix4(new Matrix4().fromArray(matrices, 16 * n)),
          ),
        );
      });
      ends[0].forEach(([, end], n) => {
        expect(end.distanceTo(ends[1][n][0])).toBeLessThan(1e-6);
      });
    }
  });

  it.each(['toothed-belt', 'roller-drive'])(
    '%s: teeth stand in the gaps of their wheels, now and later; none on a wheel outside',
    (preset) => {
      const { made: all } = belt(preset, { run: 5 });
      const [{ rows }] = all.tables;
      const pitch = all.measures.find(({ id }) => id === 'pitch')!.value;
      expect(rows.find(([name]) => name === 'Wheel 3')![2]).toBe(0);
      for (const track of turns(all).filter(({ part }) => part !== 'wheel-3')) {
        const { part } = track;
        const row = rows.find(([name]) => name === `Wheel ${part.slice(6)}`)!;
        const [radius, teeth] = [Number(row[1]), Number(row[2])];
        expect((teeth * pitch) / (2 * Math.PI)).toBeCloseTo(radius, 5);
        const mesh = all.parts.find(({ id }) => id === part) as MeshPart;
        for (const phase of [0, 0.3]) {
          const outline = outlineOf(movedPart(mesh, track, phase) as MeshPart, track.at, radius - 0.6 * pitch);
          for (const ride of rides(all)) {
            const places = riddenTo(ride, phase, new Float32Array(ride.local.length));
            // on the wheel's circle; a chain's pins are half a pitch on
            const pins = preset === 'roller-drive';
            const reach = pins ? radius * Math.cos(pitch / 2 / radius) : radius;
            const on = Array.from(ride.first.keys(), (n) => [
              places[16 * n + 12] - track.at[0],
              places[16 * n + 13] - track.at[1],
            ]).filter(([x, y]) => Math.abs(Math.hypot(x, y) - reach) < 1e-4);
            expect(on.length).toBeGreaterThan(3);
            for (const [x, y] of on.slice(0, 8)) {
              const angle = Math.atan2(y, x) + (pins ? (track.axis[2] * pitch) / 2 / radius : 0);
              expect(outline(angle)).toBeLessThan(outline(angle + Math.PI / teeth) - 0.1 * pitch);
            }
          }
        }
      }
    },
  );

  it('wheels are called by the diameters of ISO 606 and ISO 5296', () => {
    // 08B, 19 teeth: 77.16 mm; 06B, 15 teeth: 45.81 mm (ISO 606 tables, from memory); XL, 20 teeth: 32.34 mm (ISO 5296, from memory)
    expect(1000 * pitchDiameter(19, 0.0127, 'roller')).toBeCloseTo(77.16, 2);
    expect(1000 * pitchDiameter(15, 0.009525, 'roller')).toBeCloseTo(45.81, 2);
    expect(1000 * pitchDiameter(20, 0.00508, 'toothed')).toBeCloseTo(32.34, 2);
  });

  it('a plate inside leaves belt and wheels free; guards cover both; riders stand on it, carried ones where it faces up', () => {
    const gap = 0.01;
    const inside = belt('flat-belt', { panel: 'inside', gap });
    const plate = inside.made.parts.find(({ slot }) => slot === 'panel') as MeshPart;
    THREE.forEach(({ position: [x, y], radius = 0.2, outside }) => {
      const clear = radius + (outside ? 2 * inside.half : 0) + gap;
      expect(nearestTo(plate.mesh.position, x, y)).toBeGreaterThan(clear - 1e-3);
    });
    // nor nearer to the belt's own middle than its half and the gap
    const band = inside.made.parts.find(({ id }) => id === 'band') as MeshPart;
    const edge = Math.min(...plate.mesh.position.filter((_value, i) => i % 3 === 1));
    expect(edge - Math.min(...band.mesh.position.filter((_value, i) => i % 3 === 1))).toBeGreaterThanOrEqual(
      2 * inside.half + gap - 1e-6,
    );
    const { position: line } = inside.made.guide;
    for (let k = 0; k < line.length; k += 3)
      expect(nearestTo(plate.mesh.position, line[k], line[k + 1])).toBeGreaterThanOrEqual(inside.half + gap - 1e-6);
    expect(belt('flat-belt', { panel: 'guards' }).made.parts.filter(({ slot }) => slot === 'panel')).toHaveLength(2);
    const set = {
      riders: 'some',
      apart: 0.2,
      run: 1,
      parts: [
        { part: 'block', times: 1, size: 1 },
        { part: 'ball', times: 2, size: 1 },
      ],
    };
    const all = belt('flat-belt', set).made;
    const count = all.measures.find(({ id }) => id === 'riders')!.value;
    const parts = all.parts.filter(({ slot }) => slot === 'riders') as PlacedPart[];
    expect(parts.reduce((sum, { places }) => sum + places.id.length, 0)).toBe(count);
    expect(parts[1].places.id.length / count).toBeCloseTo(2 / 3, 1);
    const carried = belt('flat-belt', { ...set, carried: true }).made;
    const some = carried.parts.filter(({ slot }) => slot === 'riders') as PlacedPart[];
    expect(some.reduce((sum, { places }) => sum + places.id.length, 0)).toBeLessThan(0.7 * count);
    for (const { places } of some)
      for (let i = 0; i < places.matrix.length; i += 16)
        expect(
          places.matrix[i + 5] / Math.hypot(places.matrix[i + 4], places.matrix[i + 5], places.matrix[i + 6]),
        ).toBeGreaterThan(0.7);
  });

  const cases: [code: string, preset: string, set: Record<string, unknown>, path?: Record<string, unknown>][] = [
    ['steps-uneven', 'track', { exact: true }],
    ['steps-uneven', 'flat-belt', { exact: true, riders: 'some', apart: 0.37 }],
    ['riders-meet', 'flat-belt', { riders: 'some', apart: 0.2 }],
    ['riders-meet', 'flat-belt', { riders: 'some', apart: 0.2, carried: true }],
    ['too-many-steps', 'toothed-belt', { pitch: 0.00002 }, { pitch: 0 }],
    ['teeth-miss', 'toothed-belt', { pitch: 0.03 }, { pitch: 0 }],
    ['loop-jumps', 'toothed-belt', { run: 1, wheel: 'spokes', spokes: 5 }],
    ['loop-jumps', 'flat-belt', { run: 5, wheel: 'spokes' }],
    [
      'loop-jumps',
      'track',
      {
        run: 1,
        wheel: 'disc',
        riders: 'some',
        apart: 0.2,
        order: 'chance',
        parts: [
          { part: 'block', times: 1, size: 1 },
          { part: 'ball', times: 1, size: 1 },
        ],
      },
    ],
  ];
  it.each(cases)('%s is reported a %s, and the fix mends it', (code, preset, set, path) => {
    const reported: Finding[] = [];
    belt(preset, set, path, reported);
    const fix = reported.find((one) => one.code === code)?.fix;
    if (fix?.kind !== 'set') throw new Error(`${code} is not told, or has no fix`);
    const after: Finding[] = [];
    const change = { [fix.parameter]: fix.value };
    belt(
      preset,
      fix.stage === 'make' ? { ...set, ...change } : set,
      fix.stage === 'path' ? { ...path, ...change } : path,
      after,
    );
    expect(after.map((one) => one.code)).not.toContain(code);
  });

  it('wheels that the belt only touches, or passes, stand where they were put; those it passes stand still', () => {
    const wheels = [
      { id: 'a', position: [0, 0, 0] },
      { id: 'e', position: [0.5, -0.15, 0], radius: 0.05 },
      { id: 'f', position: [0.6, -0.1, 0], radius: 0.05 },
      { id: 'b', position: [1, 0, 0] },
    ];
    const { made: all } = belt('flat-belt', { run: 3 }, { wheels });
    for (const [
      k,
      {
        position: [x, y],
      },
    ] of wheels.entries()) {
      const mesh = all.parts.find(({ id }) => id === `wheel-${k + 1}`) as MeshPart;
      const { min, max } = boundsOf(mesh.mesh.position);
      expect((min[0] + max[0]) / 2).toBeCloseTo(x, 4);
      expect((min[1] + max[1]) / 2).toBeCloseTo(y, 4);
    }
    expect(turns(all).map(({ part }) => part)).toEqual(['wheel-1', 'wheel-2', 'wheel-4']);
  });

  it('its texture runs by in whole repeats, as far as the belt goes; a wheel that is a prop only says how it turns', () => {
    const { made: made_ } = belt('flat-belt', { run: 1 });
    const slide = made_.motion.find(({ kind }) => kind === 'slide') as SlideTrack & { part: string };
    const length =
      made_.guide.position.length > 0
        ? made_.motion
            .filter((one): one is TurnTrack & { part: string } => one.kind === 'turn')
            .map(({ turns }) => Math.abs(turns) * 2 * Math.PI)[0]
        : 0;
    // the first wheel has a radius of 0.2 m, and half a belt more
    const radius = slide.travel / length;
    expect(radius).toBeGreaterThan(0.2);
    expect(radius).toBeLessThan(0.21);
    const band = made_.parts.find(({ id }) => id === slide.part) as MeshPart;
    const repeat = 0.07;
    expect(slidRepeats(slide, repeat)).toBe(Math.round(slide.travel / repeat));
    const half = movedPart(band, slide, 0.5, repeat) as MeshPart;
    const by = slidRepeats(slide, repeat) / 2;
    half.mesh.uv.forEach((value, k) => {
      expect(value).toBeCloseTo(band.mesh.uv[k] - (k % 2 === 1 ? by : 0), 4);
    });
    expect(half.mesh.position).toBe(band.mesh.position);
    const input = build('path', 'wheels', { radius: 0.2, wheels: THREE }, { thickness: 0.002 });
    const mark = input.pointData[POINT.wheel];
    // below 0: that wheel is a prop
    for (let k = 0; k < mark.length; k++) if (mark[k] === 1) mark[k] = -1;
    const there = made('belt', has('flat-belt', { run: 1, thickness: 0.004 }), { input });
    expect(there.parts.some(({ id }) => id === 'wheel-1')).toBe(false);
    const track = there.motion.find(({ part }) => part === `${PROP_WHEEL}1`) as TurnTrack;
    expect(track.at).toEqual([0, 0, 0].map((value) => expect.closeTo(value, 6)));
    expect(Math.abs(track.turns)).toBeGreaterThan(0.01);
  });

  it('what moves on it is turned about its way up, and stays the right way out', () => {
    const { made: all } = belt('flat-belt', { riders: 'some', apart: 0.3, facing: Math.PI / 2 });
    const { mesh, places } = all.parts.find(({ slot }) => slot === 'riders') as PlacedPart;
    expect(signedVolume(mesh)).toBeGreaterThan(0);
    // seen from outside it turns from along the belt to across it
    const [m] = [new Matrix4().fromArray(places.matrix, 0)];
    expect(m.determinant()).toBeGreaterThan(0);
    expect(new Vector3(0, 0, 1).transformDirection(m).distanceTo(new Vector3(0, 0, 1))).toBeLessThan(1e-6);
  });

  it('on an open line it stands still, and says so', () => {
    const reported: Finding[] = [];
    const all = made('belt', has('track', { run: 3 }), { input: straight(2), report: (one) => reported.push(one) });
    expect(reported.map(({ code }) => code)).toEqual(['belt-open']);
    expect(all.motion).toEqual([]);
    expect((all.parts[0] as PlacedPart).places.id.length).toBeGreaterThan(10);
  });
});

/** How far out the outline of a wheel about z reaches at an angle: there, of its places further out than `from`. */
function outlineOf({ mesh }: MeshPart, [x, y]: readonly number[], from: number): (angle: number) => number {
  const places = Array.from({ length: mesh.position.length / 3 }, (_, v) => [
    mesh.position[3 * v] - x,
    mesh.position[3 * v + 1] - y,
  ])
    .map(([u, v]) => ({ far: Math.hypot(u, v), angle: Math.atan2(v, u) }))
    .filter(({ far }) => far > from);
  const off = (place: { angle: number }, angle: number) =>
    Math.abs(Math.atan2(Math.sin(place.angle - angle), Math.cos(place.angle - angle)));
  return (angle) => places.reduce((best, place) => (off(place, angle) < off(best, angle) ? place : best)).far;
}
