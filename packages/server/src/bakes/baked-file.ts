import { closeSync, fsyncSync, openSync, readSync, renameSync, rmSync, writeFileSync, writeSync } from 'node:fs';
import { basename, dirname, extname, join, resolve } from 'node:path';
import { type BakeFormat, type BakeWriter, bakeWriter, type WriterTarget } from '@kelp/formats';

/** Bytes that are copied at once. */
const BLOCK = 4 * 2 ** 20;

/** What stands beside a file while it is written: its two sections, and the whole. */
const besideOf = (out: string): [first: string, second: string, whole: string] => {
  const name = join(dirname(resolve(out)), `.${basename(out)}.${process.pid}`);
  return [`${name}.0.part`, `${name}.1.part`, `${name}.part`];
};

/** What stands beside a file that was baked: called like it, with an ending of its own. */
export const besideFile = (out: string, ending: string): string =>
  `${out.slice(0, out.length - extname(out).length)}.${ending}`;

/** Takes away what a bake that was stopped has left beside its file. */
export function removeParts(out: string): void {
  for (const path of besideOf(out)) rmSync(path, { force: true });
}

/**
 * A file on the disk that grows with what is baked and is there whole or not at all: the sections go to files beside it as
 * they come, then the head and they to another, which takes the place of what was there.
 */
export class BakedFile {
  /** Takes what is baked. */
  readonly writer: BakeWriter;
  private readonly sections: readonly number[];

  /** @param out a path in a folder that is there */
  constructor(
    private readonly out: string,
    format: BakeFormat,
    sceneName: string,
    target?: WriterTarget,
  ) {
    removeParts(out);
    this.sections = besideOf(out)
      .slice(0, 2)
      .map((path) => openSync(path, 'wx+'));
    this.writer = bakeWriter(format, sceneName, (bytes, section) => writeAll(this.sections[section], bytes), target);
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
    const beside = this.writer.beside?.();
    if (beside) writeBeside(besideFile(this.out, beside.ending), beside.bytes);
    renameSync(path, this.out);
    return length;
  }

  /** To be called however it ended. */
  close(): void {
    for (const section of this.sections) closeSync(section);
    removeParts(this.out);
  }
}

function writeBeside(path: string, bytes: Uint8Array): void {
  const part = join(dirname(resolve(path)), `.${basename(path)}.${process.pid}.part`);
  try {
    writeFileSync(part, bytes);
    renameSync(part, path);
  } finally {
    rmSync(part, { force: true });
  }
}

export function writeAll(file: number, bytes: Uint8Array): void {
  for (let at = 0; at < bytes.length; ) at += writeSync(file, bytes, at);
}
