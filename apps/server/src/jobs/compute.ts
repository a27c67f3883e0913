import { existsSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { Piscina } from 'piscina';
import { FullerError } from '../errors.js';
import { tasks, type Tasks } from './tasks.js';
import type { WorkerAnswer } from './worker.js';

type Answer<K extends keyof Tasks> = Awaited<ReturnType<Tasks[K]>>;

/** Where heavy work is done. */
export interface Compute {
  run<K extends keyof Tasks>(task: K, args: Parameters<Tasks[K]>, signal?: AbortSignal): Promise<Answer<K>>;
  close(): Promise<void>;
}

/** Work in the calling thread, for the command line and for tests. */
export const inlineCompute: Compute = {
  async run(task, args, signal) {
    // Lets what waits, such as a cancel, have its turn between two tasks.
    await new Promise((resolve) => setImmediate(resolve));
    signal?.throwIfAborted();
    return (await (tasks[task] as (...args: unknown[]) => Promise<unknown>)(...(args as unknown[]))) as never;
  },
  async close() {},
};

/** Work in threads, so that the server goes on answering; stopping a task ends its thread. */
export function threadCompute(): Compute {
  const pool = new Piscina({ filename: workerFile(), minThreads: 1, maxThreads: 2, idleTimeout: 60_000 });
  return {
    async run(task, args, signal) {
      const answer = (await pool.run({ task, args }, signal ? { signal } : {})) as WorkerAnswer;
      if ('fault' in answer) throw new FullerError(answer.fault.code, answer.fault.message, answer.fault.field);
      return answer.value as never;
    },
    async close() {
      await pool.destroy();
    },
  };
}

/** The bundled worker beside the bundled server, or the source one. */
function workerFile(): string {
  const bundled = fileURLToPath(new URL('./worker.js', import.meta.url));
  return existsSync(bundled) ? bundled : fileURLToPath(new URL('./worker-boot.mjs', import.meta.url));
}
