import { closeSync, existsSync, openSync, readFileSync, renameSync, rmSync } from 'node:fs';
import { basename, dirname, join, resolve } from 'node:path';
import { KelpError } from '@kelp/core';
import { Zip, ZipPassThrough } from 'fflate';
import { besideFile, writeAll } from './baked-file.js';

/** Offsets in a ZIP have 32 bits (APPNOTE 6.3.10, section 4.4). */
const MAX_BYTES = 2 ** 32 - 1;

const tooLarge = () =>
  new KelpError(
    'TOO_LARGE',
    'The frames exceed 4 GB, the limit of a ZIP. Bake fewer frames at once, or at a lower density.',
  );

/** A ZIP on the disk that frames are put into one after the other; it is there whole or not at all. */
export class FrameArchive {
  /** Where the next frame is to be written. */
  readonly next: string;
  private readonly part: string;
  private readonly file: number;
  private readonly zip: Zip;
  private length = 0;

  constructor(private readonly out: string) {
    const beside = join(dirname(resolve(out)), `.${basename(out)}.${process.pid}`);
    this.next = `${beside}.frame`;
    this.part = `${beside}.zip.part`;
    rmSync(this.part, { force: true });
    this.file = openSync(this.part, 'wx');
    this.zip = new Zip((error, bytes) => {
      if (error) throw error;
      this.length += bytes.length;
      if (this.length > MAX_BYTES) throw tooLarge();
      writeAll(this.file, bytes);
    });
  }

  /** Takes the file at `next`, and what stands beside it, under a name. */
  add(name: string, ending: string): void {
    for (const [path, as] of [
      [this.next, ending],
      [besideFile(this.next, 'mtl'), 'mtl'],
    ]) {
      if (!existsSync(path)) continue;
      const entry = new ZipPassThrough(`${name}.${as}`);
      this.zip.add(entry);
      entry.push(readFileSync(path), true);
      rmSync(path);
    }
  }

  /** @returns bytes of the archive */
  finish(): number {
    this.zip.end();
    renameSync(this.part, this.out);
    return this.length;
  }

  close(): void {
    closeSync(this.file);
    for (const path of [this.part, this.next, besideFile(this.next, 'mtl')]) rmSync(path, { force: true });
  }
}
