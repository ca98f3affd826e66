import {
  anchorOf,
  type Build,
  breadthOf,
  createHit,
  type DrawnPoint,
  endReach,
  evaluatePiece,
  findUnit,
  greatest,
  leastBow,
  newPiece,
  newShape,
  realMesh,
  type ShapeUse,
  Surface,
  SurfaceStore,
  Surroundings,
  thicknessOf,
  World,
} from '@kelp/core';
import { templateProject } from '@kelp/demo';
import { decodeProp } from '@kelp/formats';
import bunny from 'bunny';
import { BoxGeometry, PerspectiveCamera, Vector3 } from 'three';
import { beforeAll, expect, it } from 'vitest';
import { clearanceOf } from '../src/pens/clearance.js';
import { fitLaid } from '../src/pens/fit-laid.js';
import { laidPoints } from '../src/pens/laid-points.js';
import { evened, laidStroke, type StrokePlace } from '../src/pens/laid-stroke.js';

const [WIDTH, HEIGHT] = [740, 560];
/** Radius of a new cable, metres. */
const RADIUS = 0.012;
/** No vertex may be deeper in a prop than this, metres: less than what the checks allow of any of them. */
const MAX_DEPTH = 0.0003;
const hit = createHit();

let project: Awaited<ReturnType<typeof templateProject>>;
let around: Surroundings;
/** The open scanned mesh of the `bunny` package (Stanford scanning repository), 1.5 m tall; its middle in view. */
const scan = new Surroundings(
  new Map([
    [
      'scan',
      Surface.of({
        position: Float32Array.from(bunny.positions.flat(), (value, n) => 0.1 * value + (n % 3 === 1 ? -0.3 : 0)),
        index: Uint32Array.from(bunny.cells.flat()),
      }),
    ],
  ]),
);
beforeAll(async () => {
  project = await templateProject('deck', 'Deck');
  const store = new SurfaceStore();
  for (const [hash, bytes] of project.props) store.add(hash, await decodeProp(bytes));
  around = store.surroundings(project.document);
});

/** Looks at the middle of the deck from a place; what a pointer meets is a prop, or else the water. */
function looking(from: [number, number, number], on = around) {
  const camera = new PerspectiveCamera(32, WIDTH / HEIGHT, 0.01, 400);
  camera.position.set(...from);
  camera.lookAt(0, 0.6, 0);
  camera.updateMatrixWorld();
  const towards = (x: number, y: number): [number, number, number] =>
    new Vector3((2 * x) / WIDTH - 1, 1 - (2 * y) / HEIGHT, 0.5)
      .unproject(camera)
      .sub(camera.position)
      .normalize()
      .toArray();
  const under = (x: number, y: number): DrawnPoint | undefined => {
    const way = towards(x, y);
    const prop = on.cast(from, way, hit);
    const point = { corner: false, radius: 1 };
    if (prop) return { ...point, position: [hit.point[0], hit.point[1], hit.point[2]], anchor: anchorOf(prop, hit) };
    const far = -from[1] / way[1];
    return far > 0
      ? { ...point, position: [0, 1, 2].map((k) => from[k] + far * way[k]) as [number, number, number] }
      : undefined;
  };
  const pixel = (2 * Math.hypot(...from) * Math.tan((16 * Math.PI) / 180)) / HEIGHT;
  const onPage = (place: ArrayLike<number>): [number, number] => {
    const { x, y } = new Vector3(place[0], place[1], place[2]).project(camera);
    return [((x + 1) / 2) * WIDTH, ((1 - y) / 2) * HEIGHT];
  };
  return { eye: from, under, towards, onPage, pixel, radius: RADIUS };
}

/** The same course of numbers from 0 to 1 at each run. */
function chances(seed: number): () => number {
  let last = seed;
  return () => {
    last = (last * 16807) % 2147483647;
    return last / 2147483647;
  };
}

