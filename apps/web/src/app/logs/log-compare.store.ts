import { computed, inject, Injectable, signal } from '@angular/core';
import type { LogItem, LogVersion, PreviewDay } from '@fuller/contracts';
import { compareLogs, type DailyLog, elementAt } from '@fuller/core';
import { Api } from '../shared/api/api';
import { Changes } from '../state/changes';
import { LogDocument } from './log-document';

/** One of two logs side by side. */
export interface ShownLog {
  readonly log: DailyLog;
  readonly items: readonly LogItem[];
}

/** What stands beside the log as it is: what a run would make of it, or an earlier version. */
export type Beside =
  | { readonly kind: 'preview'; readonly jobId: string; readonly days: readonly PreviewDay[]; readonly at: number }
  | { readonly kind: 'version'; readonly version: LogVersion; readonly shown: ShownLog };

/** Two logs of a day side by side, and what is taken over of the other. */
@Injectable()
export class LogCompare {
  private readonly api = inject(Api);
  private readonly changes = inject(Changes);
  private readonly document = inject(LogDocument);
  private stationId = '';
  readonly beside = signal<Beside | null>(null);
  /** Logs of days other than the one that is open, as they were read for this. */
  private readonly others = signal<ReadonlyMap<string, { readonly revision: number; readonly shown: ShownLog } | null>>(
    new Map(),
  );
  /** Places of the hours that are to be taken over; all that differ where none is chosen. */
  readonly hours = signal<readonly number[]>([]);
  readonly busy = signal(false);

  /** The log as it is, of the day that is compared; null where there is none. */
  readonly now = computed<{ readonly revision: number; readonly shown: ShownLog } | null>(() => {
    const beside = this.beside();
    const view = this.document.view();
    const open = view ? { revision: view.revision, shown: { log: view.log as DailyLog, items: view.items } } : null;
    if (beside?.kind !== 'preview') return open;
    const day = elementAt(beside.days, beside.at);
    if (day.stationId === this.stationId && day.date === (view?.log.date ?? this.openDate)) return open;
    return this.others().get(keyOf(day)) ?? null;
  });
  /** What the log would become. */
  readonly then = computed<ShownLog | null>(() => {
    const beside = this.beside();
    if (!beside) return null;
    if (beside.kind === 'version') return beside.shown;
    const { log, items } = elementAt(beside.days, beside.at);
    return { log: log as DailyLog, items };
  });
  readonly comparison = computed(() => {
    const [now, then] = [this.now(), this.then()];
    return then ? compareLogs(now?.shown.log ?? { ...then.log, hours: [] }, then.log) : null;
  });
  /** Whether somebody has changed the log since the preview was worked out. */
  readonly changedSince = computed(() => {
    const beside = this.beside();
    if (beside?.kind !== 'preview') return false;
    return (this.now()?.revision ?? null) !== elementAt(beside.days, beside.at).revision;
  });
  private openDate = '';

  /** Told which day is open. */
  begin(stationId: string, date: string): void {
    [this.stationId, this.openDate] = [stationId, date];
    this.close();
  }

  /** Shows what a run would write, its days one after the other. */
  async showPreview(jobId: string): Promise<void> {
    const stationId = this.stationId;
    try {
      const days = await this.api.previewDays({ stationId, id: jobId });
      const others = await Promise.all(
        days
          .filter((day) => day.revision !== null && (day.date !== this.openDate || day.stationId !== stationId))
          .map(async (day) => {
            const view = await this.api.log({ stationId: day.stationId, date: day.date });
            return [
              keyOf(day),
              { revision: view.revision, shown: { log: view.log as DailyLog, items: view.items } },
            ] as const;
          }),
      );
      this.others.set(new Map(others));
      this.hours.set([]);
      const at = days.findIndex((day) => day.date === this.openDate && day.stationId === stationId);
      this.beside.set({ kind: 'preview', jobId, days, at: Math.max(0, at) });
    } catch (error) {
      this.changes.tell(error);
    }
  }

  showDay(at: number): void {
    const beside = this.beside();
    if (beside?.kind === 'preview') this.beside.set({ ...beside, at });
    this.hours.set([]);
  }

  /** Shows a version beside the log as it is. */
  async showVersion(version: LogVersion): Promise<void> {
    const [stationId, date] = [this.stationId, this.openDate];
    try {
      const { log, items } = await this.api.version({ stationId, date, versionId: version.id });
      this.hours.set([]);
      this.beside.set({ kind: 'version', version, shown: { log: log as DailyLog, items } });
    } catch (error) {
      this.changes.tell(error);
    }
  }

  turnHour(index: number): void {
    this.hours.update((hours) => (hours.includes(index) ? hours.filter((one) => one !== index) : [...hours, index]));
  }

  /** Takes over what is shown beside the log: all of it, every day of a preview, or the hours that are chosen. */
  async take(): Promise<void> {
    const beside = this.beside();
    if (!beside || this.busy()) return;
    this.busy.set(true);
    const done = await (beside.kind === 'version' ? this.restore(beside.version) : this.accept(beside));
    this.busy.set(false);
    if (done) this.close();
    // After a conflict both are shown as they are now.
    else await this.document.reload();
  }

  private async restore({ id }: LogVersion): Promise<boolean> {
    const [stationId, date] = [this.stationId, this.openDate];
    const revision = this.now()?.revision;
    if (revision === undefined) return false;
    const hours = this.hours();
    const body = { revision, versionId: id, ...(hours.length > 0 ? { hours: [...hours] } : {}) };
    const answer = await this.changes.run(this.api.restoreVersion({ stationId, date }, body));
    if (answer) this.document.replace(answer);
    return answer !== null;
  }

  private async accept(beside: Extract<Beside, { kind: 'preview' }>): Promise<boolean> {
    const hours = this.hours();
    const { date, stationId } = elementAt(beside.days, beside.at);
    const one = beside.days.length === 1 || hours.length > 0;
    const body = one
      ? { date, revision: this.now()?.revision ?? null, ...(hours.length > 0 ? { hours: [...hours] } : {}) }
      : {};
    const at = one ? stationId : this.stationId;
    const answer = await this.changes.run(this.api.acceptPreview({ stationId: at, id: beside.jobId }, body));
    if (answer) await this.document.reload();
    return answer !== null;
  }

  /** Leaves everything as it is. */
  drop(): void {
    const beside = this.beside();
    if (beside?.kind === 'preview')
      void this.api.dropPreview({ stationId: this.stationId, id: beside.jobId }).catch(() => undefined);
    this.close();
  }

  private close(): void {
    this.beside.set(null);
    this.hours.set([]);
    this.others.set(new Map());
  }
}

function keyOf({ stationId, date }: PreviewDay): string {
  return `${stationId} ${date}`;
}
