import { existsSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { Worker } from 'node:worker_threads';
import type { DailyLog } from '@fuller/core';
import { endThread } from '../end-thread.js';
import { FullerError } from '../errors.js';
import type { Judgement } from '../logs/judge.js';
import type { Asked, FromThread, ToThread } from './protocol.js';

interface Waiting {
  readonly resolve: (value: unknown) => void;
  readonly reject: (error: unknown) => void;
}

/**
 * A thread with a connection of its own that reads, judges and answers what takes long, so that the server goes on
 * answering meanwhile. It is told of every write, in order, before anything asked after it. A thread that dies is
 * started again; what it was asked fails.
 */
export class ReadingThread {
  private worker: Worker;
  private readonly waiting = new Map<number, Waiting>();
  private nextId = 1;
  private closed = false;
  private begun: () => void = () => {};
  /** Settles when it has opened its database. */
  readonly ready = new Promise<void>((resolve) => (this.begun = resolve));

  constructor(
    private readonly dataDir: string,
    private readonly database: string | null,
    private readonly reportFault: (error: unknown, about: object) => void,
  ) {
    this.worker = this.start();
  }

  private start(): Worker {
    const worker = new Worker(workerFile(), { workerData: { dataDir: this.dataDir, database: this.database } });
    worker.on('message', (message: FromThread) => this.take(message));
    worker.on('error', (error) => this.reportFault(error, { about: 'reading thread' }));
    worker.on('exit', () => {
      for (const { reject } of this.waiting.values())
        reject(new FullerError('UNEXPECTED', 'The answer could not be worked out. Try again.'));
      this.waiting.clear();
      if (!this.closed) this.worker = this.start();
    });
    worker.unref();
    return worker;
  }

  private take(message: FromThread): void {
    if ('ready' in message) return this.begun();
    const waiting = this.waiting.get(message.id);
    this.waiting.delete(message.id);
    if (this.waiting.size === 0) this.worker.unref();
    if (!waiting) return;
    if (!('fault' in message)) return waiting.resolve(message.value);
    const { code, message: words, field } = message.fault;
    waiting.reject(code ? new FullerError(code, words, field) : new Error(words));
  }

  private ask(asked: Asked): Promise<unknown> {
    const id = this.nextId++;
    this.worker.ref();
    this.worker.postMessage({ id, asked } satisfies ToThread);
    return new Promise((resolve, reject) => this.waiting.set(id, { resolve, reject }));
  }

  /** The answer of a route as JSON text in UTF-8. */
  async answer(route: string, params: unknown, query: unknown): Promise<Buffer> {
    return Buffer.from((await this.ask({ what: 'answer', route, params, query })) as Uint8Array);
  }

  judge(stationId: string, log: DailyLog): Promise<Judgement> {
    return this.ask({ what: 'judge', stationId, log }) as Promise<Judgement>;
  }

  /** The figures of a day, as they are kept. */
  figures(stationId: string, date: string): Promise<string> {
    return this.ask({ what: 'figures', stationId, date }) as Promise<string>;
  }

  /** What a date of a station is generated from, serialised for another thread. */
  data(stationId: string, date: string, filters: readonly string[]): Promise<Uint8Array> {
    return this.ask({ what: 'data', stationId, date, filters }) as Promise<Uint8Array>;
  }

  /** Tells the thread what a write has changed. */
  note(things: ReadonlySet<string>, logs: readonly { readonly stationId: string; readonly date: string }[]): void {
    if (!this.closed) this.worker.postMessage({ things: [...things], logs } satisfies ToThread);
  }

  async close(): Promise<void> {
    this.closed = true;
    await endThread(this.worker, () => this.worker.postMessage({ quit: true } satisfies ToThread));
  }
}

/** The bundled thread beside the bundled server, or the source one. */
function workerFile(): string {
  const bundled = fileURLToPath(new URL('./reader.js', import.meta.url));
  return existsSync(bundled) ? bundled : fileURLToPath(new URL('./reader-boot.mjs', import.meta.url));
}
