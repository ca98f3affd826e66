import { type Issue, KelpError } from '@kelp/core';
import { printJson } from './print.js';

/** 0 done, 1 findings or failed input, 2 wrong use, 130 stopped by Ctrl-C, as shells have it. */
export const EXIT = { done: 0, failed: 1, usage: 2, stopped: 130 } as const;

/** The command line itself is wrong: what was asked makes no sense, whatever the files hold. */
export class UsageError extends Error {}

/**
 * Says on standard error what went wrong and gives the exit code.
 * @param json tell it on standard output too, as one JSON value: who asked for JSON reads that
 */
export function tellError(error: unknown, json: boolean): number {
  const { code, message, issues, exit } = described(error);
  process.stderr.write(`kelp: ${message}\n`);
  // a single one says what the message says
  if (issues.length > 1) for (const { path, message: why } of issues) process.stderr.write(`  ${path}: ${why}\n`);
  if (json) printJson({ error: { code, message, issues } });
  return exit;
}

interface Described {
  code: string;
  message: string;
  issues: readonly Issue[];
  exit: number;
}

function described(error: unknown): Described {
  if (error instanceof UsageError) return { code: 'USAGE', message: error.message, issues: [], exit: EXIT.usage };
  if (error instanceof KelpError)
    return { code: error.code, message: error.message, issues: error.issues, exit: EXIT.failed };
  const { code = 'FAILED', message, path } = error as NodeJS.ErrnoException;
  const words: Record<string, string> = {
    ENOENT: `there is no file ${path}`,
    EISDIR: `${path ?? 'the path'} is a folder, not a file`,
    EACCES: `${path} cannot be read: permission denied`,
    EADDRINUSE: 'the port is in use. Choose another one with --port.',
  };
  return { code, message: words[code] ?? message, issues: [], exit: EXIT.failed };
}
