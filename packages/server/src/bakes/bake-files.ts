import { existsSync, mkdirSync } from 'node:fs';
import { readdir, rm } from 'node:fs/promises';
import { basename, join } from 'node:path';

/** The meshes of bakes: files in a folder beside the database, named by the bake. */
export class BakeFiles {
  constructor(private readonly folder: string) {
    mkdirSync(folder, { recursive: true });
  }

  path(id: string): string {
    return join(this.folder, `${basename(id)}.glb`);
  }

  has(id: string): boolean {
    return existsSync(this.path(id));
  }

  async remove(id: string): Promise<void> {
    await rm(this.path(id), { force: true });
  }

  /** Takes away what no bake of `kept` stands for: halves of a stopped server, results of bakes that are gone. */
  async sweep(kept: ReadonlySet<string>): Promise<void> {
    for (const name of await readdir(this.folder))
      if (!kept.has(name.replace(/\.glb$/, ''))) await rm(join(this.folder, name), { force: true });
  }
}
