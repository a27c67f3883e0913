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

/** What a task may take before it is stopped; a day is generated in seconds. */
const MOST_MS: Partial<Record<keyof Tasks, number>> = { sniffTable: 20_000, readTable: 120_000 };
const LONGEST_MS = 300_000;
const MOST_MEMORY_MB = 1200;

/** What to say of work that took too long or too much memory; null for any other fault. */
function limitFault(error: unknown, limit: AbortSignal): FullerError | null {
  if (limit.aborted)
    return new FullerError('TOO_LARGE', 'Reading took too long and was stopped; split the file and import the parts.');
  const { code } = (error ?? {}) as { code?: string };
  if (code !== 'ERR_WORKER_OUT_OF_MEMORY') return null;
  return new FullerError(
    'TOO_LARGE',
    'The file takes more memory to read than there is; split it and import the parts.',
  );
}

/** Work in threads, so that the server goes on answering; stopping a task ends its thread. */
export function threadCompute(): Compute {
  const pool = new Piscina({
    filename: workerFile(),
    minThreads: 0,
    maxThreads: 2,
    idleTimeout: 10_000,
    resourceLimits: { maxOldGenerationSizeMb: MOST_MEMORY_MB },
  });
  return {
    async run(task, args, signal) {
      const limit = AbortSignal.timeout(MOST_MS[task] ?? LONGEST_MS);
      const answer = (await pool
        .run({ task, args }, { signal: signal ? AbortSignal.any([signal, limit]) : limit })
        .catch((error: unknown) => {
          if (signal?.aborted) throw error;
          throw limitFault(error, limit) ?? error;
        })) as WorkerAnswer;
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
