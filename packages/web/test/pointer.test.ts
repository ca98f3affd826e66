import { type Mesh, SurfaceStore, type Surroundings } from '@kelp/core';
import fc from 'fast-check';
import {
  Mesh as Body,
  BoxGeometry,
  type BufferGeometry,
  Group,
  MeshBasicMaterial,
  PerspectiveCamera,
  Scene,
  SphereGeometry,
  Vector3,
} from 'three';
import { describe, expect, it } from 'vitest';
import type { PieceBuild } from '../src/evaluation/protocol.js';
import { bodyUnder, nearestOnLine } from '../src/pens/pick.js';
import { onScreen, placeInView, pointUnder, rayAt } from '../src/pens/pointer.js';
import { snapped } from '../src/pens/snap.js';

const WIDTH = 800;
const HEIGHT = 500;
/** A view that does not begin in the corner of the page. */
const element = {
  getBoundingClientRect: () => ({ left: 30, top: 20, width: WIDTH, height: HEIGHT }),
} as unknown as HTMLElement;

function lookingFrom(x: number, y: number, z: number): PerspectiveCamera {
  const camera = new PerspectiveCamera(32, WIDTH / HEIGHT, 0.01, 400);
  camera.position.set(x, y, z);
  camera.lookAt(0, 0, 0);
  camera.updateMatrixWorld();
  return camera;
}
const camera = lookingFrom(3, 2.5, 4);

function surroundingsOf(geometry: BufferGeometry): Surroundings {
  const surfaces = new SurfaceStore();
  const index = geometry.index ? Uint32Array.from(geometry.index.array) : new Uint32Array(0);
  const position = Float32Array.from(geometry.getAttribute('position').array);
  // corners that are split for their normals are one corner here
  const first = new Map<string, number>();
  const joined = index.map((vertex) => {
    const key = [0, 1, 2].map((k) => position[3 * vertex + k].toFixed(5)).join(' ');
    if (!first.has(key)) first.set(key, vertex);
    return first.get(key)!;
  });
  surfaces.add('mesh', { position, index: joined } as Mesh);
  const placement = { position: [0, 0, 0], rotation: [0, 0, 0, 1], scale: 1 } as const;
  const prop = { id: 'prop', name: '', mesh: 'mesh', placement, visible: true, colour: '#cccccc' };
  return surfaces.surroundings({ props: [prop as never] });
}
const cube = surroundingsOf(new BoxGeometry(1, 1, 1));
const ball = surroundingsOf(new SphereGeometry(0.6, 64, 48));

const near = fc.double({ min: -0.8, max: 0.8, noNaN: true });
const place = fc.tuple(near, near, near);
const pixel = fc.tuple(fc.double({ min: 30, max: 830, noNaN: true }), fc.double({ min: 20, max: 520, noNaN: true }));

describe('between the page and the scene', () => {
  it('a place that is seen at a pixel lies on the ray through that pixel, and is found again in its own plane', () => {
    fc.assert(
      fc.property(place, (at) => {
        const [x, y] = onScreen(camera, element, at)!;
        expect(rayAt(camera, element, x, y).ray.distanceToPoint(new Vector3(...at))).toBeLessThan(1e-6);
        const again = placeInView(camera, element, x, y, at)!;
        for (let k = 0; k < 3; k++) expect(again[k]).toBeCloseTo(at[k], 6);
      }),
    );
    expect(onScreen(camera, element, [9, 7.5, 12])).toBeUndefined();
  });

  it('a pen draws on the prop under it, else on the ground, and never in the sky', () => {
    fc.assert(
      fc.property(pixel, ([x, y]) => {
        const found = pointUnder(camera, element, x, y, ball);
        if (!found) return expect(rayAt(camera, element, x, y).ray.direction.y).toBeGreaterThan(-0.01);
        expect(Math.hypot(...onScreen(camera, element, found.position)!.map((v, k) => v - [x, y][k]))).toBeLessThan(
          0.05,
        );
        if (found.anchor) expect(Math.hypot(...found.position)).toBeCloseTo(0.6, 2);
        else expect(found.position[1]).toBeCloseTo(0, 9);
      }),
    );
  });
});

