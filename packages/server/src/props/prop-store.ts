import { KelpError } from '@kelp/core';
import { contentHash, decodeProp } from '@kelp/formats';
import type { Models } from '../database/models.js';
import { notFound } from '../http/problem.js';

/** Prop meshes by content hash; the same mesh is kept once, whatever projects use it. */
export class PropStore {
  constructor(private readonly models: Models) {}

  /**
   * Keeps a mesh. What is there already is left as it is.
   * @throws KelpError BAD_FILE when the bytes do not hash to `hash` or are no stored prop
   */
  async put(hash: string, bytes: Uint8Array): Promise<void> {
    if (contentHash(bytes) !== hash)
      throw new KelpError('BAD_FILE', 'The mesh arrived damaged: its content does not match its hash. Send it again.');
    if (await this.has(hash)) return;
    const mesh = await decodeProp(bytes);
    await this.models.props.upsert({ hash, bytes: Buffer.from(bytes), triangles: mesh.index.length / 3 });
  }

  async get(hash: string): Promise<Uint8Array> {
    const row = await this.models.props.findByPk(hash);
    if (!row) throw notFound(`Mesh ${hash.slice(0, 12)}…`);
    return row.bytes;
  }

  async has(hash: string): Promise<boolean> {
    return (await this.models.props.count({ where: { hash } })) > 0;
  }

  /** The first of `hashes` that is not here. */
  async firstMissing(hashes: readonly string[]): Promise<string | undefined> {
    const rows = await this.models.props.findAll({ attributes: ['hash'], where: { hash: [...hashes] } });
    const here = new Set(rows.map((row) => row.hash));
    return hashes.find((hash) => !here.has(hash));
  }
}
