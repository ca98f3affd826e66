import {
  type BakedMoving,
  type BakedShaping,
  bake,
  emptyDocument,
  newPiece,
  newUse,
  parseDocument,
  type RideTrack,
  riddenTo,
  type SlideTrack,
  SurfaceStore,
  slidRepeats,
  type TurnTrack,
  turnedBy,
} from '@kelp/core';
import { DEMOS } from '@kelp/demo';
import validator from 'gltf-validator';
import { AnimationMixer, Matrix4, type Object3D, type SkinnedMesh, Vector3 } from 'three';
import { GLTFLoader } from 'three/addons/loaders/GLTFLoader.js';
import { beforeAll, describe, expect, it } from 'vitest';
import { decodeProp, writeBaked } from '../src/index.js';

describe('motion in a GLB', () => {
  const moving: BakedMoving[] = [];
  let bytes: Uint8Array = new Uint8Array();
  let seconds = 0;

  beforeAll(async () => {
    const yard = DEMOS.find(({ id }) => id === 'yard');
    if (!yard) throw new Error('The demo has no yard');
    const { document, props } = await yard.build();
    const store = new SurfaceStore();
    for (const [hash, mesh] of props) store.add(hash, await decodeProp(mesh));
    // its loader wants a page to load pictures with
    for (const piece of document.pieces)
      for (const dress of Object.values(piece.dress))
        if ('unit' in dress && dress.unit === 'patterned') Object.assign(dress.parameters, { pattern: 'none' });
    const { meshes } = bake(document, store, { density: 0.3, onMoving: (one) => moving.push(one) });
    seconds = document.clock.seconds;
    bytes = writeBaked('glb', { meshes, moving }, document.name);
  });

  it('passes the public glTF validator without an error and without a warning; the same gives the same bytes', async () => {
    const { issues } = await validator.validateBytes(bytes);
    expect({ errors: issues.numErrors, warnings: issues.numWarnings }).toEqual({ errors: 0, warnings: 0 });
  });

  it('a texture that runs along a belt is led by a pointer to its offset, whole repeats in a loop; valid by the public validator', async () => {
    const document = emptyDocument('Belt');
    const piece = newPiece('b', 'Belt', [], false);
    piece.path = newUse('path', 'wheels');
    Object.assign(piece.path.parameters, {
      radius: 0.2,
      wheels: [0, 1].map((x) => ({ id: `w${x}`, position: [x, 1, 0] })),
    });
    piece.make = newUse('make', 'belt');
    Object.assign(piece.make.parameters, { run: 4 });
    piece.dress = { main: newUse('dress', 'patterned', 'webbing'), wheels: newUse('dress', 'plain', 'steel') };
    document.pieces = [piece];
    const running: BakedMoving[] = [];
    const { meshes } = bake(document, new SurfaceStore(), { onMoving: (one) => running.push(one) });
    const file = writeBaked('glb', { meshes, moving: running }, 'Belt');
    const { issues } = await validator.validateBytes(file);
    expect([issues.numErrors, issues.numWarnings]).toEqual([0, 0]);
    const length = new DataView(file.buffer).getUint32(12, true);
    const json = JSON.parse(new TextDecoder().decode(file.subarray(20, 20 + length)));
    const targets = json.animations[0].channels
      .map(
        ({ target }: { target: { extensions?: Record<string, { pointer: string }> } }) =>
          target.extensions?.['KHR_animation_pointer']?.pointer,
      )
      .filter(Boolean);
    expect(targets).toHaveLength(2);
    for (const pointer of targets) {
      const found = pointer
        .split('/')
        .slice(1)
        .reduce((at: Record<string, unknown>, key: string) => at[key] as Record<string, unknown>, json);
      expect(found).toEqual([0, 0]);
    }
    const slide = running.find(({ track }) => track.kind === 'slide');
    const sampler =
      json.animations[0].samplers[
        json.animations[0].channels.find(({ target }: { target: { path: string } }) => target.path === 'pointer')
          .sampler
      ];
    const { byteOffset } = json.bufferViews[json.accessors[sampler.output].bufferView];
    const last = new DataView(file.buffer, 28 + length + byteOffset).getFloat32(12, true);
    expect(last).toBe(-slidRepeats(slide?.track as SlideTrack, 0.006));
    expect(Math.abs(last)).toBeGreaterThan(1);
  });

  it('a general library plays it to where the clock carries each part', async () => {
    // its loader asks for an image loader of a page, which nothing here needs
    const gltf = await new GLTFLoader().parseAsync(
      bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength) as ArrayBuffer,
      '',
    );
    const [clip] = gltf.animations;
    expect(clip.duration).toBeCloseTo(seconds, 6);
    const mixer = new AnimationMixer(gltf.scene);
    mixer.clipAction(clip).play();
    expect(moving.length).toBeGreaterThan(15);
    for (const share of [0, 0.25, 0.6180339]) {
      mixer.setTime(share * seconds);
      gltf.scene.updateMatrixWorld(true);
      for (const { name, track } of moving) {
        const node = find(gltf.scene, name);
        if (track.kind === 'turn') expect(far(node.matrixWorld, turned(track, share))).toBeLessThan(1e-4);
        else if (track.kind === 'ride')
          ridden(track, share).forEach((matrix, n) => {
            const child = node.children[n];
            // what is not there is as small as nothing
            if (matrix.elements[15] === 0) expect(new Vector3().setFromMatrixScale(child.matrixWorld).length()).toBe(0);
            // between keys it goes straight: on a wheel off its circle by up to 1/800 of the radius, here 0.2 m
            else if (child.scale.x > 0)
              expect([name, n, far(child.matrixWorld, matrix)]).toEqual([name, n, expect.closeTo(0, 2)]);
          });
      }
    }
  });

  it('the loop ends as it began: each place where one of its kind was, to the rounding of a file', async () => {
    for (const { track } of moving) {
      if (track.kind !== 'ride' || track.above !== undefined) continue;
      const end = ridden(track, 1);
      const begin = ridden(track, 0);
      for (const [n, step] of track.first.entries()) {
        const on = track.first.indexOf((step + track.steps) % track.of);
        expect(far(end[n], begin[on])).toBe(0);
      }
    }
  });
});

