import { backupOf, factsOfBackup } from '../care/backup-file.js';
import type { RunningJob } from '../jobs/job-runner.js';
import { summariseImport, writeImport, type ImportTools } from '../import/import-run.js';
import type { OpenImport } from '../import/import-rows.js';

/** Reading and writing of many rows; each runs where it may take its time. */
export const longTasks = {
  summariseImport: (tools: ImportTools, job: RunningJob, open: OpenImport) => summariseImport(tools, open, job),
  writeImport: (tools: ImportTools, job: RunningJob, open: OpenImport, clientId: string, category: string | null) =>
    writeImport(tools, open, clientId, category, job),
  undo: (tools: ImportTools, _job: RunningJob, activityId: string, clientId: string) =>
    tools.store.undoing.undo(activityId, clientId),
  backUp: async (_tools: ImportTools, _job: RunningJob, from: string, to: string) => backupOf(from, to),
  readBackup: async (_tools: ImportTools, _job: RunningJob, file: string) => factsOfBackup(file),
};
/** Tasks that write in batches: one of them at a time. */
export const WRITES_BATCHES: ReadonlySet<keyof typeof longTasks> = new Set(['writeImport', 'undo']);
export type LongTasks = typeof longTasks;
export type LongTask = keyof LongTasks;
export type LongArgs<K extends LongTask> =
  Parameters<LongTasks[K]> extends [ImportTools, RunningJob, ...infer Rest] ? Rest : never;
export type LongAnswer<K extends LongTask> = Awaited<ReturnType<LongTasks[K]>>;

/** Where long work is done. */
export interface LongWork {
  run<K extends LongTask>(task: K, args: LongArgs<K>, job: RunningJob): Promise<LongAnswer<K>>;
  close(): Promise<void>;
}

/** Carries out a task with the tools of the calling thread. */
export function carryOut<K extends LongTask>(
  tools: ImportTools,
  task: K,
  args: LongArgs<K>,
  job: RunningJob,
): Promise<LongAnswer<K>> {
  const work = longTasks[task] as (...all: unknown[]) => Promise<LongAnswer<K>>;
  return work(tools, job, ...(args as unknown[]));
}

/** Long work in the calling thread, for the command line and for tests. */
export function inlineWork(tools: ImportTools): LongWork {
  return { run: (task, args, job) => carryOut(tools, task, args, job), close: async () => {} };
}
