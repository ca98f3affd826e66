import { fileURLToPath } from 'node:url';
import { DEFAULT_PORT } from '@kelp/server/default-port';
import { Command, InvalidArgumentError } from 'commander';
import { memoryOption } from '../memory.js';
import { print } from '../print.js';

interface ServeFlags {
  port?: number;
  data: string;
  host: string;
  withDemo?: boolean;
  memory: number;
}

export const serveCommand = (): Command =>
  new Command('serve')
    .description('Start Kelp on this machine.')
    .option('--port <n>', `port; default ${DEFAULT_PORT}, or the next free one`, port)
    .option('--data <dir>', 'folder of the database', '.kelp-data')
    .option('--host <h>', 'address to listen on; anything but 127.0.0.1 is reachable from other machines', '127.0.0.1')
    .addOption(memoryOption())
    .option('--with-demo', 'add the demo projects to an empty database')
    .action(run);

async function run({ port: wanted, data, host, withDemo, memory }: ServeFlags): Promise<void> {
  // only this command waits for the server's packages
  const { startServer } = await import('@kelp/server');
  const server = await startServer({
    data,
    host,
    port: wanted,
    nextFreePort: wanted === undefined,
    demo: withDemo,
    memory,
    // these stand beside the built command line
    webRoot: fileURLToPath(new URL('../../web/dist', import.meta.url)),
    demoCovers: fileURLToPath(new URL('../../demo/covers', import.meta.url)),
    workers: fileURLToPath(new URL('.', import.meta.url)),
  });
  print(`Kelp is at ${server.url}`);
  const stop = () => void server.stop().then(() => process.exit(0));
  process.once('SIGINT', stop);
  process.once('SIGTERM', stop);
}

function port(text: string): number {
  const value = Number(text);
  if (!Number.isInteger(value) || value < 0 || value > 65_535)
    throw new InvalidArgumentError('Must be a whole number from 0 to 65535.');
  return value;
}
