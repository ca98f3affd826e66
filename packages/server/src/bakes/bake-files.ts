import { existsSync, mkdirSync } from 'node:fs';
import { readdir, rm } from 'node:fs/promises';
import { basename, join } from 'node:path';
import { BAKE_FORMATS } from '@kelp/formats';

/** The meshes of bakes: files in a folder beside the database, named by the bake. */
export class BakeFiles {
  constructor(private readonly folder: string) {
    mkdirSync(folder, { recursive: true });
  }

  path(id: string, ending: string): string {
    return join(this.folder, `${basename(id)}.${ending}`);
  }

  has(id: string, ending: string): boolean {
    return existsSync(this.path(id, ending));
  }

  /** All files of a bake. */
  async remove(id: string): Promise<void> {
    for (const ending of [...BAKE_FORMATS, 'mtl', 'zip']) await rm(this.path(id, ending), { force: true });
  }

  /** Takes away what no bake of `kept` represents: halves of a stopped server, results of bakes that are gone. */
  async sweep(kept: ReadonlySet<string>): Promise<void> {
    for (const name of await readdir(this.folder))
      if (!kept.has(name.replace(/\.\w+$/, ''))) await rm(join(this.folder, name), { force: true });
  }
}
