import { looksLikePicture, MOST_FILE_BYTES, pictureInfo } from '@kelp/formats';
import express, { Router } from 'express';
import { bytesOf, param } from '../http/validate.js';
import type { PropStore } from './prop-store.js';

export function propRoutes(props: PropStore): Router {
  return Router()
    .put('/:hash', express.raw({ type: 'application/octet-stream', limit: MOST_FILE_BYTES }), async (req, res) => {
      await props.put(param(req, 'hash'), bytesOf(req));
      res.status(204).end();
    })
    .get('/:hash', async (req, res) => {
      const bytes = await props.get(param(req, 'hash'));
      // content never changes under its hash
      res
        .type(looksLikePicture(bytes) ? pictureInfo('The picture', bytes).type : 'model/gltf-binary')
        .set('Cache-Control', 'private, max-age=31536000, immutable')
        .send(Buffer.from(bytes));
    });
}
