import { closeSync, fsyncSync, openSync, readSync, renameSync, rmSync, writeSync } from 'node:fs';
import { basename, dirname, join, resolve } from 'node:path';
import type { BakedMesh, BakedMoving, BakedShaping, BakedStrands } from '@kelp/core';
import { type BakeFormat, type BakeWriter, bakeWriter, type PictureFiles } from '@kelp/formats';

/** Bytes that are copied at once. */
const BLOCK = 4 * 2 ** 20;

/** What stands beside a file while it is written: its two sections, and the whole. */
const besideOf = (out: string): [first: string, second: string, whole: string] => {
  const name = join(dirname(resolve(out)), `.${basename(out)}.${process.pid}`);
  return [`${name}.0.part`, `${name}.1.part`, `${name}.part`];
};

/** Takes away what a bake that was stopped has left beside its file. */
export function removeParts(out: string): void {
  for (const path of besideOf(out)) rmSync(path, { force: true });
}

/**
 * A file on the disk that grows with what is baked and is there whole or not at all: the sections go to files beside it as
 * they come, then the head and they to another, which takes the place of what was there.
 */
export class BakedFile {
  private readonly writer: BakeWriter;
  private readonly sections: readonly number[];

  /** @param out a path in a folder that is there */
  constructor(
    private readonly out: string,
    format: BakeFormat,
    sceneName: string,
    pictures?: PictureFiles,
  ) {
    removeParts(out);
    this.sections = besideOf(out)
      .slice(0, 2)
      .map((path) => openSync(path, 'wx+'));
    this.writer = bakeWriter(format, sceneName, (bytes, section) => writeAll(this.sections[section], bytes), pictures);
  }

  add(mesh: BakedMesh): void {
    this.writer.add(mesh);
  }

  addStrands(strands: BakedStrands): void {
    this.writer.addStrands(strands);
  }

  /** Takes what goes through shapes; none where the format holds none. */
  get addShapes(): ((shaping: BakedShaping) => void) | undefined {
    const { writer } = this;
    return writer.addShapes && ((shaping) => writer.addShapes?.(shaping));
  }

  /** Takes what moves; none where the format holds no motion. */
  get addMoving(): ((moving: BakedMoving) => void) | undefined {
    const { writer } = this;
    return writer.addMoving && ((moving) => writer.addMoving?.(moving));
  }

  /** Gives the length of the file, bytes. */
  finish(): number {
    const [, , path] = besideOf(this.out);
    const whole = openSync(path, 'wx');
    let length = 0;
    try {
      const write = (bytes: Uint8Array) => {
        writeAll(whole, bytes);
        length += bytes.length;
      };
      write(this.writer.head());
      const block = new Uint8Array(BLOCK);
      for (const section of this.sections)
        for (let at = 0, count = 1; count > 0; at += count) {
          count = readSync(section, block, 0, BLOCK, at);
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
    for (const section of this.sections) closeSync(section);
    removeParts(this.out);
  }
}

function writeAll(file: number, bytes: Uint8Array): void {
  for (let at = 0; at < bytes.length; ) at += writeSync(file, bytes, at);
}
