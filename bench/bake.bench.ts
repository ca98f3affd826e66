import { closeSync, copyFileSync, fsyncSync, mkdtempSync, openSync, rmSync, statSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { type BakedMesh, bake, emptyDocument, KeptPieces, meshBytes, newPiece, SurfaceStore } from '@kelp/core';
import { BakedFile } from '../packages/server/src/bakes/baked-file.js';
import type { Result } from './measure.js';

/** This many cables of this many triangles each: ten million together. */
const PIECES = 20;
const TRIANGLES = 500_000;

/** A bake of ten million triangles: what it holds in memory against its largest piece, and how fast it writes against a copy. */
export async function bakeBench(): Promise<Result[]> {
  const folder = mkdtempSync(join(tmpdir(), 'kelp-bench-'));
  try {
    return measured(join(folder, 'all.glb'), join(folder, 'copy.glb'));
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

function measured(out: string, copy: string): Result[] {
  const document = emptyDocument('Ten million');
  for (let k = 0; k < PIECES; k++) {
    const points = Array.from({ length: 200 }, (_, i) => ({
      position: [i * 0.1, Math.sin(i / 3 + k), 2 * k] as [number, number, number],
      corner: false,
      radius: 1,
    }));
    document.curves.push({ id: `c${k}`, name: `C${k}`, closed: false, points });
    const piece = newPiece(`p${k}`, `Cable ${k}`, [`c${k}`], false);
    Object.assign(piece.make.parameters, { sides: 64, spacing: 1000 });
    document.pieces.push(piece);
  }
  const store = new SurfaceStore();
  const one = bake(document, store, { pieces: ['Cable 0'] }).meshes[0].mesh;
  const density = Math.sqrt(TRIANGLES / (one.index.length / 3));
  globalThis.gc?.();
  const before = process.memoryUsage().arrayBuffers;
  let [most, largest, writing] = [0, 0, Infinity];
  let triangles = 0;
  for (let run = 0; run < 3; run++) {
    rmSync(out, { force: true });
    const file = new BakedFile(out, 'glb', document.name);
    triangles = 0;
    let taken = 0;
    const timed = <T>(work: () => T): T => {
      const started = performance.now();
      const done = work();
      taken += performance.now() - started;
      return done;
    };
    bake(document, store, {
      density,
      onMesh(mesh: BakedMesh) {
        // what only waits for the collector is not needed
        for (const _ of [0, 1]) globalThis.gc?.();
        most = Math.max(most, process.memoryUsage().arrayBuffers - before);
        largest = Math.max(largest, meshBytes(mesh.mesh));
        triangles += mesh.mesh.index.length / 3;
        timed(() => file.writer.add(mesh));
      },
    });
    timed(() => file.finish());
    file.close();
    writing = Math.min(writing, taken);
  }
  const copying = fastestCopy(out, copy);
  const kept = new KeptPieces(2 ** 31);
  const timeOf = () => {
    const started = performance.now();
    bake(document, store, { density, kept, onMesh: () => {} });
    return performance.now() - started;
  };
  const whole = timeOf();
  document.pieces[7].make = {
    ...document.pieces[7].make,
    parameters: { ...document.pieces[7].make.parameters, radius: 0.02 },
  };
  const again = timeOf();
  const mb = (bytes: number) => (bytes / 2 ** 20).toFixed(0);
  return [
    {
      name: `${(triangles / 1e6).toFixed(1)} million triangles: memory (${mb(most)} MB) over the largest piece (${mb(largest)} MB)`,
      value: most / largest,
      goal: 1.5,
      better: 'less',
    },
    {
      name: `writing them (${mb(statSync(out).size)} MB in ${writing.toFixed(0)} ms): share of the speed of copying the file to the disk`,
      value: copying / writing,
      goal: 0.6,
      better: 'more',
    },
    {
      name: `baked again after a change of one of ${PIECES} pieces (${again.toFixed(0)} ms): share of the first time (${whole.toFixed(0)} ms)`,
      value: again / whole,
      goal: 2 / PIECES,
      better: 'less',
    },
  ];
}

/** A copy counts when it is on the disk, as a bake does. */
function fastestCopy(from: string, to: string): number {
  let best = Infinity;
  for (let k = 0; k < 3; k++) {
    rmSync(to, { force: true });
    const started = performance.now();
    copyFileSync(from, to);
    const file = openSync(to, 'r+');
    fsyncSync(file);
    closeSync(file);
    best = Math.min(best, performance.now() - started);
  }
  return best;
}
