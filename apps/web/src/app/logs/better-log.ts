import { computed, inject, Injectable, InjectionToken, type OnDestroy, signal } from '@angular/core';
import type { DailyLog, Outlook } from '@fuller/core';
import { columnName } from '../rules/columns';
import { Api } from '../shared/api/api';
import { Changes } from '../state/changes';
import type { OutlookNews, OutlookQuestion } from './outlook.worker';
import { outlookWords } from './outlook-words';

/** Starts the worker that looks at a log. */
export const OUTLOOK_WORKER = new InjectionToken<() => Worker>('outlook worker', {
  providedIn: 'root',
  factory: () => () => new Worker(new URL('./outlook.worker', import.meta.url), { type: 'module' }),
});

/** What came of looking for a better log, and the log it was said of. */
interface Found {
  readonly log: DailyLog;
  readonly outlook: Outlook;
  /** Whether the search was stopped before its end. */
  readonly isStopped: boolean;
}

/** Looks for a better log of a day, or for the proof that there is none, in a worker of its own: the desk goes on meanwhile. */
@Injectable()
export class BetterLog implements OnDestroy {
  private readonly api = inject(Api);
  private readonly changes = inject(Changes);
  private readonly startWorker = inject(OUTLOOK_WORKER);
  private worker: Worker | null = null;
  private found: Found | null = null;
  private readonly result = signal<Found | null>(null);
  /** What is being done while it looks; null when it does not. */
  readonly doing = signal<string | null>(null);
  readonly share = signal(0);

  /** What is known of a log, in words; null where it was not looked at. */
  readonly wordsOf = computed(() => {
    const found = this.result();
    return (log: DailyLog | null) =>
      found && found.log === log ? outlookWords(found.outlook, { isStopped: found.isStopped }) : null;
  });

  ngOnDestroy(): void {
    this.end();
  }

  /** Looks at a log under the rules that are on. */
  async look(stationId: string, log: DailyLog, rulesOff: readonly string[]): Promise<void> {
    if (this.doing() !== null) return;
    this.result.set(null);
    this.found = null;
    this.share.set(0);
    this.doing.set('Reading the station');
    try {
      const { data } = await this.api.deskData({ stationId, date: log.date });
      // Stopped while it was read.
      if (this.doing() === null) return;
      const outlook = await this.ask({ data, log, rulesOff, nowMs: Date.now() });
      if (outlook) this.result.set({ log, outlook, isStopped: false });
    } catch (error) {
      this.changes.tell(error);
    } finally {
      this.end();
    }
  }

  /** Ends the search; what has been found so far stays. */
  stop(): void {
    if (this.found) this.result.set({ ...this.found, isStopped: true });
    this.end();
  }

  private ask(question: OutlookQuestion): Promise<Outlook | null> {
    const worker = this.startWorker();
    this.worker = worker;
    return new Promise((resolve, reject) => {
      this.given = () => resolve(null);
      worker.addEventListener('message', ({ data: news }: MessageEvent<OutlookNews>) => {
        if ('error' in news) return reject(new Error(news.error));
        if ('outlook' in news) return resolve(news.outlook);
        this.found = { log: question.log, outlook: news.soFar, isStopped: true };
        this.share.set(news.share);
        this.doing.set(doingWords(news.doing));
      });
      worker.addEventListener('error', ({ message }) => reject(new Error(message)));
      worker.postMessage(question);
    });
  }

  /** Called where nothing more will be answered. */
  private given: () => void = () => {};

  private end(): void {
    this.worker?.terminate();
    this.worker = null;
    this.doing.set(null);
    this.given();
  }
}

/** What the engine works on, as a person reads it. */
function doingWords(doing: string): string {
  const rank = /^rank (\d+)$/.exec(doing)?.[1];
  if (rank !== undefined) return `Proving ${columnName(Number(rank))}`;
  if (doing === 'open slots') return 'Proving open slots';
  return doing === 'even turns' ? 'Evening out turns' : 'Trying other songs';
}
