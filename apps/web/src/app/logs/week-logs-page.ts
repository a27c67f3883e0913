import { ChangeDetectionStrategy, Component, computed, effect, inject, input, untracked } from '@angular/core';
import { Router, RouterLink } from '@angular/router';
import { formatAirTime, isDate } from '@fuller/core';
import { Store } from '@ngrx/store';
import { DateTime } from 'luxon';
import { KeysHelp } from '../frame/keys-help';
import { reloadOn } from '../shared/api/reload-on';
import { dayYearText } from '../shared/text/when';
import { Band } from '../shared/ui/band';
import { Burr } from '../shared/ui/burr';
import { Choice } from '../shared/ui/choice';
import { DaySteps } from '../shared/ui/day-steps';
import { EmptyState } from '../shared/ui/empty-state';
import { catalogueFeature } from '../state/catalogue.feature';
import { shiftedView, viewDates } from './view-order';
import { WeekLogs, type WeekEntry } from './week-logs.store';

const EVERY = 'every';

/** Seven logs side by side, for one slot of each hour or for one category; each entry leads to its place in its log. */
@Component({
  selector: 'f-week-logs-page',
  imports: [DaySteps, Band, Burr, Choice, EmptyState, RouterLink],
  templateUrl: './week-logs-page.html',
  styleUrl: './week-logs-page.scss',
  providers: [WeekLogs],
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class WeekLogsPage {
  protected readonly week = inject(WeekLogs);
  private readonly router = inject(Router);
  private readonly store = inject(Store);
  private readonly station = this.store.selectSignal(catalogueFeature.selectStation);
  private readonly allCategories = this.store.selectSignal(catalogueFeature.selectAllCategories);
  readonly stationId = input.required<string>();
  readonly date = input.required<string>();
  readonly category = input<string>();
  readonly slot = input<string>();
  /** Which days stand side by side. */
  readonly days = input<string>();

  protected readonly categories = computed(() => [
    { value: EVERY, label: 'All music' },
    ...this.allCategories().map(({ id, name, code }) => ({ value: id, label: `${code}  ${name}` })),
  ]);
  protected readonly slots = [
    { value: EVERY, label: 'Every slot' },
    ...Array.from({ length: 20 }, (_, n) => ({ value: String(n), label: `Slot ${n + 1} of each hour` })),
  ];
  protected readonly categoryValue = computed(() => this.week.choice().categoryId ?? EVERY);
  protected readonly slotValue = computed(() => String(this.week.choice().slot ?? EVERY));
  protected readonly orders = [
    { value: 'seven', label: 'Seven days in a row' },
    { value: 'weekday', label: 'Same weekday, 4 weeks' },
  ] as const;
  protected readonly order = computed(() => (this.days() === 'weekday' ? 'weekday' : 'seven'));
  private readonly dates = computed(() => (isDate(this.date()) ? viewDates(this.date(), this.order()) : []));
  protected readonly title = computed(() => {
    const date = this.date();
    if (!isDate(date)) return 'No such date';
    return `${dayYearText(date)} and ${this.order() === 'seven' ? 'six days on' : 'three weeks before'}`;
  });

  constructor() {
    inject(KeysHelp).place.set({
      name: 'Week of logs',
      keys: [{ keys: ['Tab'], does: 'from entry to entry; Enter opens it in its log' }],
    });
    effect(() => {
      const [stationId, dates] = [this.stationId(), this.dates()];
      untracked(() => dates.length > 0 && void this.week.open(stationId, dates));
    });
    effect(() => {
      const [category, slot] = [this.category(), this.slot()];
      const every = slot === EVERY || (slot === undefined && category !== undefined);
      untracked(() => this.week.choice.set({ categoryId: category || null, slot: every ? null : Number(slot ?? 0) }));
    });
    reloadOn(['logs', 'library'], () => this.dates().length > 0 && this.week.open(this.stationId(), this.dates()));
  }

  protected choose(change: { readonly category?: string; readonly slot?: string }): void {
    const { categoryId, slot } = this.week.choice();
    const category = change.category ?? categoryId ?? EVERY;
    void this.router.navigate([], {
      queryParams: {
        category: category === EVERY ? null : category,
        slot: change.slot ?? (change.category !== undefined && change.category !== EVERY ? EVERY : (slot ?? EVERY)),
      },
      queryParamsHandling: 'merge',
      replaceUrl: true,
    });
  }

  protected setOrder(order: string): void {
    void this.router.navigate([], {
      queryParams: { days: order === 'seven' ? null : order },
      queryParamsHandling: 'merge',
      replaceUrl: true,
    });
  }

  protected go(step: number): void {
    const queryParamsHandling = 'preserve' as const;
    void this.router.navigate(['/', this.stationId(), 'logs', shiftedView(this.date(), this.order(), step), 'week'], {
      queryParamsHandling,
    });
  }

  protected dayName(date: string): string {
    return DateTime.fromISO(date).setLocale('en-GB').toFormat('ccc d LLL');
  }

  protected isToday(date: string): boolean {
    return date === this.station()?.today;
  }

  protected time({ startMs }: WeekEntry): string {
    return formatAirTime(startMs, this.station()?.timeZone ?? 'UTC').slice(3);
  }

  protected two(hour: number): string {
    return String(hour).padStart(2, '0');
  }
}