/** Looks at the middle of the deck from somewhere above it. */
function anywhere(random: () => number, on = around) {
  const [yaw, pitch, distance] = [
    2 * Math.PI * random(),
    0.3 + 0.6 * random(),
    (on === scan ? 0.5 : 1) * (4 + 5 * random()),
  ];
  return looking(
    [
      distance * Math.cos(yaw) * Math.cos(pitch),
      0.6 + distance * Math.sin(pitch),
      distance * Math.sin(yaw) * Math.cos(pitch),
    ],
    on,
  );
}

/** A new piece made by a preset. */
function pieceOf(preset: string, shape: ShapeUse) {
  const piece = { ...newPiece('piece', 'Piece', ['line'], true), shape: [shape] };
  const { parameters } = findUnit('cable')?.presets.find(({ id }) => id === preset) ?? { parameters: {} };
  piece.make.parameters = { ...piece.make.parameters, ...parameters };
  return piece;
}

/** Whether nothing wrong is reported a new piece along points; what is not reported must not be there. */
function isSound(points: readonly DrawnPoint[], closed: boolean, piece: ReturnType<typeof pieceOf>, on: Surroundings) {
  const curve = { id: 'line', name: 'Line', closed, points: [...points] };
  const document = { ...project.document, curves: [curve], pieces: [piece] };
  const build = evaluatePiece(new World(document, on), piece);
  if (build.findings.some(({ severity }) => severity === 'error')) return false;
  const { near, far } = reachOfPiece(piece);
  const ends = closed ? [] : [points[0], points[points.length - 1]];
  expect(deepest(build, ends, endReach(near, far) + far, on)).toBeLessThan(MAX_DEPTH);
  return true;
}

/**
 * How deep the deepest of all vertices is in a prop, metres; next to its ends it may go into what it hangs on. No surface
 * is within the last measured distance of a place: what is in that ball needs no question of its own.
 */
function deepest({ parts }: Build, ends: readonly DrawnPoint[], free: number, on: Surroundings): number {
  let depth = 0;
  for (const part of parts) {
    const { position } = realMesh(part);
    let clear = 0;
    let [cx, cy, cz] = position;
    for (let i = 0; i < position.length; i += 3) {
      const [x, y, z] = position.subarray(i, i + 3);
      if (Math.hypot(x - cx, y - cy, z - cz) < clear) continue;
      if (ends.some((end) => Math.hypot(end.position[0] - x, end.position[1] - y, end.position[2] - z) <= free))
        continue;
      const distance = on.signedDistance(x, y, z, hit, 1);
      depth = Math.max(depth, -distance);
      clear = Math.min(1, distance);
      [cx, cy, cz] = [x, y, z];
    }
  }
  return depth;
}

/** How far what a preset makes reaches from its line. */
function reachOf(preset: string): { near: number; far: number } {
  return reachOfPiece(pieceOf(preset, lying()));
}

function reachOfPiece({ make }: ReturnType<typeof pieceOf>): { near: number; far: number } {
  const near = greatest(thicknessOf({ make }));
  return { near, far: Math.max(near, greatest(breadthOf({ make }))) };
}

/** The hand that draws with what a preset makes. */
function handOf(view: ReturnType<typeof looking>, preset: string) {
  const { near, far } = reachOf(preset);
  return { ...view, radius: near, breadth: far };
}

/** What was laid by a pen lies on what it touches. */
const lying = (radius = RADIUS) => newShape('cling', { reach: 2.5 * radius });
const PRESETS = ['plain-cable', 'ribbed-hose', 'flat-strap'] as const;
const PLACES = ['deck', 'scan'] as const;
const everyCase = PRESETS.flatMap((preset) => PLACES.map((place) => ({ preset, place })));
const whereIs = (place: (typeof PLACES)[number]) => (place === 'deck' ? around : scan);

