import { Mutex, Semaphore } from 'async-mutex';
import type { RunningJob } from '../jobs/job-runner.js';
import { WRITES_BATCHES, type LongAnswer, type LongArgs, type LongTask, type LongWork } from './long-tasks.js';
import { WriterThread, type Surroundings } from './writer-thread.js';

/** So many pieces of long work go on at once; more wait. */
const THREADS = 2;
/** An idle thread is kept for so long for what may come next, then it ends and gives its memory back, ms. */
const IDLE_MS = 15_000;

/**
 * Long work in threads with connections of their own, so that the server goes on answering. A thread writes only while
 * it holds the turn, so that edits wait for one batch at most.
 */
export class WritingThreads implements LongWork {
  private readonly places = new Semaphore(THREADS);
  /** One writes in batches at a time: what a thread that died has left is told from what another one writes. */
  private readonly batches = new Mutex();
  private readonly threads = new Set<WriterThread>();
  private readonly idle: WriterThread[] = [];

  constructor(private readonly around: Surroundings) {}

  run<K extends LongTask>(task: K, args: LongArgs<K>, job: RunningJob): Promise<LongAnswer<K>> {
    const one = (): Promise<LongAnswer<K>> =>
      this.places.runExclusive(() => {
        job.signal.throwIfAborted();
        return this.inThread(task, args, job) as Promise<LongAnswer<K>>;
      });
    return WRITES_BATCHES.has(task) ? this.batches.runExclusive(one) : one();
  }

  private async inThread(task: LongTask, args: readonly unknown[], job: RunningJob): Promise<unknown> {
    const thread = this.idleThread() ?? this.newThread();
    try {
      return await thread.run(task, args, job);
    } finally {
      if (thread.alive) this.keepIdle(thread);
      else this.threads.delete(thread);
    }
  }

  private idleThread(): WriterThread | undefined {
    for (let thread = this.idle.pop(); thread; thread = this.idle.pop()) if (thread.alive) return thread;
    return undefined;
  }

  private newThread(): WriterThread {
    const thread = new WriterThread(this.around);
    this.threads.add(thread);
    return thread;
  }

  private keepIdle(thread: WriterThread): void {
    this.idle.push(thread);
    setTimeout(() => {
      const at = this.idle.indexOf(thread);
      if (at < 0) return;
      this.idle.splice(at, 1);
      this.threads.delete(thread);
      void thread.end();
    }, IDLE_MS).unref();
  }

  /** Ends all threads; what one was writing is taken back at the next start. */
  async close(): Promise<void> {
    await Promise.all([...this.threads].map((thread) => thread.end()));
  }
}
