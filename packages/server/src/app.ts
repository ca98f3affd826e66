import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import compression from 'compression';
import express, { type Express } from 'express';
import expressStaticGzip from 'express-static-gzip';
import type { Logger } from 'pino';
import { pinoHttp } from 'pino-http';
import type { BakeQueue } from './bakes/bake-queue.js';
import { bakeRoutes } from './bakes/bakes.routes.js';
import type { Gate } from './gate/gate.js';
import { notFound, problemHandler } from './http/problem.js';
import { contentPolicy, hostCheck, nonce } from './http/security.js';
import type { ProjectStore } from './projects/project-store.js';
import { projectRoutes } from './projects/projects.routes.js';
import type { PropStore } from './props/prop-store.js';
import { propRoutes } from './props/props.routes.js';

export interface AppParts {
  projects: ProjectStore;
  props: PropStore;
  bakes: BakeQueue;
  gate: Gate;
  log: Logger;
  host: string;
  /** Folder of the built interface; without it only the API answers. */
  webRoot?: string;
}

export function createApp({ projects, props, bakes, gate, log, host, webRoot }: AppParts): Express {
  const app = express();
  app.disable('x-powered-by');
  app.use(pinoHttp({ logger: log }));
  app.use(hostCheck(host), nonce, contentPolicy);
  // an event stream must leave at once, not when a block is full
  app.use(
    '/api',
    compression({
      filter: (req, res) => res.getHeader('Content-Type') !== 'text/event-stream' && compression.filter(req, res),
    }),
  );
  app.get('/api/health', (_req, res) => {
    res.json({ status: 'ok' });
  });
  app.use('/api/projects', projectRoutes(projects, gate));
  app.use('/api/props', propRoutes(props, gate));
  app.use('/api', bakeRoutes(bakes, projects));
  app.use('/api', (req) => {
    throw notFound(`The address ${req.originalUrl.slice(0, 200)}`);
  });
  if (webRoot) serveInterface(app, webRoot);
  app.use(problemHandler(log));
  return app;
}

/** The built interface. Every address of a page gets the one HTML file, with this answer's nonce in it. */
function serveInterface(app: Express, webRoot: string): void {
  const html = readFileSync(join(webRoot, 'index.html'), 'utf8');
  // the build has pressed them already: nobody waits for that, nor does it take the server's time
  app.use(
    '/assets',
    expressStaticGzip(join(webRoot, 'assets'), {
      enableBrotli: true,
      orderPreference: ['br', 'gz'],
      index: false,
      serveStatic: { immutable: true, maxAge: '1y', fallthrough: false },
    }),
  );
  app.use(express.static(webRoot, { index: false }));
  app.get('/{*page}', (_req, res) => {
    res.type('html').set('Cache-Control', 'no-store').send(html.replaceAll('%NONCE%', res.locals['nonce']));
  });
}