describe('what the pointer touches', () => {
  const line = (...points: [number, number, number][]) => ({
    position: Float64Array.from(points.flat()),
    start: Uint32Array.from([0, points.length]),
    closed: Uint8Array.of(0),
    id: Uint32Array.of(1),
  });

  it('the nearest place of a line on the screen is the one that trying very many finds', () => {
    fc.assert(
      fc.property(fc.array(place, { minLength: 2, maxLength: 6 }), pixel, (points, [x, y]) => {
        const found = nearestOnLine(line(...points), camera, element, x, y)!;
        let least = Infinity;
        for (let p = 0; p + 1 < points.length; p++)
          for (let i = 0; i <= 400; i++) {
            const at = points[p].map((value, k) => value + ((points[p + 1][k] - value) * i) / 400);
            const [u, v] = onScreen(camera, element, at)!;
            least = Math.min(least, Math.hypot(u - x, v - y));
          }
        expect(found.distance).toBeLessThanOrEqual(least + 1e-6);
        expect(found.distance).toBeGreaterThan(least - 3);
      }),
      { numRuns: 50 },
    );
  });

  it('is the foremost piece; a thin line on a prop comes before the prop, a locked piece is passed over', () => {
    const scene = new Scene();
    const body = (owner: Record<string, string>, size: number, z: number) => {
      const group = new Group();
      group.userData = owner;
      group.add(new Body(new BoxGeometry(size, size, size), new MeshBasicMaterial()));
      group.position.z = z;
      scene.add(group);
    };
    body({ prop: 'pier' }, 1, 0);
    body({ piece: 'hose' }, 0.2, 1);
    scene.updateMatrixWorld(true);
    const front = lookingFrom(0, 0, 5);
    const thin = { piece: 'thread', guide: line([-0.4, 0.3, 0.5], [0.4, 0.3, 0.5]) } as unknown as PieceBuild;
    const builds = new Map([['thread', thin]]);
    const at = (x: number, y: number, z: number, locked: string[] = []) => {
      const [u, v] = onScreen(front, element, [x, y, z])!;
      return bodyUnder(scene, builds, new Set(locked), front, element, u, v);
    };
    expect(at(0, 0, 1)).toEqual({ piece: 'hose' });
    expect(at(0, 0, 1, ['hose'])).toEqual({ piece: undefined, prop: 'pier' });
    expect(at(0.2, 0.3, 0.5)).toEqual({ piece: 'thread', prop: 'pier' });
    expect(at(0.2, 0.3, 0.5, ['thread'])).toEqual({ piece: undefined, prop: 'pier' });
    expect(at(0.9, 0.9, 0)).toEqual({ piece: undefined });
  });
});

describe('snapping', () => {
  const drawnAt = (surroundings: Surroundings, at: [number, number, number], dx = 0, dy = 0) => {
    const [x, y] = onScreen(camera, element, at)!;
    const point = pointUnder(camera, element, x + dx, y + dy, surroundings)!;
    return { point, to: snapped(point, [x + dx, y + dy], camera, element, surroundings, []) };
  };

  it('a corner holds beside it, an edge along it, the middle of a face not at all', () => {
    // a little inside the face, as a hand would be
    const corner = drawnAt(cube, [0.48, 0.48, 0.5]).to;
    for (let k = 0; k < 3; k++) expect(corner.position[k]).toBeCloseTo(0.5, 6);
    const edge = drawnAt(cube, [0.1, 0.48, 0.5]).to;
    expect(edge.position[1]).toBeCloseTo(0.5, 6);
    expect(edge.position[2]).toBeCloseTo(0.5, 6);
    expect(Math.abs(edge.position[0] - 0.1)).toBeLessThan(0.03);
    const { point, to } = drawnAt(cube, [0.1, 0.1, 0.5]);
    expect(to).toBe(point);
  });

  it('a round body has no edge to hold on to; a drawn point holds before all else', () => {
    const { point, to } = drawnAt(ball, [0.3, 0.35, 0.38]);
    expect(point.anchor).toBeDefined();
    expect(to).toBe(point);
    const other = { point: { ...point, anchor: undefined }, position: [0.5, 0.5, 0.5] as const };
    const [x, y] = onScreen(camera, element, [0.5, 0.5, 0.5])!;
    const free = snapped(point, [x + 4, y - 4], camera, element, cube, [other]);
    expect(free.position).toEqual([0.5, 0.5, 0.5]);
    expect(free.anchor).toBeUndefined();
  });
});
