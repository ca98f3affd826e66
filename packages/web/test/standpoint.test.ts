import type { Mesh } from '@kelp/core';
import fc from 'fast-check';
import { PerspectiveCamera, Vector3 } from 'three';
import { expect, it } from 'vitest';
import { evenly } from '../../core/test/helpers.js';
import { closeUpOf, standpointFor } from '../src/look/standpoint.js';

const coordinate = evenly(-50, 50);
const mesh = (position: number[]): Mesh => ({ position: Float32Array.from(position) }) as Mesh;

it('a picture holds all of what it is of, near its edge on at least one side, whatever its shape and wherever it is', () => {
  const cloud = fc.array(fc.tuple(coordinate, coordinate, coordinate), { minLength: 2, maxLength: 40 });
  const from = fc.tuple(fc.double({ min: 0.1, max: 1, noNaN: true }), fc.double({ min: 0.1, max: 1, noNaN: true }));
  fc.assert(
    fc.property(cloud, from, fc.constantFrom(0.6, 1, 1.6, 2.5), (points, [x, y], aspect) => {
      const far = Math.max(
        ...points.map((a) => Math.max(...points.map((b) => Math.hypot(...a.map((v, k) => v - b[k]))))),
      );
      fc.pre(far > 0.5);
      const { eye, at } = standpointFor([mesh(points.flat())], new Vector3(x, y, 1), aspect);
      const camera = new PerspectiveCamera(24, aspect, 0.001, 1e5);
      camera.position.copy(eye);
      camera.lookAt(at);
      camera.updateMatrixWorld();
      const seen = points.map(([a, b, c]) =>
        new Vector3(Math.fround(a), Math.fround(b), Math.fround(c)).project(camera),
      );
      const widest = Math.max(...seen.map((place) => Math.max(Math.abs(place.x), Math.abs(place.y))));
      expect(widest).toBeLessThanOrEqual(1 + 1e-6);
      expect(widest).toBeGreaterThan(0.9);
      for (const place of seen) expect(place.z).toBeLessThan(1);
    }),
  );
});

it('of what is thin in the whole picture a stretch is seen close up, more than a fifth of its height thick; of what is thick none', () => {
  const whole = { eye: new Vector3(0, 0, 10), at: new Vector3() };
  const heightAt = ({ eye, at }: typeof whole) => 2 * eye.distanceTo(at) * Math.tan((12 * Math.PI) / 180);
  const place = new Vector3(1, 2, 3);
  const near = closeUpOf(whole, place, 0.02)!;
  expect(near.at).toEqual(place);
  expect(near.eye.clone().sub(near.at).normalize().z).toBeCloseTo(1, 9);
  expect(0.02 / heightAt(near)).toBeCloseTo(0.22, 9);
  expect(closeUpOf(whole, place, 0.1 * heightAt(whole))).toBeUndefined();
  expect(closeUpOf(whole, place, 0)).toBeUndefined();
});
