import type { Worker } from 'node:worker_threads';

/** A thread that does not end by itself within this time is ended from outside, ms. */
const PATIENCE_MS = 5_000;

/**
 * Ends a thread that has been told to quit. It does so itself between two statements: the database driver must not be
 * cut off in the middle of one.
 */
export async function endThread(worker: Worker, tell: () => void): Promise<void> {
  const gone = new Promise<void>((resolve) => worker.once('exit', () => resolve()));
  tell();
  const late = setTimeout(() => void worker.terminate(), PATIENCE_MS);
  await gone;
  clearTimeout(late);
}
