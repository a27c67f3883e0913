import { parentPort, workerData } from 'node:worker_threads';
import { solve, type Effort, type Instance, type Solution } from '@fuller/core';

/** What a thread is to solve. */
export interface SolveTask {
  readonly instance: Instance;
  readonly seed: number;
  readonly effort: Effort;
  /** One number that is 1 once the search is to end. */
  readonly stop: Int32Array;
}

/** How far a search is, or what came of it. */
export type SolveNews = { readonly share: number; readonly doing: string } | { readonly solution: Solution };

/** Milliseconds between two pieces of news. */
const EVERY_MS = 200;

const { instance, seed, effort, stop } = workerData as SolveTask;
let toldAt = 0;
const solution = solve(instance, {
  seed,
  effort,
  isStopped: () => Atomics.load(stop, 0) === 1,
  progress: (share, doing) => {
    if (performance.now() - toldAt < EVERY_MS) return;
    toldAt = performance.now();
    parentPort?.postMessage({ share, doing } satisfies SolveNews);
  },
});
parentPort?.postMessage({ solution } satisfies SolveNews);
