import type { JobView, ServerEvent } from '@fuller/contracts';
import { FullerError, notFound } from '../errors.js';
import { newId } from '../ids.js';

/** What running work may do with its job. */
export interface RunningJob {
  readonly signal: AbortSignal;
  progress(share: number, doing: string): void;
}

export interface JobOutcome {
  readonly activityId: string | null;
  readonly message: string;
  readonly result: unknown;
}

type JobStart = Pick<JobView, 'kind' | 'label' | 'stationId' | 'clientId'>;

/** So many ended jobs are remembered. */
const REMEMBERED = 30;

/** Long work with progress, cancel and result; each change is announced. */
export class JobRunner {
  private readonly jobs = new Map<string, { view: JobView; abort: AbortController; done: Promise<void> }>();

  constructor(
    private readonly announce: (event: ServerEvent) => void,
    private readonly reportFault: (error: unknown, job: JobView) => void,
  ) {}

  list(): JobView[] {
    return [...this.jobs.values()].map((job) => job.view);
  }

  start(about: JobStart, work: (job: RunningJob) => Promise<JobOutcome>): JobView {
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

  private async run(id: string, abort: AbortController, work: (job: RunningJob) => Promise<JobOutcome>): Promise<void> {
    await Promise.resolve();
    try {
      const outcome = await work({
        signal: abort.signal,
        progress: (share, doing) => this.change(id, { progress: Math.min(1, share), doing }),
      });
      this.change(id, { ...outcome, state: 'done', progress: 1, doing: '' });
    } catch (error) {
      if (abort.signal.aborted) {
        this.change(id, { state: 'cancelled', doing: '', message: 'Cancelled; nothing was written.' });
        return;
      }
      const known = error instanceof FullerError;
      if (!known) this.reportFault(error, this.jobs.get(id)!.view);
      this.change(id, {
        state: 'failed',
        doing: '',
        message: known ? error.message : 'Something unexpected went wrong; nothing was written.',
      });
    }
  }

  private change(id: string, change: Partial<JobView>): void {
    const job = this.jobs.get(id);
    if (!job) return;
    job.view = { ...job.view, ...change };
    this.announce({ type: 'job', job: job.view });
  }

  private forgetOld(): void {
    const ended = [...this.jobs.entries()].filter(([, job]) => job.view.state !== 'running');
    for (const [id] of ended.slice(0, Math.max(0, ended.length - REMEMBERED))) this.jobs.delete(id);
  }
}
