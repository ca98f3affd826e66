import {
  closeSync,
  fstatSync,
  fsyncSync,
  openSync,
  readSync,
  renameSync,
  rmSync,
  writeFileSync,
  writeSync,
} from 'node:fs';
import { basename, dirname, extname, join, resolve } from 'node:path';
import { type BakeFormat, type BakeWriter, bakeWriter, type WriterTarget } from '@kelp/formats';

/** Bytes that are copied at once. */
const BLOCK = 4 * 2 ** 20;

/** What stands beside a file while it is written: the place for its head and its first section, its second one, and a copy of all. */
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
 * they come. Where the head fits into the room that was left for it the first one becomes the file, otherwise all is copied
 * to another; that takes the place of what was there.
 */
export class BakedFile {
  /** Takes what is baked. */
  readonly writer: BakeWriter;
  private readonly sections: readonly number[];
  private readonly room: number;

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
    const ends = [0, 0];
    this.writer = bakeWriter(
      format,
      sceneName,
      (bytes, section) => {
        writeAll(this.sections[section], bytes, ends[section]);
        ends[section] += bytes.length;
      },
      target,
    );
    this.room = this.writer.room ?? 0;
    ends[0] = this.room;
  }

  /** Gives the length of the file, bytes. */
  finish(): number {
    const head = this.writer.head();
    const length = head.length === this.room ? this.complete(head) : this.copy(head);
    const beside = this.writer.beside?.();
    if (beside) writeBeside(besideFile(this.out, beside.ending), beside.bytes);
    const [first, , whole] = besideOf(this.out);
    renameSync(head.length === this.room ? first : whole, this.out);
    return length;
  }

  /** The head fits into its room: what is written already becomes the file. */
  private complete(head: Uint8Array): number {
    const [first, second] = this.sections;
    writeAll(first, head, 0);
    const length = append(second, 0, first, fstatSync(first).size);
    fsyncSync(first);
    return length;
  }

  private copy(head: Uint8Array): number {
    const [, , path] = besideOf(this.out);
    const whole = openSync(path, 'wx');
    try {
      writeAll(whole, head, 0);
      const length = append(this.sections[0], this.room, whole, head.length);
      const all = append(this.sections[1], 0, whole, length);
      fsyncSync(whole);
      return all;
    } finally {
      closeSync(whole);
    }
  }

  /** To be called however it ended. */
  close(): void {
    for (const section of this.sections) closeSync(section);
    removeParts(this.out);
  }
}

/** Copies what a file holds from a place on to the end of another. @returns how long that is then, bytes */
function append(from: number, begin: number, to: number, end: number): number {
  const block = new Uint8Array(Math.max(1, Math.min(BLOCK, fstatSync(from).size - begin)));
  let length = end;
  for (let at = begin, count = 1; count > 0; at += count) {
    count = readSync(from, block, 0, block.length, at);
    writeAll(to, block.subarray(0, count), length);
    length += count;
  }
  return length;
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

/** @param place where in the file; goes on where it is when absent */
export function writeAll(file: number, bytes: Uint8Array, place?: number): void {
  for (let at = 0; at < bytes.length; )
    at += writeSync(file, bytes, at, bytes.length - at, place === undefined ? null : place + at);
}