/** A straight stroke over the page. */
function straight(
  view: ReturnType<typeof looking>,
  a: readonly [number, number],
  b: readonly [number, number],
): StrokePlace[] {
  return Array.from({ length: 80 }, (_, i): StrokePlace[] => {
    const at = [0, 1].map((k) => a[k] + ((b[k] - a[k]) * i) / 79) as [number, number];
    const point = view.under(...at);
    return point ? [{ at, point }] : [];
  }).flat();
}

it.each(everyCase)('strokes from anywhere over the $place become a $preset without an error', ({ preset, place }) => {
  const random = chances(5);
  const on = whereIs(place);
  let drawn = 0;
  while (drawn < 50) {
    const view = anywhere(random, on);
    const at = (): [number, number] => [WIDTH * (0.2 + 0.6 * random()), HEIGHT * (0.25 + 0.5 * random())];
    const stroke = straight(view, at(), at());
    if (stroke.filter(({ point }) => point.anchor).length < 40) continue;
    drawn++;
    const { near } = reachOf(preset);
    const points = fitLaid(laidStroke(stroke, handOf(view, preset), on), false, near / 4, near, on);
    expect(isSound(points, false, pieceOf(preset, lying(reachOf(preset).near)), on), `stroke ${drawn}`).toBe(true);
  }
});

it.each(everyCase.flatMap((one) => [false, true].map((closed) => ({ ...one, closed }))))(
  'five points clicked on a course over the $place become a $preset without an error (closed: $closed)',
  ({ preset, place, closed }) => {
    const random = chances(closed ? 11 : 3);
    const on = whereIs(place);
    let drawn = 0;
    while (drawn < 50) {
      const view = anywhere(random, on);
      // a course turns by less than a right angle at each of its points
      const way = 2 * Math.PI * random();
      const size = 60 + 80 * random();
      const page = Array.from({ length: 5 }, (_, k): [number, number] => {
        const turn = way + (closed ? (2 * Math.PI * k) / 5 : 0);
        const far = closed ? size * (0.8 + 0.4 * random()) : 0;
        const side = closed ? 0 : 90 * (random() - 0.5);
        const along = closed ? 0 : (k - 2) * size * 0.9;
        return [
          WIDTH / 2 + (far + along) * Math.cos(turn) - side * Math.sin(turn),
          HEIGHT / 2 + 0.7 * ((far + along) * Math.sin(turn) + side * Math.cos(turn)),
        ];
      });
      const clicked = page.flatMap((at) => view.under(...at) ?? []);
      if (clicked.length < 5 || !clicked.every(({ anchor }) => anchor)) continue;
      drawn++;
      const line = laidPoints(clicked, closed, handOf(view, preset), on, reachOf(preset).near / 2);
      expect(isSound(line, closed, pieceOf(preset, lying(reachOf(preset).near)), on), `course ${drawn}`).toBe(true);
    }
  },
);

it.each(everyCase)(
  'a $preset thrown over the $place with its least bow is reported nothing wrong',
  ({ preset, place }) => {
    const random = chances(9);
    const on = whereIs(place);
    let found = 0;
    for (let drawn = 0; drawn < 50; drawn++) {
      const view = anywhere(random, on);
      const ends = Array.from({ length: 2 }, () =>
        view.under(WIDTH * (0.3 + 0.4 * random()), HEIGHT * (0.3 + 0.4 * random())),
      );
      const [from, to] = ends;
      if (!from?.anchor || !to?.anchor) continue;
      const bow = leastBow(from.position, to.position, (line) => clearanceOf(line, reachOf(preset), on, []) > 0.001);
      if (!bow) continue;
      found++;
      expect(isSound([from, to], false, pieceOf(preset, newShape('sag', bow)), on)).toBe(true);
    }
    expect(found).toBeGreaterThan(1);
  },
);

