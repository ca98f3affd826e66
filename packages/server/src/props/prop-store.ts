import { KelpError } from '@kelp/core';
import { contentHash, decodeProp, looksLikePicture, pictureInfo } from '@kelp/formats';
import type { Models } from '../database/models.js';
import { notFound } from '../http/problem.js';

/** Prop meshes and reference pictures by content hash; the same file is kept once, whatever projects use it. */
export class PropStore {
  constructor(private readonly models: Models) {}

  /**
   * Keeps a mesh or a picture. What is there already is left as it is.
   * @throws KelpError BAD_FILE when the bytes do not hash to `hash` or are neither
   */
  async put(hash: string, bytes: Uint8Array): Promise<void> {
    if (contentHash(bytes) !== hash)
      throw new KelpError('BAD_FILE', 'The file arrived damaged: its content does not match its hash. Send it again.');
    if (await this.has(hash)) return;
    let triangles = 0;
    if (looksLikePicture(bytes)) pictureInfo('The picture', bytes);
    else triangles = (await decodeProp(bytes)).index.length / 3;
    await this.models.props.upsert({ hash, bytes: Buffer.from(bytes), triangles });
  }

  async get(hash: string): Promise<Uint8Array> {
    const row = await this.models.props.findByPk(hash);
    if (!row) throw notFound(`File ${hash.slice(0, 12)}…`);
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
