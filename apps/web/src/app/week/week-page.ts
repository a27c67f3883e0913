import { ChangeDetectionStrategy, Component, computed, inject, input, linkedSignal, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import type { ClockRow } from '@fuller/contracts';
import { clockAt, hoursByClock, paintCells, turnoverHours, weekdayOf, weeklyDemand, type WeekPlan } from '@fuller/core';
import { Store } from '@ngrx/store';
import { KeysHelp } from '../frame/keys-help';
import { Api } from '../shared/api/api';
import { plural } from '../shared/text/plural';
import { Band } from '../shared/ui/band';
import { EmptyState } from '../shared/ui/empty-state';
import { Inspector } from '../shared/ui/inspector';
import { catalogueFeature } from '../state/catalogue.feature';
import { Changes } from '../state/changes';

const DAYS = ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday'];

/** Which clock runs in which hour of the week, painted by hand. */
@Component({
  selector: 'f-week-page',
  imports: [RouterLink, Inspector, Band, EmptyState],
  templateUrl: './week-page.html',
  styleUrl: './week-page.scss',
  host: { '(document:pointerup)': 'endPaint()' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class WeekPage {
  private readonly api = inject(Api);
  private readonly changes = inject(Changes);
  private readonly store = inject(Store);
  readonly stationId = input.required<string>();

  protected readonly days = DAYS;
  protected readonly hours = Array.from({ length: 24 }, (_, hour) => hour);
  protected readonly clocks = this.store.selectSignal(catalogueFeature.selectAllClocks);
  protected readonly clockMap = this.store.selectSignal(catalogueFeature.selectClockMap);
  private readonly categories = this.store.selectSignal(catalogueFeature.selectAllCategories);
  private readonly station = this.store.selectSignal(catalogueFeature.selectStation);
  private readonly stored = this.store.selectSignal(catalogueFeature.selectWeek);
  /** The plan as painted so far; what the server tells replaces it. */
  protected readonly plan = linkedSignal<WeekPlan>(() => this.stored() ?? { cells: [], defaultClockId: null });
  /** The clock in hand; null paints the default. */
  protected readonly brush = linkedSignal<string | null>(() => this.clocks()[0]?.id ?? null);
  protected readonly cursor = signal(0);
  private readonly anchor = signal<number | null>(null);
  private painting = false;
  protected readonly today = computed(() => weekdayOf(this.station()?.today ?? '2026-01-05'));
  protected readonly selection = computed(() => blockOf(this.anchor() ?? this.cursor(), this.cursor()));
  protected readonly usage = computed(() => hoursByClock(this.plan()));
  protected readonly asks = computed(() => {
    const now = weeklyDemand(this.plan(), this.clocks());
    const before = weeklyDemand(this.stored() ?? this.plan(), this.clocks());
    return this.categories()
      .filter((category) => now.has(category.id) || before.has(category.id))
      .map((category) => {
        const slots = now.get(category.id) ?? 0;
        return {
          category,
          slots,
          change: slots - (before.get(category.id) ?? 0),
          turnover: turnoverText(turnoverHours(category.items, slots), category.items),
        };
      });
  });

  constructor() {
    inject(KeysHelp).place.set({
      name: 'Week',
      keys: [
        { keys: ['↑↓←→'], does: 'move; with Shift select a block' },
        { keys: ['Enter'], does: 'paint with the clock in hand' },
        { keys: ['Delete'], does: 'back to the default clock' },
        { keys: ['p'], does: 'take the clock under the cursor in hand' },
      ],
    });
  }

  protected clockOf(day: number, hour: number): ClockRow | undefined {
    return this.clockMap()[clockAt(this.plan(), day, hour) ?? ''];
  }

  protected byDefault(day: number, hour: number): boolean {
    return this.plan().cells[day * 24 + hour] === null;
  }

  /** The name stands once at the top of a run of equal hours. */
  protected nameAt(day: number, hour: number): string {
    const clock = this.clockOf(day, hour);
    return hour > 0 && this.clockOf(day, hour - 1)?.id === clock?.id ? '' : (clock?.name ?? 'no clock');
  }

  protected words(day: number, hour: number): string {
    const clock = this.clockOf(day, hour)?.name ?? 'no clock';
    return `${DAYS[day]} ${hour}:00, ${clock}${this.byDefault(day, hour) ? ' by default' : ''}`;
  }

  protected beginPaint(cell: number, event: PointerEvent): void {
    if (event.button !== 0) return;
    event.preventDefault();
    (event.currentTarget as HTMLElement).closest<HTMLElement>('.grid')?.focus();
    this.cursor.set(cell);
    this.anchor.set(null);
    this.painting = true;
    this.paint([cell]);
  }

  protected paintOver(cell: number): void {
    if (!this.painting) return;
    this.cursor.set(cell);
    this.paint([cell]);
  }

  protected endPaint(): void {
    if (!this.painting) return;
    this.painting = false;
    void this.save();
  }

  private paint(cells: Iterable<number>, clockId = this.brush()): void {
    this.plan.update((plan) => paintCells(plan, cells, clockId));
  }

  protected onKey(event: KeyboardEvent): void {
    const step = { ArrowDown: 1, ArrowUp: -1, ArrowRight: 24, ArrowLeft: -24 }[event.key];
    if (step !== undefined) {
      event.preventDefault();
      const next = this.cursor() + step;
      const leavesDay = Math.abs(step) === 1 && Math.floor(next / 24) !== Math.floor(this.cursor() / 24);
      if (next < 0 || next >= 168 || leavesDay) return;
      if (event.shiftKey) this.anchor.update((anchor) => anchor ?? this.cursor());
      else this.anchor.set(null);
      this.cursor.set(next);
    } else if (event.key === 'Enter' || event.key === ' ') {
      event.preventDefault();
      this.paint(this.selection());
      void this.save();
    } else if (event.key === 'Delete' || event.key === 'Backspace') {
      event.preventDefault();
      this.paint(this.selection(), null);
      void this.save();
    } else if (event.key === 'p') {
      this.brush.set(this.plan().cells[this.cursor()] ?? null);
    }
  }

  protected setDefault(clockId: string): void {
    this.plan.update((plan) => ({ ...plan, defaultClockId: clockId || null }));
    void this.save();
  }

  private async save(): Promise<void> {
    const stored = this.stored();
    const plan = this.plan();
    if (!stored || (plan.cells === stored.cells && plan.defaultClockId === stored.defaultClockId)) return;
    const change = await this.changes.run(
      this.api.saveWeek(this.stationId(), {
        revision: stored.revision,
        cells: plan.cells,
        defaultClockId: plan.defaultClockId,
      }),
    );
    if (!change) this.plan.set(stored);
  }

  protected number(value: number): string {
    return value.toLocaleString('en-GB');
  }

  protected hoursText(id: string): string {
    return plural(this.usage().get(id) ?? 0, 'hour');
  }
}

/** Every cell of the block between two corners. */
function blockOf(from: number, to: number): Set<number> {
  const [days, hours] = [
    [Math.floor(from / 24), Math.floor(to / 24)],
    [from % 24, to % 24],
  ].map((pair) => pair.sort((a, b) => a - b));
  const cells = new Set<number>();
  for (let day = days![0]!; day <= days![1]!; day++) for (let hour = hours![0]!; hour <= hours![1]!; hour++) cells.add(day * 24 + hour);
  return cells;
}

function turnoverText(hours: number | null, items: number): string {
  if (hours === null) return '';
  if (items === 0) return 'empty';
  return hours < 72 ? `${Math.round(hours)} h` : `${(hours / 24).toFixed(1)} d`;
}
