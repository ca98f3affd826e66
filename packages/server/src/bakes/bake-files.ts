import { existsSync, mkdirSync } from 'node:fs';
import { readdir, rm } from 'node:fs/promises';
import { basename, join } from 'node:path';
import type { BakeFormat } from '@kelp/formats';

/** The meshes of bakes: files in a folder beside the database, named by the bake. */
export class BakeFiles {
  constructor(private readonly folder: string) {
    mkdirSync(folder, { recursive: true });
  }

  path(id: string, format: BakeFormat): string {
    return join(this.folder, `${basename(id)}.${format}`);
  }

  has(id: string, format: BakeFormat): boolean {
    return existsSync(this.path(id, format));
  }

  async remove(id: string, format: BakeFormat): Promise<void> {
    await rm(this.path(id, format), { force: true });
  }

  /** Takes away what no bake of `kept` stands for: halves of a stopped server, results of bakes that are gone. */
  async sweep(kept: ReadonlySet<string>): Promise<void> {
    for (const name of await readdir(this.folder))
      if (!kept.has(name.replace(/\.\w+$/, ''))) await rm(join(this.folder, name), { force: true });
  }
}
