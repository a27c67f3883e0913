import { existsSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { Worker } from 'node:worker_threads';
import type { Announcement } from '@fuller/contracts';
import type { Mutex } from 'async-mutex';
import { endThread } from '../end-thread.js';
import { FullerError } from '../errors.js';
import type { RunningJob } from '../jobs/job-runner.js';
import { whoAsks } from '../store/asking.js';
import type { LongTask } from './long-tasks.js';
import type { FromWriter, ToWriter, WriterData } from './protocol.js';

const MOST_MEMORY_MB = 1200;
/** A thread that tells nothing for so long is given up, ms. */
const SILENT_MS = 120_000;

export interface Surroundings {
  readonly dataDir: string;
  readonly database: string | null;
  readonly roots: readonly string[];
  /** Whose turn it is to write. */
  readonly writing: Mutex;
  readonly committed: (things: ReadonlySet<string>) => void;
  readonly announce: (event: Announcement) => void;
  /** Takes back what a thread that died had begun to write. */
  readonly takeBack: () => Promise<unknown>;
}

/** A thread has ended without an answer. */
class DeadThread extends Error {
  constructor(readonly fault: Error) {
    super(fault.message);
  }
}

/** One thread for long work, with a database connection of its own; it does one thing after the other. */
export class WriterThread {
  private readonly worker: Worker;
  private release: (() => void) | null = null;
  private tooLong = false;
  private silent: NodeJS.Timeout | undefined;
  /** Whether it can be asked for more. */
  alive = true;

  constructor(private readonly around: Surroundings) {
    const { dataDir, database, roots } = around;
    this.worker = new Worker(workerFile(), {
      workerData: { dataDir, database, roots } satisfies WriterData,
      resourceLimits: { maxOldGenerationSizeMb: MOST_MEMORY_MB },
    });
    // An idle thread does not keep the process alive, and its end is nobody's fault.
    this.worker.on('error', () => {});
    this.worker.on('exit', () => this.died());
  }

  private died(): void {
    this.alive = false;
    this.endTurn();
  }

  private send(message: ToWriter): void {
    this.worker.postMessage(message);
  }

  /** Carries out a task; others write only between its turns. */
  async run(task: LongTask, args: readonly unknown[], job: RunningJob): Promise<unknown> {
    const stop = (): void => this.send({ stop: wordsOf(job.signal.reason) });
    const offs: (() => void)[] = [];
    this.worker.ref();
    try {
      job.signal.addEventListener('abort', stop);
      this.heard();
      return await new Promise<unknown>((resolve, reject) => {
        const on = <E extends 'message' | 'error' | 'exit'>(event: E, listener: (value: never) => void): void => {
          this.worker.on(event as 'message', listener as never);
          offs.push(() => void this.worker.off(event, listener as never));
        };
        on('message', (message: FromWriter) => this.take(message, job, resolve, reject));
        on('error', (error: Error) => reject(faultOf(error)));
        on('exit', () => reject(faultOf(this.tooLong ? 'too long' : null)));
        this.send({ task, args, asking: whoAsks() });
      });
    } catch (error) {
      if (!(error instanceof DeadThread)) throw error;
      this.died();
      await this.worker.terminate();
      await this.around.takeBack();
      throw error.fault;
    } finally {
      clearTimeout(this.silent);
      job.signal.removeEventListener('abort', stop);
      for (const off of offs) off();
      this.endTurn();
      this.worker.unref();
    }
  }

  private take(
    message: FromWriter,
    job: RunningJob,
    resolve: (value: unknown) => void,
    reject: (error: Error) => void,
  ): void {
    this.heard();
    switch (message.what) {
      case 'turn wanted':
        return void this.takeTurn();
      case 'turn over':
        return this.endTurn();
      case 'progress':
        return job.progress(message.share, message.doing);
      case 'committed':
        return this.around.committed(new Set(message.things));
      case 'event':
        return this.around.announce(message.event);
      case 'done':
        return resolve(message.value);
      case 'failed':
        return reject(
          message.code ? new FullerError(message.code, message.message, message.field) : new Error(message.message),
        );
    }
  }

  private async takeTurn(): Promise<void> {
    const over = await this.around.writing.acquire();
    // A thread that has died meanwhile gives its turn back.
    if (!this.alive) return over();
    this.release = over;
    this.send({ turn: true });
  }

  private endTurn(): void {
    this.release?.();
    this.release = null;
  }

  /** The thread has told something: it is given more time. */
  private heard(): void {
    clearTimeout(this.silent);
    this.silent = setTimeout(() => {
      this.tooLong = true;
      void this.worker.terminate();
    }, SILENT_MS);
  }

  async end(): Promise<void> {
    if (this.alive) await endThread(this.worker, () => this.send({ quit: true }));
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
