import { type Issue, KelpError, type KelpErrorCode } from '@kelp/core';
import type { ErrorRequestHandler, Request, Response } from 'express';
import type { Logger } from 'pino';
import { ValidationError } from 'yup';

/** A failure of a request, as RFC 9457 reports it. `extra` members travel in the body beside the standard ones. */
export class HttpProblem extends Error {
  override name = 'HttpProblem';
  constructor(
    readonly status: number,
    readonly title: string,
    readonly detail: string,
    readonly extra: Record<string, unknown> = {},
  ) {
    super(detail);
  }
}

export const notFound = (what: string): HttpProblem =>
  new HttpProblem(404, 'Not found', `${what} does not exist. It may have been deleted.`);

const STATUS: Partial<Record<KelpErrorCode, number>> = { TOO_LARGE: 413, UNKNOWN_ID: 404, MISSING_PROP: 422 };

/** Last in the chain: every error leaves as `application/problem+json`; what nobody meant is logged and reported as 500. */
export function problemHandler(log: Logger): ErrorRequestHandler {
  return (raw, req, res, next) => {
    if (res.headersSent) return next(raw);
    const problem = asProblem(raw);
    // a body that is refused before it is read is let run out, so that who sends it hears why
    if (problem.status === 413 && !req.complete) letRunOut(req, res);
    if (problem.status >= 500) log.error({ err: raw, url: req.originalUrl }, 'request failed');
    res
      .status(problem.status)
      .type('application/problem+json')
      .send(
        JSON.stringify({
          type: 'about:blank',
          title: problem.title,
          status: problem.status,
          detail: problem.detail,
          ...problem.extra,
        }),
      );
  };
}

/** This long and this many bytes a refused body is listened to: who has not stopped by then is cut off. */
const PATIENCE = { milliseconds: 30_000, bytes: 4 * 2 ** 30 };

function letRunOut(req: Request, res: Response): void {
  let heard = 0;
  const late = setTimeout(() => req.destroy(), PATIENCE.milliseconds).unref();
  req.on('data', (chunk: Buffer) => {
    heard += chunk.length;
    if (heard > PATIENCE.bytes) req.destroy();
  });
  req.on('close', () => clearTimeout(late));
  req.resume();
  res.set('Connection', 'close');
}

function asProblem(raw: unknown): HttpProblem {
  if (raw instanceof HttpProblem) return raw;
  if (raw instanceof KelpError)
    return new HttpProblem(STATUS[raw.code] ?? 400, 'Not accepted', raw.message, {
      code: raw.code,
      issues: raw.issues,
    });
  if (raw instanceof ValidationError) {
    const issues: Issue[] = (raw.inner.length > 0 ? raw.inner : [raw])
      .slice(0, 20)
      .map(({ path, message }) => ({ path: path ?? '', message: message.slice(0, 300) }));
    return new HttpProblem(400, 'Not accepted', issues.map((issue) => issue.message).join('; '), {
      code: 'BAD_REQUEST',
      issues,
    });
  }
  const parser = raw as { type?: string; status?: number; message?: string };
  if (parser.type === 'entity.too.large')
    return new HttpProblem(413, 'Too large', 'The body is larger than this address allows.');
  if (parser.type === 'entity.parse.failed')
    return new HttpProblem(400, 'Not accepted', `The body is not valid JSON: ${parser.message}`);
  if (isDatabaseFull(raw))
    return new HttpProblem(
      507,
      'Disk full',
      'The server’s disk is full: nothing was saved. Free some space; your edits are kept in the browser until then.',
    );
  // the router and the body parser mark what the client got wrong: a bad escape in the address, an aborted body
  if (parser.status !== undefined && parser.status >= 400 && parser.status < 500)
    return new HttpProblem(parser.status, 'Not accepted', parser.message ?? 'The request could not be read.');
  return new HttpProblem(
    500,
    'Kelp failed',
    'The server failed. Your last edits are kept in the browser; see the server log for details.',
  );
}

export const isDatabaseFull = (raw: unknown): boolean =>
  (raw as { original?: { code?: string } }).original?.code === 'SQLITE_FULL';
