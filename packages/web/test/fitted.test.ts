import fc from 'fast-check';
import { PerspectiveCamera, Vector3 } from 'three';
import { expect, it } from 'vitest';
import { fitted } from '../src/view/fitted.js';

const FOV = 35;
const side = fc.double({ min: -80, max: 80, noNaN: true });
const corner = fc.tuple(side, side, side);
const share = fc.double({ min: 0.02, max: 1, noNaN: true });

it('a scene of any shape, seen from anywhere above, is seen whole and fills the picture on one axis', () => {
  fc.assert(
    fc.property(corner, corner, fc.tuple(share, share, share), fc.constantFrom(0.6, 1.3, 2.5), (a, b, from, aspect) => {
      const min = a.map((value, k) => Math.min(value, b[k])) as [number, number, number];
      const max = a.map((value, k) => Math.max(value, b[k])) as [number, number, number];
      fc.pre(Math.hypot(...max.map((value, k) => value - min[k])) > 0.5);
      const direction = new Vector3(...from).normalize();
      const { target, distance } = fitted({ min, max }, direction, FOV, aspect, 1);
      const camera = new PerspectiveCamera(FOV, aspect, 1e-3, 1e5);
      camera.position.copy(target).addScaledVector(direction, distance);
      camera.lookAt(target);
      camera.updateMatrixWorld();
      const seen = Array.from({ length: 8 }, (_, i) =>
        new Vector3(i & 1 ? max[0] : min[0], i & 2 ? max[1] : min[1], i & 4 ? max[2] : min[2]).project(camera),
      );
      const reach = (['x', 'y'] as const).map((axis) => {
        const at = seen.map((place) => place[axis]);
        return [Math.min(...at), Math.max(...at)];
      });
      for (const [low, high] of reach) {
        expect(low).toBeGreaterThan(-1 - 1e-6);
        expect(high).toBeLessThan(1 + 1e-6);
      }
      // what is seen nearly from its end is kept at a small distance; all else fills the picture
      const nearest = Math.max(
        ...[0, 1, 2, 3, 4, 5, 6, 7].map((i) =>
          new Vector3(i & 1 ? max[0] : min[0], i & 2 ? max[1] : min[1], i & 4 ? max[2] : min[2])
            .sub(target)
            .dot(direction),
        ),
      );
      const span = Math.hypot(...max.map((value, k) => value - min[k]));
      if (distance - nearest > 0.0501 * span)
        expect(Math.max(...reach.map(([low, high]) => (high - low) / 2))).toBeCloseTo(1, 4);
    }),
    { numRuns: 300 },
  );
});

it('a place without any size is looked at from near by, never from inside it', () => {
  const { target, distance } = fitted({ min: [3, 1, 2], max: [3, 1, 2] }, new Vector3(0, 0, 1), FOV, 1, 1);
  expect(target.toArray()).toEqual([expect.closeTo(3), expect.closeTo(1), expect.closeTo(2)]);
  expect(distance).toBeGreaterThan(0);
});