describe('shapes in a GLB', () => {
  const line = (keyed: object[]) => {
    const document = emptyDocument('Shapes');
    const points = [
      [0, 0, 0],
      [0.5, 0.1, 0],
      [1, 0, 0],
    ].map((position) => ({ position, corner: false, radius: 1 }));
    return parseDocument({
      ...document,
      curves: [{ id: 'line', name: 'Line', closed: false, points }],
      pieces: [{ ...newPiece('one', 'One', ['line'], false), keyed }],
    });
  };
  const led = (parameter: string, to: number) => [
    { stage: 'make', unit: 'cable', parameter, from: 0.01, to, way: 'back' },
  ];

  it('what a number leads through shapes is written as such, passes the validator, and is played to what is baked there', async () => {
    const shapes: BakedShaping[] = [];
    const document = line(led('radius', 0.05));
    const { meshes, pieces } = bake(document, new SurfaceStore(), { onShapes: (one) => shapes.push(one) });
    expect([meshes.length, shapes.length, pieces[0].findings]).toEqual([0, 1, []]);
    const bytes = writeBaked('glb', { meshes, shapes }, 'Shapes');
    const { issues } = await validator.validateBytes(bytes);
    expect({ errors: issues.numErrors, warnings: issues.numWarnings }).toEqual({ errors: 0, warnings: 0 });
    const gltf = await new GLTFLoader().parseAsync(
      bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength) as ArrayBuffer,
      '',
    );
    const mixer = new AnimationMixer(gltf.scene);
    mixer.clipAction(gltf.animations[0]).play();
    const body = gltf.scene.getObjectByName('One') as SkinnedMesh;
    for (const phase of [0, 0.25, 0.5, 0.75]) {
      mixer.setTime(phase * document.clock.seconds);
      const [{ mesh }] = bake(document, new SurfaceStore(), { phase }).meshes;
      const place = new Vector3();
      for (let v = 0; v < mesh.position.length / 3; v += 7)
        expect(body.getVertexPosition(v, place).distanceTo(new Vector3().fromArray(mesh.position, 3 * v))).toBeLessThan(
          1e-6,
        );
    }
  });

  it('what has not the same vertices all through is written as it begins, and reported', () => {
    const shapes: BakedShaping[] = [];
    const { meshes, pieces } = bake(line(led('sides', 12).map((key) => ({ ...key, from: 6 }))), new SurfaceStore(), {
      onShapes: (one) => shapes.push(one),
    });
    expect([meshes.length, shapes.length]).toEqual([1, 0]);
    expect(pieces[0].findings.map(({ code }) => code)).toEqual(['shapes-differ']);
  });
});

const ridden = (track: RideTrack, share: number): Matrix4[] => {
  const all = riddenTo(track, share, new Float32Array(track.local.length));
  return Array.from(track.first, (_, n) => new Matrix4().fromArray(all, 16 * n));
};

/** The node of a wheel is at its middle: its mesh is reported from there. */
const turned = (track: TurnTrack, share: number): Matrix4 =>
  new Matrix4()
    .fromArray(turnedBy(track, share, new Float64Array(16)))
    .multiply(new Matrix4().makeTranslation(...track.at));

/** Farthest that two matrices carry the corners of a cube of half a metre apart. */
const far = (a: Matrix4, b: Matrix4): number =>
  Math.max(
    ...[0, 1, 2, 3, 4, 5, 6, 7].map((k) => {
      const corner = () => new Vector3(k & 1 ? 0.25 : -0.25, k & 2 ? 0.25 : -0.25, k & 4 ? 0.25 : -0.25);
      return corner().applyMatrix4(a).distanceTo(corner().applyMatrix4(b));
    }),
  );

function find(scene: Object3D, name: string): Object3D {
  // the loader writes names without blanks
  const found = scene.getObjectByName(name.replaceAll(' ', '_'));
  if (!found) throw new Error(`No node is called "${name}"`);
  return found;
}
