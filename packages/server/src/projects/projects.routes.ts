import { nameSchema } from '@kelp/core';
import { TEMPLATES, templateProject } from '@kelp/demo';
import { pictureInfo, writeArchive } from '@kelp/formats';
import { type Response, Router } from 'express';
import * as yup from 'yup';
import type { Gate } from '../gate/gate.js';
import { rawBody, smallJson } from '../http/read-body.js';
import { body, bytesOf, numberParam, param } from '../http/validate.js';
import { fileName } from './file-name.js';
import type { ProjectStore, StoredProject } from './project-store.js';

/** Largest project document and largest archive, bytes. */
const DOCUMENT_LIMIT = 32 * 1024 * 1024;
const ARCHIVE_LIMIT = 512 * 1024 * 1024;

/** Largest cover, bytes. */
const COVER_LIMIT = 1024 * 1024;

const createBody = yup
  .object({
    name: nameSchema,
    template: yup
      .string()
      .oneOf(TEMPLATES.map(({ id }) => id))
      .optional(),
  })
  .noUnknown()
  .required();
export function projectRoutes(projects: ProjectStore, gate: Gate): Router {
  const json = rawBody('application/json', DOCUMENT_LIMIT);
  const raw = rawBody('application/octet-stream', ARCHIVE_LIMIT);
  return Router()
    .get('/templates', (_req, res) => {
      res.json(TEMPLATES);
    })
    .get('/', async (req, res) => {
      res.json(await projects.list(req.query['deleted'] === 'true'));
    })
    .post('/', smallJson, async (req, res) => {
      const { name, template = 'empty' } = body(req, createBody);
      const { document, files } = await gate.run('project', {
        body: writeArchive(await templateProject(template, name)),
      });
      sendProject(res.status(201), await projects.importProject(document, files));
    })
    .post('/import', raw, async (req, res) => {
      const { document, files } = await gate.run('project', { body: bytesOf(req) });
      sendProject(res.status(201), await projects.importProject(document, files));
    })
    .get('/:id', async (req, res) => {
      sendProject(res, await projects.get(param(req, 'id')));
    })
    .put('/:id', json, async (req, res) => {
      const { basedOn, document } = await gate.run('save', { body: bytesOf(req, 'application/json') });
      res.json(await projects.save(param(req, 'id'), basedOn, document));
    })
    .delete('/:id', async (req, res) => {
      await projects.remove(param(req, 'id'));
      res.status(204).end();
    })
    .post('/:id/restore', async (req, res) => {
      await projects.restore(param(req, 'id'));
      res.status(204).end();
    })
    .put('/:id/cover', rawBody('application/octet-stream', COVER_LIMIT), async (req, res) => {
      await projects.putCover(param(req, 'id'), bytesOf(req));
      res.status(204).end();
    })
    .get('/:id/cover', async (req, res) => {
      const bytes = await projects.cover(param(req, 'id'));
      res.type(pictureInfo('The cover', bytes).type).set('Cache-Control', 'private, max-age=31536000').send(bytes);
    })
    .get('/:id/revisions', async (req, res) => {
      res.json(await projects.revisions(param(req, 'id')));
    })
    .get('/:id/revisions/:number', async (req, res) => {
      sendProject(res, await projects.get(param(req, 'id'), numberParam(req)));
    })
    .get('/:id/archive', async (req, res) => {
      const { name, bytes } = await gate.run('archive', await projects.exportProject(param(req, 'id')));
      res
        .attachment(`${fileName(name)}.kelp`)
        .type('application/octet-stream')
        .send(Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength));
    })
    .get('/:id/text', async (req, res) => {
      const { name, text } = await projects.text(param(req, 'id'));
      res
        .attachment(`${fileName(name)}.kelp.json`)
        .type('application/json')
        .send(text);
    });
}

/** A project as JSON. Its document is text already, and is put in as it is. */
function sendProject(res: Response, { summary, document, covered = false }: StoredProject): void {
  const rest = JSON.stringify({ ...summary, notes: document.notes, covered }).slice(0, -1);
  res.type('application/json').send(`${rest},"document":${document.text}}`);
}