it('points clicked on a plain face stay those that were clicked; so do points that are hidden from here', () => {
  const above = looking([0.01, 7, 0.02]);
  const position = Float32Array.from(new BoxGeometry(6, 0.1, 6).toNonIndexed().getAttribute('position').array);
  const bare = Surface.of({ position, index: Uint32Array.from({ length: position.length / 3 }, (_, v) => v) });
  const floor = new Surroundings(new Map([['floor', bare]]));
  const on = (x: number, z: number): DrawnPoint => {
    floor.cast([x, 3, z], [0, -1, 0], hit);
    return { position: [x, 0.05, z], corner: false, radius: 1, anchor: anchorOf('floor', hit) };
  };
  const clicked = [on(-1, 0), on(0, 0.4), on(1, 0)];
  const under = (x: number, y: number) => {
    const way = above.towards(x, y);
    return floor.cast(above.eye, way, hit) ? on(hit.point[0], hit.point[2]) : undefined;
  };
  expect(laidPoints(clicked, false, { ...above, under }, floor, RADIUS / 4)).toBe(clicked);
  const behind = { ...clicked[1], position: [0, -2, 0.4] as [number, number, number] };
  const hidden = [clicked[0], behind, clicked[2]];
  expect(laidPoints(hidden, false, { ...above, under }, floor, RADIUS / 4)).toBe(hidden);
});

it('a clicked line whose end snapped to something in the air is laid as well, and goes there; behind what is seen it is not', () => {
  const view = looking([0.5, 4, 5]);
  const on = [240, 330, 420].flatMap((x, k) => view.under(x, 300 + 20 * k) ?? []);
  const way = view.towards(480, 330);
  const at = (far: number): DrawnPoint => ({
    position: [0, 1, 2].map((k) => view.eye[k] + far * way[k]) as [number, number, number],
    corner: false,
    radius: 1,
  });
  const seen = Math.hypot(...(view.under(480, 330)?.position ?? []).map((value, k) => value - view.eye[k]));
  const inFront = [...on, at(seen - 0.1)];
  const line = laidPoints(inFront, false, view, around, RADIUS / 2);
  expect(line.length).toBeGreaterThan(inFront.length);
  expect(line[line.length - 1].position).toEqual(inFront[3].position);
  expect(isSound(line, false, pieceOf('plain-cable', lying()), around)).toBe(true);
  const behind = [...on, at(30)];
  expect(laidPoints(behind, false, view, around, RADIUS / 2)).toBe(behind);
});

it('an end goes where it snapped to, in the air or along its prop; a stroke that meets no prop stays as it was drawn', () => {
  const view = looking([0.5, 4, 5]);
  const stroke = straight(view, [300, 300], [420, 330]);
  const inTheAir: DrawnPoint = { position: [0.2, 1.8, 0.1], corner: false, radius: 1 };
  const line = laidStroke([...stroke.slice(0, -1), { at: stroke[79].at, point: inTheAir }], view, around);
  expect(line[line.length - 1].position).toEqual(inTheAir.position);
  const far = looking([0, 60, 1]);
  const water = straight(far, [20, 20], [60, 30]);
  expect(water.every(({ point }) => point.anchor === undefined)).toBe(true);
  expect(laidStroke(water, far, around)).toEqual(water.map(({ point }) => point));
});

it('a hand’s line is evened with its ends where they are, in even steps, and a straight one stays straight', () => {
  const shaky = Array.from({ length: 50 }, (_, i): [number, number] => [4 * i, i % 2 === 0 ? 3 : -3]);
  const even = evened(shaky, 2, 8);
  expect([even[0], even[even.length - 1]]).toEqual([shaky[0], shaky[49]]);
  for (const [, y] of even.slice(20, -20)) expect(Math.abs(y)).toBeLessThan(0.3);
  for (const [x, y] of evened(
    [
      [0, 0],
      [30, 10],
      [300, 100],
    ],
    1.5,
    6,
  ))
    expect(y).toBeCloseTo(x / 3, 9);
});
