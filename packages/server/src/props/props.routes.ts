import { looksLikePicture, MAX_FILE_BYTES, pictureInfo } from '@kelp/formats';
import { Router } from 'express';
import type { Gate } from '../gate/gate.js';
import { rawBody } from '../http/read-body.js';
import { bytesOf, param } from '../http/validate.js';
import type { PropStore } from './prop-store.js';

export function propRoutes(props: PropStore, gate: Gate): Router {
  return Router()
    .put('/:hash', rawBody('application/octet-stream', MAX_FILE_BYTES), async (req, res) => {
      await props.keep(await gate.run('file', { hash: param(req, 'hash'), body: bytesOf(req) }));
      res.status(204).end();
    })
    .get('/:hash', async (req, res) => {
      const bytes = await props.get(param(req, 'hash'));
      // content never changes under its hash
      res
        .type(looksLikePicture(bytes) ? pictureInfo('The image', bytes).type : 'model/gltf-binary')
        .set('Cache-Control', 'private, max-age=31536000, immutable')
        .send(Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength));
    });
}
