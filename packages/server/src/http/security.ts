import { randomBytes } from 'node:crypto';
import { hostname, networkInterfaces } from 'node:os';
import type { RequestHandler } from 'express';
import helmet from 'helmet';
import { HttpProblem } from './problem.js';

const LOOPBACK = ['localhost', '127.0.0.1', '[::1]'];

/**
 * Refuses requests that name another host: a page elsewhere that points its own name at this machine gets nothing.
 * Requests that change something must also come from a page of this server, or from no page at all.
 */
export function hostCheck(listenHost: string): RequestHandler {
  const everywhere = listenHost === '0.0.0.0' || listenHost === '::';
  const own = everywhere ? ownNames() : [listenHost];
  const allowed = new Set([...LOOPBACK, ...own.map((name) => name.toLowerCase())]);
  return (req, _res, next) => {
    const name = (req.headers.host ?? '').toLowerCase().replace(/:\d+$/, '');
    if (!allowed.has(name))
      throw new HttpProblem(
        403,
        'Wrong host',
        `This server does not answer for "${name.slice(0, 100)}". Open it at ${[...allowed][0]}, or start it with --host.`,
      );
    const origin = req.headers.origin;
    if (origin && req.method !== 'GET' && origin.replace(/^https?:\/\//, '') !== req.headers.host)
      throw new HttpProblem(403, 'Wrong origin', 'A page from another site may not change anything here.');
    // a form of another site sends no origin in some browsers, but says where it comes from (Fetch Metadata, W3C)
    const site = req.headers['sec-fetch-site'];
    if (req.method !== 'GET' && req.method !== 'HEAD' && (site === 'cross-site' || site === 'same-site'))
      throw new HttpProblem(403, 'Wrong origin', 'A page from another site may not change anything here.');
    next();
  };
}

function ownNames(): string[] {
  const addresses = Object.values(networkInterfaces()).flatMap((list) => list ?? []);
  return [hostname(), ...addresses.map(({ address, family }) => (family === 'IPv6' ? `[${address}]` : address))];
}

/** A fresh nonce for each answer; styles made at run time must carry it. */
export const nonce: RequestHandler = (_req, res, next) => {
  res.locals['nonce'] = randomBytes(16).toString('base64');
  next();
};

/** Nothing but this server's own scripts, styles, fonts and workers. */
export const contentPolicy: RequestHandler = (req, res, next) =>
  helmet({
    contentSecurityPolicy: {
      useDefaults: false,
      directives: {
        defaultSrc: ["'none'"],
        // the core compiles its own inner loops (WebAssembly); that allows no script from text
        scriptSrc: ["'self'", "'wasm-unsafe-eval'"],
        styleSrc: ["'self'", `'nonce-${res.locals['nonce']}'`],
        imgSrc: ["'self'", 'blob:', 'data:'],
        fontSrc: ["'self'"],
        connectSrc: ["'self'", 'blob:'],
        workerSrc: ["'self'"],
        manifestSrc: ["'self'"],
        baseUri: ["'none'"],
        formAction: ["'none'"],
        frameAncestors: ["'none'"],
      },
    },
    // the server speaks plain HTTP on loopback: a browser must not be told to insist on more
    strictTransportSecurity: false,
  })(req, res, next);
