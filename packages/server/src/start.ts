import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { join, resolve } from 'node:path';
import { DEMOS } from '@kelp/demo';
import { writeArchive } from '@kelp/formats';
import { type Logger, pino } from 'pino';
import { createApp } from './app.js';
import { BakeFiles } from './bakes/bake-files.js';
import { BakeQueue } from './bakes/bake-queue.js';
import { DATABASE_FILE, openDatabase, PID_FILE } from './database/database.js';
import { DEFAULT_PORT } from './default-port.js';
import { Gate } from './gate/gate.js';
import { machineMemory } from './machine-memory.js';
import { ProjectStore } from './projects/project-store.js';
import { PropStore } from './props/prop-store.js';

export interface ServerOptions {
  /** Folder of the database; made when it is not there. */
  data: string;
  /** Default 127.0.0.1: nobody but this machine. */
  host?: string;
  /** Default 4880. 0 takes any free one. */
  port?: number;
  /** Take the next free port when it is taken. Default: false. */
  nextFreePort?: boolean;
  /** Put the demo projects into an empty database. Default: false. */
  demo?: boolean;
  /** Folder of the pictures by which the list of projects shows them, by id. */
  demoCovers?: string;
  webRoot?: string;
  /** Folder of the built threads: `gate-worker.js` reads what comes in, bakes run in `bake-worker.js`. */
  workers: string;
  /** Memory that all bakes together may take, bytes. Default: half of what the machine has. */
  memory?: number;
  log?: Logger;
}

export interface RunningServer {
  /** Address to open. */
  url: string;
  /** Lets answers under way finish, stops bakes, closes the database. */
  stop(): Promise<void>;
}

/** This many ports are tried one after another. */
const PORTS_TO_TRY = 50;

export async function startServer(options: ServerOptions): Promise<RunningServer> {
  const host = options.host ?? '127.0.0.1';
  const log = options.log ?? pino({ level: process.env['KELP_LOG'] ?? 'warn' }, pino.destination(2));
  const data = resolve(options.data);
  mkdirSync(data, { recursive: true });
  const database = await openDatabase(join(data, DATABASE_FILE));
  const gate = new Gate(options.workers);
  const props = new PropStore(database.models);
  const projects = new ProjectStore(database, props, gate);
  const bakes = new BakeQueue(
    database.models,
    projects,
    new BakeFiles(join(data, 'bakes')),
    options.workers,
    options.memory ?? machineMemory(),
  );
  await bakes.recover();
  if (options.demo && (await projects.list()).length === 0) {
    // the list begins with what was changed last
    for (const { id, build } of DEMOS.toReversed()) {
      const { document, files } = await gate.run('project', { body: writeArchive(await build()) });
      const { summary } = await projects.importProject(document, files);
      const cover = options.demoCovers && join(options.demoCovers, `${id}.png`);
      if (cover && existsSync(cover)) await projects.putCover(summary.id, readFileSync(cover));
    }
  }
  const webRoot = options.webRoot && existsSync(join(options.webRoot, 'index.html')) ? options.webRoot : undefined;
  const server = createServer(createApp({ projects, props, bakes, gate, log, host, webRoot }));
  try {
    await listen(server, host, options.port ?? DEFAULT_PORT, options.nextFreePort ? PORTS_TO_TRY : 1);
  } catch (error) {
    await bakes.close();
    await gate.close();
    await database.close();
    throw error;
  }
  writeFileSync(join(data, PID_FILE), String(process.pid));
  const { port } = server.address() as AddressInfo;
  const shown = host === '0.0.0.0' || host === '::' ? '127.0.0.1' : host.includes(':') ? `[${host}]` : host;
  let stopping: Promise<void> | undefined;
  const stop = async () => {
    const closed = new Promise<void>((done) => server.close(() => done()));
    await bakes.close();
    // event streams never end by themselves
    setTimeout(() => server.closeAllConnections(), 2000).unref();
    server.closeIdleConnections();
    await closed;
    await gate.close();
    await database.close();
    rmSync(join(data, PID_FILE), { force: true });
  };
  return {
    url: `http://${shown}:${port}`,
    stop() {
      stopping ??= stop();
      return stopping;
    },
  };
}

async function listen(server: Server, host: string, port: number, tries: number): Promise<void> {
  for (let i = 0; i < tries; i++) {
    const error = await new Promise<NodeJS.ErrnoException | undefined>((done) => {
      server.once('error', done);
      server.listen(port === 0 ? 0 : port + i, host, () => {
        server.off('error', done);
        done(undefined);
      });
    });
    if (!error) return;
    if (error.code !== 'EADDRINUSE' || i === tries - 1) throw error;
  }
}
