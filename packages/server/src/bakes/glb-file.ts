import { closeSync, fsyncSync, openSync, readSync, renameSync, rmSync, writeSync } from 'node:fs';
import { basename, dirname, join, resolve } from 'node:path';
import type { BakedMesh } from '@kelp/core';
import { GlbWriter } from '@kelp/formats';

/** Bytes that are copied at once. */
const BLOCK = 4 * 2 ** 20;

/** What stands beside a file while it is written. */
const besideOf = (out: string): [body: string, whole: string] => {
  const name = join(dirname(resolve(out)), `.${basename(out)}.${process.pid}`);
  return [`${name}.body.part`, `${name}.part`];
};

/** Takes away what a bake that was stopped has left beside its file. */
export function removeParts(out: string): void {
  for (const path of besideOf(out)) rmSync(path, { force: true });
}

/**
 * A GLB on the disk that grows with its meshes and is there whole or not at all: the numbers of the meshes go to a file
 * beside it as they come, then the head and they to another, which takes the place of what was there.
 */
export class GlbFile {
  private readonly writer: GlbWriter;
  private readonly body: number;

  /** @param out a path in a folder that is there */
  constructor(
    private readonly out: string,
    sceneName: string,
  ) {
    removeParts(out);
    this.body = openSync(besideOf(out)[0], 'wx+');
    this.writer = new GlbWriter(sceneName, (bytes) => writeAll(this.body, bytes));
  }

  add(mesh: BakedMesh): void {
    this.writer.add(mesh);
  }

  /** Gives the length of the file, bytes. */
  finish(): number {
    const [, path] = besideOf(this.out);
    const whole = openSync(path, 'wx');
    let length = 0;
    try {
      const write = (bytes: Uint8Array) => {
        writeAll(whole, bytes);
        length += bytes.length;
      };
      write(this.writer.head());
      const block = new Uint8Array(BLOCK);
      for (let at = 0, count = 1; count > 0; at += count) {
        count = readSync(this.body, block, 0, BLOCK, at);
        write(block.subarray(0, count));
      }
      fsyncSync(whole);
    } finally {
      closeSync(whole);
    }
    renameSync(path, this.out);
    return length;
  }

  /** To be called however it ended. */
  close(): void {
    closeSync(this.body);
    removeParts(this.out);
  }
}

function writeAll(file: number, bytes: Uint8Array): void {
  for (let at = 0; at < bytes.length; ) at += writeSync(file, bytes, at);
}
