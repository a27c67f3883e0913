import { FullerError } from '../errors.js';
import { tasks, type Tasks } from './tasks.js';

/** What a worker answers; errors of ours cross the thread border as values, so that their code survives. */
export type WorkerAnswer =
  | { readonly value: unknown }
  | { readonly fault: { code: FullerError['code']; message: string; field?: string | undefined } };

export default async function run({ task, args }: { task: keyof Tasks; args: unknown[] }): Promise<WorkerAnswer> {
  try {
    return { value: await (tasks[task] as (...args: unknown[]) => Promise<unknown>)(...args) };
  } catch (error) {
    if (!(error instanceof FullerError)) throw error;
    return { fault: { code: error.code, message: error.message, field: error.field } };
  }
}
