import { checkNesting } from '@kelp/formats';
import express, { type RequestHandler } from 'express';

/** Settings, names: a few hundred bytes. Read at once, as nothing that is nested can be long in so little. */
export const smallJson: RequestHandler = express.json({
  limit: '16kb',
  verify: (_req, _res, bytes) => checkNesting('The body', bytes.toString('utf8')),
});

/** A body as its bytes, of one type: it is read elsewhere. */
export const rawBody = (type: string, limit: number): RequestHandler => express.raw({ type, limit });
