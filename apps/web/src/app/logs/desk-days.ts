import { computed, inject, Injectable, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import type { LogView } from '@fuller/contracts';
import { isDate } from '@fuller/core';
import { debounceTime, filter } from 'rxjs';
import { Api, ApiError } from '../shared/api/api';
import { reloadOn } from '../shared/api/reload-on';
import { ServerEvents } from '../shared/api/server-events';
import { shownRows } from './desk-filter';
import { LogDesk } from './log-desk.store';
import { logRows, type LogRow } from './log-model';
import { viewDates, type ViewOrder } from './view-order';

/** An edit here or by somebody else can change what strains the other days; they are read again once it is quiet. */
const QUIET_MS = 800;

/** The head of a day, where several stand on the desk. */
export interface DayRow {
  readonly kind: 'day';
  readonly id: string;
  readonly date: string;
  /** Whether it is the day that is being worked on. */
  readonly here: boolean;
  readonly state: 'log' | 'none' | 'loading';
}

/** A row of a day that stands on the desk beside the one that is being worked on. */
export interface OtherDayRow {
  readonly kind: 'other day';
  readonly id: string;
  readonly date: string;
  readonly row: LogRow;
}

export type ListRow = LogRow | DayRow | OtherDayRow;

/** The days that stand on the desk in view order: one is worked on, the others are read beside it. */
@Injectable()
export class DeskDays {
  private readonly api = inject(Api);
  private readonly desk = inject(LogDesk);
  private stationId = '';
  readonly dates = signal<readonly string[]>([]);
  /** The date the view was begun with; it stays while another of its days is worked on. */
  begun = '';
  /** The logs of the days that were read: null for a day without one. */
  private readonly views = signal<ReadonlyMap<string, LogView | null>>(new Map());
  private readonly rowsOfView = new WeakMap<LogView, { readonly names: unknown; readonly rows: LogRow[] }>();

  constructor() {
    reloadOn(['logs', 'library'], () => this.readOthers(), { burstMs: QUIET_MS });
    inject(ServerEvents)
      .events.pipe(
        filter((event) => event.type === 'log' && event.stationId === this.stationId),
        debounceTime(QUIET_MS),
        takeUntilDestroyed(),
      )
      .subscribe(() => this.readOthers());
  }

  /** Lays the days out so that a date is among them: those the view was begun with where it is one of them, else its own. */
  lay(stationId: string, date: string, order: ViewOrder, from: string | undefined): void {
    if (stationId !== this.stationId) this.views.set(new Map());
    this.stationId = stationId;
    const wanted = from !== undefined && isDate(from) ? viewDates(from, order) : [];
    this.begun = from !== undefined && wanted.includes(date) ? from : date;
    const dates = isDate(date) ? viewDates(this.begun, order) : [];
    if (dates.join() === this.dates().join()) return;
    this.dates.set(dates);
    void this.read(dates.filter((one) => one !== date && !this.views().has(one)));
  }

  /** The log of another day as far as it has been read, to be shown at once when it is opened. */
  known(date: string): LogView | null {
    return this.views().get(date) ?? null;
  }

  /** Keeps the day of a station that is left as it was last seen. */
  keep(stationId: string, view: LogView | null): void {
    if (view && stationId === this.stationId && this.dates().length > 1)
      this.put((view.log as { date: string }).date, view);
  }

  private readOthers(): void {
    void this.read(this.dates().filter((date) => date !== this.desk.date()));
  }

  /** Reads days; those that cannot be read stay as they were. */
  private async read(dates: readonly string[]): Promise<void> {
    if (this.dates().length < 2) return;
    const stationId = this.stationId;
    await Promise.all(
      dates.map(async (date) => {
        try {
          const view = await this.api.log({ stationId, date });
          if (stationId === this.stationId) this.put(date, view);
        } catch (error) {
          const none = error instanceof ApiError && error.code === 'NO_LOG';
          if (none && stationId === this.stationId) this.put(date, null);
        }
      }),
    );
  }

  private put(date: string, view: LogView | null): void {
    this.views.update((views) => new Map([...views, [date, view]]));
  }

  /** What the list shows: the rows of every day in view order, each under its head; of one day its rows alone. */
  readonly list = computed<readonly ListRow[]>(() => {
    const here = this.desk.rows();
    const dates = this.dates();
    if (dates.length < 2) return here;
    return dates.flatMap((date): ListRow[] => {
      const isHere = date === this.desk.date();
      const view = this.views().get(date);
      const state = isHere || view ? 'log' : view === null ? 'none' : 'loading';
      const head: DayRow = { kind: 'day', id: `day-${date}`, date, here: isHere, state };
      if (isHere) return [head, ...here];
      if (!view) return [head];
      const rows = shownRows(this.rowsOf(view), this.desk.filter(), new Set(), {
        nowMs: this.desk.nowMs(),
        always: null,
      });
      return [head, ...rows.map((row): OtherDayRow => ({ kind: 'other day', id: `${date}/${row.id}`, date, row }))];
    });
  });

  /** The entry a step beyond the end of the day that is worked on; null where no further day has one. */
  beyond(step: number): { readonly date: string; readonly entryId: string } | null {
    const list = this.list();
    const at = list.findIndex(({ id }) => id === this.desk.activeId());
    const away = step > 0 ? list.slice(at + 1) : list.slice(0, Math.max(0, at)).reverse();
    const found = away.find((one): one is OtherDayRow => one.kind === 'other day' && one.row.kind === 'entry');
    return found ? { date: found.date, entryId: found.row.id } : null;
  }

  private rowsOf(view: LogView): LogRow[] {
    const names = this.desk.names();
    const kept = this.rowsOfView.get(view);
    if (kept?.names === names) return kept.rows;
    const { rows } = logRows(view, names);
    this.rowsOfView.set(view, { names, rows });
    return rows;
  }
}
