import type { Models } from '../database/models.js';
import type { CheckedFile } from '../gate/gate-task.js';
import { notFound } from '../http/problem.js';

/** Prop meshes and reference pictures by content hash; the same file is kept once, whatever projects use it. */
export class PropStore {
  constructor(private readonly models: Models) {}

  /** Keeps a mesh or a picture that was checked. What is there already is left as it is. */
  async keep({ hash, bytes, triangles }: CheckedFile): Promise<void> {
    if (await this.has(hash)) return;
    const whole = Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength);
    await this.models.props.upsert({ hash, bytes: whole, triangles });
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
