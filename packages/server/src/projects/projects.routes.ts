import { nameSchema, parseDocument } from '@kelp/core';
import { TEMPLATES, templateProject } from '@kelp/demo';
import { pictureInfo, readArchive, readProjectText, writeArchive, writeProjectText } from '@kelp/formats';
import express, { Router } from 'express';
import * as yup from 'yup';
import { body, bytesOf, param } from '../http/validate.js';
import type { ProjectStore } from './project-store.js';

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
const saveBody = yup
  .object({ basedOn: yup.number().integer().min(1).required(), document: yup.mixed<NonNullable<unknown>>().required() })
  .noUnknown()
  .required();

export function projectRoutes(projects: ProjectStore): Router {
  const json = express.json({ limit: DOCUMENT_LIMIT });
  const raw = express.raw({ type: 'application/octet-stream', limit: ARCHIVE_LIMIT });
  return Router()
    .get('/templates', (_req, res) => {
      res.json(TEMPLATES);
    })
    .get('/', async (req, res) => {
      res.json(await projects.list(req.query['deleted'] === 'true'));
    })
    .post('/', json, async (req, res) => {
      const { name, template = 'empty' } = body(req, createBody);
      res.status(201).json(await projects.importProject(await templateProject(template, name)));
    })
    .post('/import', raw, async (req, res) => {
      const bytes = bytesOf(req);
      const isText = bytes[0] === 0x7b;
      const project = isText
        ? { ...readProjectText('The file', new TextDecoder().decode(bytes)), props: new Map() }
        : readArchive('The file', bytes);
      res.status(201).json(await projects.importProject(project));
    })
    .get('/:id', async (req, res) => {
      res.json(await projects.get(param(req, 'id')));
    })
    .put('/:id', json, async (req, res) => {
      const { basedOn, document } = body(req, saveBody);
      res.json(await projects.save(param(req, 'id'), basedOn, parseDocument(document)));
    })
    .delete('/:id', async (req, res) => {
      await projects.remove(param(req, 'id'));
      res.status(204).end();
    })
    .post('/:id/restore', async (req, res) => {
      await projects.restore(param(req, 'id'));
      res.status(204).end();
    })
    .put('/:id/cover', express.raw({ type: 'application/octet-stream', limit: COVER_LIMIT }), async (req, res) => {
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
      res.json(await projects.get(param(req, 'id'), param(req, 'number')));
    })
    .get('/:id/archive', async (req, res) => {
      const project = await projects.exportProject(param(req, 'id'));
      res
        .attachment(`${fileName(project.document.name)}.kelp`)
        .type('application/octet-stream')
        .send(Buffer.from(writeArchive(project)));
    })
    .get('/:id/text', async (req, res) => {
      const { document } = await projects.get(param(req, 'id'));
      res
        .attachment(`${fileName(document.name)}.kelp.json`)
        .type('application/json')
        .send(writeProjectText(document));
    });
}

/** A name that every file system takes. */
export const fileName = (name: string): string =>
  name
    .normalize('NFKD')
    .replaceAll(/[^\w.-]+/g, '-')
    .replaceAll(/^[-.]+|[-.]+$/g, '')
    .slice(0, 80) || 'project';
