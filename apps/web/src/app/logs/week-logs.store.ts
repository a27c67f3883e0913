import { computed, inject, Injectable, signal } from '@angular/core';
import type { LogView } from '@fuller/contracts';
import { airTimes, itemOf, lookUp, type DailyLog, type LogEntry } from '@fuller/core';
import { Store } from '@ngrx/store';
import { Api, ApiError } from '../shared/api/api';
import { catalogueFeature } from '../state/catalogue.feature';

/** An entry in a week of logs. */
export interface WeekEntry {
  readonly id: string;
  readonly date: string;
  readonly startMs: number;
  readonly title: string;
  readonly artist: string;
  readonly code: string;
  readonly colour: string;
  readonly isOpen: boolean;
  readonly isStrained: boolean;
}

/** A day of the week: null where it has no log. */
type Day = { readonly date: string; readonly view: LogView | null };

/** What of each day is shown: one slot of every hour, or all slots of a category. */
export interface WeekChoice {
  readonly categoryId: string | null;
  /** The n-th slot of the hour, from 0, of music where no category is chosen; null for every one. */
  readonly slot: number | null;
}

/** Logs of a station side by side. */
@Injectable()
export class WeekLogs {
  private readonly api = inject(Api);
  private readonly store = inject(Store);
  private readonly categories = this.store.selectSignal(catalogueFeature.selectCategoryMap);
  private asked = '';
  readonly days = signal<readonly Day[] | null>(null);
  readonly failed = signal<string | null>(null);
  readonly choice = signal<WeekChoice>({ categoryId: null, slot: 0 });

  /** Reads the logs of some dates. */
  async open(stationId: string, dates: readonly string[]): Promise<void> {
    const key = `${stationId} ${dates.join(' ')}`;
    if (key !== this.asked) this.days.set(null);
    this.asked = key;
    this.failed.set(null);
    try {
      const days = await Promise.all(
        dates.map(async (date): Promise<Day> => {
          const view = await this.api.log({ stationId, date }).catch((error: unknown) => {
            if (error instanceof ApiError && error.code === 'NO_LOG') return null;
            throw error;
          });
          return { date, view };
        }),
      );
      if (key === this.asked) this.days.set(days);
    } catch (error) {
      if (key === this.asked) this.failed.set(error instanceof Error ? error.message : String(error));
    }
  }

  /** The rows: one an hour of the day by the clock, with the entries of each day that are shown. */
  readonly rows = computed(() => {
    const days = this.days() ?? [];
    const choice = this.choice();
    const categories = this.categories();
    const cells = days.map(({ view }) => (view ? cellsOf(view, choice, categories) : new Map<number, WeekEntry[]>()));
    return Array.from({ length: 24 }, (_, localHour) => ({
      localHour,
      cells: cells.map((of) => of.get(localHour) ?? []),
    })).filter(({ cells: of }) => of.some((entries) => entries.length > 0));
  });
}

function cellsOf(
  view: LogView,
  { categoryId, slot }: WeekChoice,
  categories: Readonly<
    Record<
      string,
      | { readonly code: string; readonly colour: string; readonly averageMs: number | null; readonly music: boolean }
      | undefined
    >
  >,
): Map<number, WeekEntry[]> {
  const log = view.log as DailyLog;
  const items = new Map(view.items.map((item) => [item.id, item]));
  const strained = new Set(view.strains.map(({ entryId }) => entryId));
  const { entries: times } = airTimes(log, {
    lengthOf: (id) => {
      const item = items.get(id);
      return item ? item.durationMs - (item.segueMs ?? 0) : 0;
    },
    averageOfSlot: (entry) => categories[entry.categoryId]?.averageMs ?? 0,
  });
  const cells = new Map<number, WeekEntry[]>();
  for (const { localHour, entries } of log.hours) {
    const slots = entries.filter(
      (entry): entry is Extract<LogEntry, { kind: 'pick' }> =>
        entry.kind === 'pick' &&
        !entry.out &&
        (categoryId === null ? categories[entry.categoryId]?.music === true : entry.categoryId === categoryId),
    );
    const shown = slot === null ? slots : slots.slice(slot, slot + 1);
    const held = shown.map((entry): WeekEntry => {
      const itemId = itemOf(entry);
      const item = itemId === null ? undefined : items.get(itemId);
      const category = categories[entry.categoryId];
      return {
        id: entry.id,
        date: log.date,
        startMs: lookUp(times, entry.id).startMs,
        title: item?.title ?? (itemId === null ? 'Open slot' : 'Deleted item'),
        artist: item?.artist ?? '',
        code: category?.code ?? '',
        colour: category?.colour ?? 'var(--ink)',
        isOpen: itemId === null,
        isStrained: strained.has(entry.id),
      };
    });
    // The hour that a day of 25 hours has twice stands in one row.
    cells.set(localHour, [...(cells.get(localHour) ?? []), ...held]);
  }
  return cells;
}
