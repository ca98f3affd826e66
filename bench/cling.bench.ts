import { newShape, resample, Surface, Surroundings, singleCurve, unitOf } from '@kelp/core';
import { BufferAttribute, BufferGeometry, SphereGeometry, Vector3 } from 'three';
import { MeshBVH } from 'three-mesh-bvh';
import { bareContext } from './context.js';
import { fastestPair, type Result } from './measure.js';

const SAMPLES = 100_000;

/** Cling of 100,000 samples on a 70,000-triangle mesh against one bare closest-point call for each sample. */
export function clingBench(): Result[] {
  // a ball with dents: 187 · 188 quads
  const ball = new SphereGeometry(1, 188, 187).toNonIndexed();
  const source = ball.attributes['position'].array as Float32Array;
  const position = source.map(
    (value, i) => value * (1 + 0.03 * Math.sin(9 * source[i - (i % 3)]) * Math.sin(8 * source[i - (i % 3) + 1])),
  );
  const index = Uint32Array.from({ length: position.length / 3 }, (_, i) => i);
  const surroundings = new Surroundings(new Map([['ball', Surface.of({ position, index })]]));
  const geometry = new BufferGeometry();
  geometry.setAttribute('position', new BufferAttribute(position, 3));
  const tree = new MeshBVH(geometry);
  const spiral = singleCurve(
    Float64Array.from({ length: 3 * SAMPLES }, (_, i) => {
      const t = Math.floor(i / 3) / SAMPLES;
      const [turn, tilt] = [60 * Math.PI * t, Math.PI * (0.1 + 0.8 * t)];
      return 1.05 * [Math.sin(tilt) * Math.cos(turn), Math.cos(tilt), Math.sin(tilt) * Math.sin(turn)][i % 3];
    }),
  );
  const unit = unitOf('shape', 'cling');
  const use = newShape('cling');
  // so thick that the unit takes about as many samples as the line has
  const thickness = 0.0026;
  const context = bareContext(thickness, surroundings);
  const held = unit.build(spiral, use.parameters, context);
  const samples = held.position.length / 3;
  const bare = resample(spiral, { steps: samples - 1 }).position;
  const asked = new Vector3();
  const found = { point: new Vector3(), distance: 0, faceIndex: 0 };
  const calls = () => {
    for (let i = 0; i < bare.length; i += 3)
      tree.closestPointToPoint(asked.set(bare[i], bare[i + 1], bare[i + 2]), found);
  };
  const [ours, theirs] = fastestPair(() => unit.build(spiral, use.parameters, context), calls, 3);
  return [
    {
      name: `cling: ${samples.toLocaleString('en')} samples on ${(index.length / 3).toLocaleString('en')} triangles, time over bare closest-point calls`,
      value: ours / theirs,
      goal: 1.5,
      better: 'less',
    },
  ];
}
