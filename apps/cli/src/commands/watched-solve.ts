import { existsSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { Worker } from 'node:worker_threads';
import type { Effort, Instance, Solution } from '@fuller/core';
import type { SolveNews, SolveTask } from './solve-thread.js';

const CLEAR_LINE = '\r\u001b[K';

/**
 * Solves an instance where somebody watches: a line says what is being proven, and Ctrl C ends the search with the best
 * found so far. A second Ctrl C ends the program.
 */
export async function watchedSolve(
  instance: Instance,
  { seed, effort }: { readonly seed: number; readonly effort: Effort },
): Promise<{ readonly solution: Solution; readonly isStopped: boolean }> {
  const stop = new Int32Array(new SharedArrayBuffer(4));
  const task: SolveTask = { instance, seed, effort, stop };
  const thread = new Worker(threadFile(), { workerData: task });
  const onInterrupt = (): void => {
    if (Atomics.exchange(stop, 0, 1) === 1) process.exit(130);
  };
  process.on('SIGINT', onInterrupt);
  try {
    const solution = await new Promise<Solution>((resolve, reject) => {
      thread.on('error', reject);
      thread.on('message', (news: SolveNews) => {
        if ('solution' in news) resolve(news.solution);
        else process.stderr.write(`${CLEAR_LINE}${Math.round(news.share * 100)} %, working on ${news.doing}`);
      });
    });
    process.stderr.write(CLEAR_LINE);
    return { solution, isStopped: Atomics.load(stop, 0) === 1 };
  } finally {
    process.off('SIGINT', onInterrupt);
    await thread.terminate();
  }
}

/** The bundled thread beside the bundled program. */
function threadFile(): string {
  const bundled = fileURLToPath(new URL('./solver.js', import.meta.url));
  return existsSync(bundled) ? bundled : fileURLToPath(new URL('../../../../dist/solver.js', import.meta.url));
}
