import { checkNesting } from '@kelp/formats';
import express, { type RequestHandler } from 'express';
import { HttpProblem } from './problem.js';

const MAX_SETTINGS = 16 * 1024;

/** Settings, names: a few hundred bytes. Read at once, as nothing that is nested can be long in so little. */
export const smallJson: RequestHandler = within(
  MAX_SETTINGS,
  express.json({
    limit: MAX_SETTINGS,
    verify: (_req, _res, bytes) => checkNesting('The body', bytes.toString('utf8')),
  }),
);

/** A body as its bytes, of one type: it is read elsewhere. */
export const rawBody = (type: string, limit: number): RequestHandler => within(limit, express.raw({ type, limit }));

/** Refuses a body by the length it claims. A parser would hear all of it before it says a word. */
function within(limit: number, parser: RequestHandler): RequestHandler {
  return (req, res, next) => {
    if (Number(req.headers['content-length'] ?? 0) > limit)
      throw new HttpProblem(413, 'Too large', `The body is larger than ${limit} bytes, the limit of this address.`);
    return parser(req, res, next);
  };
}
