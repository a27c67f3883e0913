import { lookUp } from '@fuller/core';
import { readFileSync, renameSync, writeFileSync } from 'node:fs';
import type { JobView, Announcement } from '@fuller/contracts';
import { storageFault } from '../db/storage-fault.js';
import { FullerError, notFound } from '../errors.js';
import { newId } from '../ids.js';

/** What running work may do with its job. */
export interface RunningJob {
  readonly signal: AbortSignal;
  progress(share: number, doing: string): void;
}

/** For work that nobody watches or stops. */
export const UNWATCHED: RunningJob = { signal: new AbortController().signal, progress: () => {} };

export interface JobOutcome {
  readonly activityId: string | null;
  readonly message: string;
  readonly result: JobView['result'];
}

type JobStart = Pick<JobView, 'kind' | 'label' | 'stationId' | 'clientId'>;

/** So many ended jobs are remembered. */
const REMEMBERED = 30;

/** Long work with progress, cancel and result; each change is announced. */
export class JobRunner {
  private readonly jobs = new Map<string, { view: JobView; abort: AbortController; done: Promise<void> }>();

  constructor(
    private readonly announce: (event: Announcement) => void,
    private readonly reportFault: (error: unknown, job: JobView) => void,
    /** Where jobs are remembered over a restart. */
    private readonly file: string | null = null,
  ) {}

  /** Remembers the jobs of the last run; what was going on when it stopped has ended, and is told. */
  recover(): string[] {
    const views = this.file ? readViews(this.file) : [];
    const said: string[] = [];
    for (const view of views) {
      const cut = view.state === 'running';
      const message = cut ? 'Fuller was stopped while this ran; nothing of it is kept. Start it again.' : view.message;
      if (cut) said.push(`“${view.label}” was going on when Fuller stopped; nothing of it is kept.`);
      const ended: JobView = cut ? { ...view, state: 'failed', doing: '', message } : view;
      this.jobs.set(view.id, { view: ended, abort: new AbortController(), done: Promise.resolve() });
    }
    if (said.length > 0) this.remember();
    return said;
  }

  private remember(): void {
    if (!this.file) return;
    writeFileSync(`${this.file}.part`, JSON.stringify(this.list().filter(({ kind }) => kind !== 'stand-in')));
    renameSync(`${this.file}.part`, this.file);
  }

  list(): JobView[] {
    return [...this.jobs.values()].map((job) => job.view);
  }

  start(about: JobStart, work: (job: RunningJob, id: string) => Promise<JobOutcome>): JobView {
    const id = newId();
    const abort = new AbortController();
    const view: JobView = {
      ...about,
      id,
      state: 'running',
      progress: 0,
      doing: 'Starting',
      message: null,
      activityId: null,
      result: null,
    };
    const done = this.run(id, abort, work);
    this.jobs.set(id, { view, abort, done });
    this.forgetOld();
    this.remember();
    this.announce({ type: 'job', job: view });
    return view;
  }

  cancel(id: string): JobView {
    const job = this.jobs.get(id);
    if (!job) throw notFound('job', id);
    job.abort.abort(new FullerError('CONFLICT', 'Cancelled.'));
    return job.view;
  }

  /** Cancels what runs and waits until it has ended. */
  async close(): Promise<void> {
    for (const job of this.jobs.values()) job.abort.abort(new FullerError('CONFLICT', 'Fuller is stopping.'));
    await Promise.allSettled([...this.jobs.values()].map((job) => job.done));
  }

  private async run(
    id: string,
    abort: AbortController,
    work: (job: RunningJob, id: string) => Promise<JobOutcome>,
  ): Promise<void> {
    await Promise.resolve();
    try {
      const job: RunningJob = {
        signal: abort.signal,
        progress: (share, doing) => this.change(id, { progress: Math.min(1, share), doing }),
      };
      const outcome = await work(job, id);
      this.change(id, { ...outcome, state: 'done', progress: 1, doing: '' });
    } catch (error) {
      if (abort.signal.aborted) {
        this.change(id, { state: 'cancelled', doing: '', message: 'Cancelled; nothing was written.' });
        return;
      }
      const known = error instanceof FullerError;
      if (!known) this.reportFault(error, lookUp(this.jobs, id).view);
      this.change(id, {
        state: 'failed',
        doing: '',
        message: known
          ? error.message
          : (storageFault(error) ?? 'Something unexpected went wrong; nothing was written.'),
      });
    }
  }

  private change(id: string, change: Partial<JobView>): void {
    const job = this.jobs.get(id);
    if (!job) return;
    job.view = { ...job.view, ...change };
    if (change.state) this.remember();
    this.announce({ type: 'job', job: job.view });
  }

  private forgetOld(): void {
    const ended = [...this.jobs.entries()].filter(([, job]) => job.view.state !== 'running');
    for (const [id] of ended.slice(0, Math.max(0, ended.length - REMEMBERED))) this.jobs.delete(id);
  }
}

function readViews(file: string): JobView[] {
  try {
    return JSON.parse(readFileSync(file, 'utf8')) as JobView[];
  } catch {
    return [];
  }
}
