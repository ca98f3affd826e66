import { BAKE_FIELDS, type BakeSettings, nameSchema, PLAIN_SETTINGS } from '@kelp/core';
import { BAKE_FORMATS, type BakeFormat } from '@kelp/formats';
import { type Response, Router } from 'express';
import * as yup from 'yup';
import { smallJson } from '../http/read-body.js';
import { body, param } from '../http/validate.js';
import { fileName } from '../projects/file-name.js';
import type { ProjectStore } from '../projects/project-store.js';
import { type BakeQueue, endingOf } from './bake-queue.js';

const startBody = yup
  .object({
    revision: yup.number().integer().min(1).optional(),
    piece: nameSchema.notRequired().default(undefined).nonNullable(),
    ...BAKE_FIELDS,
    format: yup.string().oneOf(BAKE_FORMATS).default('glb'),
  })
  .noUnknown()
  .required();

/** Registered names of the formats where there are any (iana.org/assignments/media-types). */
const MEDIA_TYPES: Record<BakeFormat, string> = {
  glb: 'model/gltf-binary',
  gltf: 'model/gltf+json',
  usda: 'model/vnd.usda',
  obj: 'model/obj',
  ply: 'application/octet-stream',
  stl: 'model/stl',
  csv: 'text/csv',
  svg: 'image/svg+xml',
};

/** A silent line is cut by proxies and sleeping tabs: something is said at least this often, milliseconds. */
const HEARTBEAT = 15_000;

export function bakeRoutes(bakes: BakeQueue, projects: ProjectStore): Router {
  async function sendFile(
    res: Response,
    id: string,
    piece: string | null,
    projectId: string,
    ending: string,
    type: string,
  ) {
    const result = await bakes.result(id, ending === 'mtl' ? ending : undefined);
    const { name } = await projects.summary(projectId);
    res.attachment(`${fileName(piece ?? name)}.${ending}`).type(type);
    if ('bytes' in result) res.send(result.bytes);
    else res.sendFile(result.file, { dotfiles: 'allow' });
  }
  return (
    Router()
      .post('/projects/:id/bakes', smallJson, async (req, res) => {
        // `piece` is short for a list of one
        const { revision, piece, format, ...settings } = body(req, startBody);
        const given = { ...PLAIN_SETTINGS, ...settings, ...(piece ? { pieces: [piece] } : {}) } as BakeSettings;
        res
          .status(202)
          .json(await bakes.start(param(req, 'id'), { revision, format: format ?? 'glb', settings: given }));
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
        const { projectId, piece, format, settings } = await bakes.get(id);
        const ending = endingOf(format, settings);
        await sendFile(res, id, piece, projectId, ending, ending === 'zip' ? 'application/zip' : MEDIA_TYPES[format]);
      })
      // what stands beside an OBJ: its materials
      .get('/bakes/:id/materials', async (req, res) => {
        const id = param(req, 'id');
        const { projectId, piece } = await bakes.get(id);
        await sendFile(res, id, piece, projectId, 'mtl', 'model/mtl');
      })
  );
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
