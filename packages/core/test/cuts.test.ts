import { BoxGeometry, type BufferGeometry, SphereGeometry } from 'three';
import { expect, it } from 'vitest';
import { evaluatePiece, Surface, Surroundings, World } from '../src/index.js';
import { alongPoints } from './projects.js';

type Place = [number, number, number];

/** A closed box of the graphics library, its middle somewhere. */
function boxAt([x, y, z]: Place, size: Place): Surface {
  return surfaceOf(new BoxGeometry(...size).translate(x, y, z));
}

function surfaceOf(geometry: BufferGeometry): Surface {
  const position = Float32Array.from(geometry.toNonIndexed().getAttribute('position').array);
  return Surface.of({ position, index: Uint32Array.from({ length: position.length / 3 }, (_, v) => v) });
}

/** What is told of a round cable of 10 mm radius that cuts into what is there. */
function cutsOf(points: readonly Place[], surface: Surface, closed = false) {
  const { document, piece } = alongPoints(points, ({ make }) => {
    make.parameters['radius'] = 0.01;
  });
  Object.assign(document.curves[0], { closed });
  for (const point of document.curves[0].points) point.corner = true;
  const world = new World(document, new Surroundings(new Map([['box', surface]])));
  return evaluatePiece(world, piece).findings.filter(({ code }) => code === 'cuts-prop');
}

const crate = () => boxAt([0, 0, 0], [1, 0.4, 0.6]);

it('a cable through a box is told once, at its deepest, with how deep', () => {
  const told = cutsOf([[-2, 0, 0.05], [2, 0, 0.05]], crate()); // biome-ignore format: one line
  expect(told).toHaveLength(1);
  // 0.2 m below its top and bottom, and the section's own radius
  expect(told[0].size?.value).toBeCloseTo(0.21, 3);
  expect(Math.abs(told[0].place![0])).toBeLessThan(0.5);
});

it('one that grazes the top is told by how much its section goes in; one that lies on it is not', () => {
  expect(cutsOf([[-2, 0.21, 0], [2, 0.21, 0]], crate())).toEqual([]); // biome-ignore format: one line
  const [told] = cutsOf([[-2, 0.206, 0], [2, 0.206, 0]], crate()); // biome-ignore format: one line
  expect(told.size?.value).toBeCloseTo(0.004, 5);
  expect(told.place![1]).toBeCloseTo(0.2, 5);
});

it('one that is wholly inside is told with its depth', () => {
  const told = cutsOf([[-0.3, 0, 0.1], [0.3, 0, 0.1]], crate()); // biome-ignore format: one line
  expect(told).toHaveLength(1);
  expect(told[0].size?.value).toBeCloseTo(0.21, 3);
});

it('a post through the edge that closes a ring is told', () => {
  const ring: Place[] = [[0, 0, 0], [1, 0, 0], [1, 0, 1], [0, 0, 1]]; // biome-ignore format: one line
  expect(cutsOf(ring, boxAt([0, 0, 0.5], [0.1, 1, 0.1]), true)).toHaveLength(1);
  expect(cutsOf(ring, boxAt([0.5, 0, 0.5], [0.1, 1, 0.1]), true)).toEqual([]);
});

it('behind the faces of an open shell is not inside it', () => {
  const shell = surfaceOf(new SphereGeometry(1, 32, 16, 0, 2 * Math.PI, 0, Math.PI / 2));
  expect(cutsOf([[-0.3, 0.3, 0.1], [0.3, 0.3, 0.1]], shell)).toEqual([]); // biome-ignore format: one line
});
