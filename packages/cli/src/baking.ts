import { fileURLToPath } from 'node:url';
import type { BakeProgress, BakeResult, BakeTask } from '@kelp/server/bake-task';
import { BakeThreads } from '@kelp/server/bake-threads';
import { removeParts } from '@kelp/server/baked-file';

const SIGNALS = ['SIGINT', 'SIGTERM'] as const;

/**
 * Bakes in threads, this many at once: this one is free to hear Ctrl-C, and takes away what was half done.
 * @param take is given each result as it comes
 * @returns false when it was stopped
 */
export async function bakeAll(
  tasks: readonly BakeTask[],
  jobs: number,
  take: (result: BakeResult, task: BakeTask) => void,
): Promise<boolean> {
  const threads = new BakeThreads(fileURLToPath(new URL('.', import.meta.url)), jobs);
  const stop = new AbortController();
  const abort = () => stop.abort();
  for (const signal of SIGNALS) process.once(signal, abort);
  const waiting = [...tasks];
  // a task is sent when there is a thread for it: each holds a whole project
  const work = async () => {
    for (let task = waiting.shift(); task && !stop.signal.aborted; task = waiting.shift())
      take(await threads.run(task, { signal: stop.signal, onProgress: tellProgress }), task);
  };
  try {
    await Promise.all(Array.from({ length: Math.min(jobs, tasks.length) }, work));
    return !stop.signal.aborted;
  } catch (error) {
    if (stop.signal.aborted) return false;
    throw error;
  } finally {
    stop.abort();
    for (const signal of SIGNALS) process.off(signal, abort);
    await threads.close();
    for (const { out } of tasks) removeParts(out);
  }
}

/** One line that is written over, where somebody looks. */
function tellProgress({ done, total, name }: BakeProgress): void {
  const line = done < total ? `${Math.floor((100 * done) / total)} % ${name}` : '';
  if (process.stderr.isTTY) process.stderr.write(`\r\u001b[K${line}`);
}
