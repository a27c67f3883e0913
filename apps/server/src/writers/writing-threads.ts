import { existsSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { Worker } from 'node:worker_threads';
import { Mutex, Semaphore } from 'async-mutex';
import type { ServerEvent } from '@fuller/contracts';
import { endThread } from '../end-thread.js';
import { FullerError } from '../errors.js';
import type { RunningJob } from '../jobs/job-runner.js';
import type { LongAnswer, LongArgs, LongTask, LongWork } from './long-tasks.js';
import type { FromWriter, ToWriter, WorkOrder } from './protocol.js';

/** So many pieces of long work go on at once; more wait. */
const THREADS = 2;
const MOST_MEMORY_MB = 1200;
/** A thread that tells nothing for so long is given up, ms. */
const SILENT_MS = 120_000;

interface Surroundings {
  readonly dataDir: string;
  readonly roots: readonly string[];
  /** Whose turn it is to write. */
  readonly writing: Mutex;
  readonly committed: (things: ReadonlySet<string>) => void;
  readonly announce: (event: ServerEvent) => void;
  /** Takes back what a thread that died had begun to write. */
  readonly takeBack: () => Promise<unknown>;
}

/**
 * Long work in threads with connections of their own, so that the server goes on answering and gives the memory back
 * in the end. A thread writes only while it holds the turn, so that edits wait for one batch at most.
 */
export class WritingThreads implements LongWork {
  private readonly places = new Semaphore(THREADS);
  /** One writes in batches at a time: what a thread that died has left is told from what another one writes. */
  private readonly batches = new Mutex();
  private readonly running = new Set<Worker>();

  constructor(private readonly around: Surroundings) {}

  run<K extends LongTask>(task: K, args: LongArgs<K>, job: RunningJob): Promise<LongAnswer<K>> {
    const one = (): Promise<LongAnswer<K>> =>
      this.places.runExclusive(() => {
        job.signal.throwIfAborted();
        return this.inThread(task, args, job) as Promise<LongAnswer<K>>;
      });
    return task === 'summariseImport' ? one() : this.batches.runExclusive(one);
  }

  private async inThread(task: LongTask, args: readonly unknown[], job: RunningJob): Promise<unknown> {
    const { dataDir, roots, writing, committed, announce, takeBack } = this.around;
    const order: WorkOrder = { dataDir, roots, task, args };
    const worker = new Worker(workerFile(), {
      workerData: order,
      resourceLimits: { maxOldGenerationSizeMb: MOST_MEMORY_MB },
    });
    this.running.add(worker);
    const send = (message: ToWriter): void => worker.postMessage(message);
    const stop = (): void => send({ stop: wordsOf(job.signal.reason) });
    let [release, ended]: [(() => void) | null, boolean] = [null, false];
    let silent: NodeJS.Timeout | undefined;
    let tooLong = false;
    const heard = (): void => {
      clearTimeout(silent);
      silent = setTimeout(() => {
        tooLong = true;
        void worker.terminate();
      }, SILENT_MS);
    };
    const turn = async (): Promise<void> => {
      const over = await writing.acquire();
      // Nobody else writes meanwhile; a thread that has died gives its turn back.
      if (ended) return over();
      release = over;
      send({ turn: true });
    };
    const endTurn = (): void => {
      release?.();
      release = null;
    };
    try {
      job.signal.addEventListener('abort', stop);
      heard();
      return await new Promise<unknown>((resolve, reject) => {
        worker.on('message', (message: FromWriter) => {
          heard();
          switch (message.what) {
            case 'turn wanted':
              return void turn();
            case 'turn over':
              return endTurn();
            case 'progress':
              return job.progress(message.share, message.doing);
            case 'committed':
              return committed(new Set(message.things));
            case 'event':
              return announce(message.event);
            case 'done':
              return resolve(message.value);
            case 'failed':
              return reject(
                message.code
                  ? new FullerError(message.code, message.message, message.field)
                  : new Error(message.message),
              );
          }
        });
        worker.on('error', (error) => reject(faultOf(error)));
        worker.on('exit', () => reject(faultOf(tooLong ? 'too long' : null)));
      });
    } catch (error) {
      if (!(error instanceof DeadThread)) throw error;
      ended = true;
      await worker.terminate();
      endTurn();
      await takeBack();
      throw error.fault;
    } finally {
      ended = true;
      clearTimeout(silent);
      job.signal.removeEventListener('abort', stop);
      this.running.delete(worker);
      endTurn();
    }
  }

  /** Ends what still runs; what it wrote is taken back at the next start. */
  async close(): Promise<void> {
    await Promise.all(
      [...this.running].map((worker) => endThread(worker, () => worker.postMessage({ quit: true } satisfies ToWriter))),
    );
  }
}

/** A thread has ended without an answer. */
class DeadThread extends Error {
  constructor(readonly fault: Error) {
    super(fault.message);
  }
}

function faultOf(error: unknown): DeadThread {
  const { code } = (error ?? {}) as { code?: string };
  if (code === 'ERR_WORKER_OUT_OF_MEMORY')
    return new DeadThread(
      new FullerError('TOO_LARGE', 'The file takes more memory to read than there is; split it and import the parts.'),
    );
  if (error === 'too long')
    return new DeadThread(
      new FullerError('TOO_LARGE', 'Reading took too long and was stopped; split the file and import the parts.'),
    );
  return new DeadThread(error instanceof Error ? error : new Error('the thread ended without an answer'));
}

function wordsOf(reason: unknown): string {
  return reason instanceof Error ? reason.message : 'Cancelled.';
}

/** The bundled thread beside the bundled server, or the source one. */
function workerFile(): string {
  const bundled = fileURLToPath(new URL('./writer.js', import.meta.url));
  return existsSync(bundled) ? bundled : fileURLToPath(new URL('./writer-boot.mjs', import.meta.url));
}
