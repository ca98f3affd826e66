import { spawnSync } from 'node:child_process';
import { existsSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { type BakedMesh, bake, boundsOf, mergeMeshes, readyFor, SurfaceStore } from '@kelp/core';
import { DEMOS } from '@kelp/demo';
import { afterAll, describe, expect, it } from 'vitest';
import { signedVolume } from '../../core/src/mesh/measure.js';
import { encoderReady, readStored, writeBaked } from '../src/index.js';
import { readUsda } from './usda-reader.js';

// What Kelp bakes, opened by programs of others: assimp 5 (Open Asset Import Library) and admesh, as Debian has them; USDA
// by the published grammar of its text files. `npm test` installs both programs; without them these tests are left out.

const ASSIMP = '/usr/bin/assimp';
const ADMESH = '/usr/bin/admesh';

const folder = mkdtempSync(join(tmpdir(), 'kelp-readers-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

function read(program: string, args: string[]): string {
  const { stdout, stderr } = spawnSync(program, args, { encoding: 'utf8' });
  return `${stdout}${stderr}`;
}

const figure = (text: string, name: RegExp): number => Number(text.match(name)?.[1]);

/** What assimp counts in a file, with the box around it; nothing of it is changed as it is read. */
function byAssimp(path: string) {
  const text = read(ASSIMP, ['info', path, '-r']);
  const point = (name: string) =>
    [1, 2, 3].map((k) => Number(text.match(new RegExp(`${name} point +\\((\\S+) (\\S+) (\\S+)\\)`))?.[k]));
  return {
    meshes: figure(text, /^Meshes: +(\d+)$/m),
    vertices: figure(text, /^Vertices: +(\d+)$/m),
    faces: figure(text, /^Faces: +(\d+)$/m),
    box: [...point('Minimum'), ...point('Maximum')],
  };
}

const saved = (name: string, bytes: Uint8Array): string => {
  const path = join(folder, name);
  writeFileSync(path, bytes);
  return path;
};

/** All of a project of the demo that is meshes. */
async function bakedDemo({ build }: (typeof DEMOS)[number]): Promise<BakedMesh[]> {
  const { document, props } = await build();
  const store = new SurfaceStore();
  await readStored(document, props, store);
  await readyFor(document);
  // strands by the ten thousand would show nothing that others do not
  return bake(document, store, { density: 0.15, onStrands: () => {} }).meshes.filter(
    ({ mesh }) => mesh.index.length > 0,
  );
}

describe.each(DEMOS.map((demo) => ({ demo, name: demo.id })))('of the demo $name, others read', ({ demo }) => {
  it.skipIf(![ASSIMP, ADMESH].every(existsSync))(
    'as many meshes, vertices and faces, the same box and the same volume',
    async () => {
      await encoderReady();
      const meshes = await bakedDemo(demo);
      const all = mergeMeshes(meshes.map(({ mesh }) => mesh));
      const { min, max } = boundsOf(all.position);
      const box = [...min, ...max].map((value) => expect.closeTo(value, 3));
      const [vertices, faces] = [all.position.length / 3, all.index.length / 3];
      const quads = meshes.reduce((sum, { mesh }) => sum + mesh.quads, 0);
      const files = Object.fromEntries(
        (['glb', 'obj', 'ply', 'stl'] as const).map((format) => [
          format,
          saved(`${demo.id}.${format}`, writeBaked(format, { meshes }, demo.id)),
        ]),
      );
      expect(byAssimp(files['glb'])).toEqual({ meshes: meshes.length, vertices, faces, box });
      expect(byAssimp(files['ply'])).toEqual({ meshes: 1, vertices, faces, box });
      // each corner of a triangle is a vertex of its own
      expect(byAssimp(files['stl'])).toEqual({ meshes: 1, vertices: 3 * faces, faces, box });
      // two triangles of a quad are one face of four corners
      expect(byAssimp(files['obj'])).toEqual({
        meshes: meshes.length,
        vertices: 3 * faces - 2 * quads,
        faces: faces - quads,
        box,
      });

      const report = read(ADMESH, ['--no-check', files['stl']]);
      expect(figure(report, /Number of facets +: +(\d+)/)).toBe(faces);
      // it reckons in single precision, and reports six decimals
      const volume = signedVolume(all);
      expect(Math.abs(figure(report, /Volume +: +(\S+)/) - volume)).toBeLessThan(1e-6 + 1e-4 * volume);

      const { prims } = readUsda(new TextDecoder().decode(writeBaked('usda', { meshes }, demo.id)));
      const found = prims[0].children.filter(({ kind }) => kind === 'Mesh');
      const lengths = (name: string) =>
        found.reduce(
          (sum, { properties }) => sum + ((properties.get(name)?.value as unknown[] | undefined)?.length ?? 0),
          0,
        );
      expect([found.length, lengths('points'), lengths('faceVertexCounts')]).toEqual([meshes.length, vertices, faces]);
    },
  );
});
