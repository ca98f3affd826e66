import { nameSchema } from '@kelp/core';
import { BAKE_FORMATS, type BakeFormat } from '@kelp/formats';
import { type Response, Router } from 'express';
import * as yup from 'yup';
import { smallJson } from '../http/read-body.js';
import { body, param } from '../http/validate.js';
import type { ProjectStore } from '../projects/project-store.js';
import { fileName } from '../projects/projects.routes.js';
import type { BakeQueue } from './bake-queue.js';

const startBody = yup
  .object({
    revision: yup.number().integer().min(1).optional(),
    piece: nameSchema.notRequired().default(undefined).nonNullable(),
    density: yup.number().min(0.05).max(20).default(1),
    format: yup.string().oneOf(BAKE_FORMATS).default('glb'),
  })
  .noUnknown()
  .required();

/** Registered names of the formats where there are any (iana.org/assignments/media-types). */
const MEDIA_TYPES: Record<BakeFormat, string> = {
  glb: 'model/gltf-binary',
  usda: 'model/vnd.usda',
  obj: 'model/obj',
  ply: 'application/octet-stream',
  stl: 'model/stl',
  csv: 'text/csv',
};

/** A silent line is cut by proxies and sleeping tabs: something is said at least so often, milliseconds. */
const HEARTBEAT = 15_000;

export function bakeRoutes(bakes: BakeQueue, projects: ProjectStore): Router {
  return Router()
    .post('/projects/:id/bakes', smallJson, async (req, res) => {
      const { revision, piece, density, format } = body(req, startBody);
      res.status(202).json(
        await bakes.start(param(req, 'id'), {
          revision,
          piece: piece ?? undefined,
          density: density ?? 1,
          format: format ?? 'glb',
        }),
      );
    })
    .get('/projects/:id/bakes', async (req, res) => {
      res.json(await bakes.history(param(req, 'id')));
    })
    .get('/bakes/:id', async (req, res) => {
      res.json(await bakes.get(param(req, 'id')));
    })
    .post('/bakes/:id/cancel', async (req, res) => {
      res.json(await bakes.cancel(param(req, 'id')));
    })
    .get('/bakes/:id/events', async (req, res) => {
      await stream(bakes, param(req, 'id'), res);
    })
    .get('/bakes/:id/file', async (req, res) => {
      const id = param(req, 'id');
      const result = await bakes.result(id);
      const { projectId, piece, format } = await bakes.get(id);
      const { name } = await projects.summary(projectId);
      res.attachment(`${fileName(piece ?? name)}.${format}`).type(MEDIA_TYPES[format]);
      if ('bytes' in result) res.send(result.bytes);
      else res.sendFile(result.file, { dotfiles: 'allow' });
    });
}

/** Server-sent events (HTML standard, section 9.2): the state at once, at every change, and the last one as `end`. */
async function stream(bakes: BakeQueue, id: string, res: Response): Promise<void> {
  await bakes.get(id);
  res.set({ 'Content-Type': 'text/event-stream', 'Cache-Control': 'no-cache', Connection: 'keep-alive' });
  res.flushHeaders();
  let sending = Promise.resolve();
  const send = () => {
    sending = sending
      .then(async () => {
        if (res.writableEnded) return;
        const state = await bakes.get(id);
        const ended = state.status !== 'queued' && state.status !== 'running';
        res.write(`event: ${ended ? 'end' : 'state'}\ndata: ${JSON.stringify(state)}\n\n`);
        if (ended) finish();
      })
      .catch(() => finish());
  };
  const stop = bakes.onChange(id, send);
  const beat = setInterval(() => res.write(': still here\n\n'), HEARTBEAT);
  const finish = () => {
    stop();
    clearInterval(beat);
    res.end();
  };
  res.on('close', finish);
  send();
}
