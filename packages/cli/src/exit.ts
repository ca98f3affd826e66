import { KelpError } from '@kelp/core';

/** 0 done, 1 findings or failed input, 2 wrong use. */
export const EXIT = { done: 0, failed: 1, usage: 2 } as const;

/** Says on standard error what went wrong and gives the exit code. */
export function tellError(error: unknown): number {
  if (error instanceof KelpError) {
    process.stderr.write(`kelp: ${error.message}\n`);
    for (const { path, message } of error.issues.slice(error.issues.length > 1 ? 0 : 1))
      process.stderr.write(`  ${path}: ${message}\n`);
  } else {
    const { code, message, path } = error as NodeJS.ErrnoException;
    if (code === 'ENOENT') process.stderr.write(`kelp: there is no file ${path}\n`);
    else if (code === 'EADDRINUSE') process.stderr.write('kelp: the port is taken. Choose another one with --port.\n');
    else process.stderr.write(`kelp: ${message}\n`);
  }
  return EXIT.failed;
}
