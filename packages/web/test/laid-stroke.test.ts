import {
  anchorOf,
  createHit,
  type DrawnPoint,
  evaluatePiece,
  newPiece,
  newShape,
  SurfaceStore,
  type Surroundings,
  World,
} from '@kelp/core';
import { templateProject } from '@kelp/demo';
import { decodeProp } from '@kelp/formats';
import { PerspectiveCamera, Vector3 } from 'three';
import { beforeAll, expect, it } from 'vitest';
import { evened, laidStroke, type StrokePlace } from '../src/pens/laid-stroke.js';
import { fitStroke } from '../src/pens/steady.js';

const [WIDTH, HEIGHT] = [740, 560];
/** Radius of a new cable, metres. */
const RADIUS = 0.012;
const hit = createHit();

let project: Awaited<ReturnType<typeof templateProject>>;
let around: Surroundings;
beforeAll(async () => {
  project = await templateProject('deck', 'Deck');
  const store = new SurfaceStore();
  for (const [hash, bytes] of project.props) store.add(hash, await decodeProp(bytes));
  around = store.surroundings(project.document);
});

/** Looks at the deck from a place; what a pointer meets is a prop, or else the water. */
function looking(from: [number, number, number]) {
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
    const prop = around.cast(from, way, hit);
    const point = { corner: false, radius: 1 };
    if (prop) return { ...point, position: [hit.point[0], hit.point[1], hit.point[2]], anchor: anchorOf(prop, hit) };
    const far = -from[1] / way[1];
    return far > 0
      ? { ...point, position: [0, 1, 2].map((k) => from[k] + far * way[k]) as [number, number, number] }
      : undefined;
  };
  const pixel = (2 * Math.hypot(...from) * Math.tan((16 * Math.PI) / 180)) / HEIGHT;
  return { eye: from, under, towards, pixel, radius: RADIUS };
}

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

it('strokes from anywhere over the deck, its posts and bollards become cables without an error', () => {
  let seed = 5;
  const random = () => {
    seed = (seed * 16807) % 2147483647;
    return seed / 2147483647;
  };
  let drawn = 0;
  let sound = 0;
  while (drawn < 40) {
    const [yaw, pitch, distance] = [2 * Math.PI * random(), 0.3 + 0.6 * random(), 4 + 5 * random()];
    const view = looking([
      distance * Math.cos(yaw) * Math.cos(pitch),
      0.6 + distance * Math.sin(pitch),
      distance * Math.sin(yaw) * Math.cos(pitch),
    ]);
    const place = (): [number, number] => [WIDTH * (0.2 + 0.6 * random()), HEIGHT * (0.25 + 0.5 * random())];
    const stroke = straight(view, place(), place());
    if (stroke.filter(({ point }) => point.anchor).length < 40) continue;
    drawn++;
    const points = fitStroke(laidStroke(stroke, view, around), RADIUS / 4);
    const piece = {
      ...newPiece('piece', 'Piece', ['line'], true),
      shape: [newShape('cling', { reach: 2.5 * RADIUS })],
    };
    const curve = { id: 'line', name: 'Line', closed: false, points };
    const document = { ...project.document, curves: [curve], pieces: [piece] };
    const { findings } = evaluatePiece(new World(document, around), piece);
    if (!findings.some(({ severity }) => severity === 'error')) sound++;
  }
  expect(sound).toBeGreaterThanOrEqual(37);
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
  for (const [x, y] of evened([[0, 0], [30, 10], [300, 100]], 1.5, 6)) expect(y).toBeCloseTo(x / 3, 9); // biome-ignore format: one line
});
