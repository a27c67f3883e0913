import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { ButtonDirective } from 'primeng/button';
import { RouterLink } from '@angular/router';
import {
  blockAt,
  copyDay,
  DAY_MINUTES,
  paint,
  reshape,
  turnoverHours,
  weekdayOf,
  weeklyDemand,
  type AirPlan,
  type BlockContent,
  type PlanBlock,
  type WeekPlan,
} from '@fuller/core';
import { Store } from '@ngrx/store';
import { ClockNames } from '../clocks/clock-names';
import { minuteText } from '../clocks/line-words';
import { StaleLogs } from '../clocks/stale-logs';
import { KeysHelp } from '../frame/keys-help';
import { Band } from '../shared/ui/band';
import { EmptyState } from '../shared/ui/empty-state';
import { InlineEdit } from '../shared/ui/inline-edit';
import { Inspector } from '../shared/ui/inspector';
import { catalogueFeature } from '../state/catalogue.feature';
import { Brushes } from './brushes';
import { PlanGrid, type GridStretch, type Stroke } from './plan-grid';
import { DAY_WORDS, nameOf, stretchesOfDay } from './plan-view';
import { HOUR_PX, STEPS } from './steps';
import { readTime } from './times';
import { WeekDraft } from './week-draft';
import { WeekTabs } from './week-tabs';
import { Choice } from '../shared/ui/choice';
import { YearStrip } from './year-strip';

/** Which clock or show runs when in the week, painted by hand. */
@Component({
  selector: 'f-week-page',
  imports: [
    Choice,
    ButtonDirective,
    RouterLink,
    Inspector,
    InlineEdit,
    Band,
    EmptyState,
    Brushes,
    PlanGrid,
    WeekTabs,
    YearStrip,
    StaleLogs,
  ],
  providers: [WeekDraft],
  templateUrl: './week-page.html',
  styleUrl: './week-page.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class WeekPage {
  private readonly store = inject(Store);
  private readonly clockNames = inject(ClockNames);
  readonly stationId = input.required<string>();

  protected readonly days = DAY_WORDS;
  protected readonly steps = STEPS;
  protected readonly clocks = this.store.selectSignal(catalogueFeature.selectAllClocks);
  private readonly categories = this.store.selectSignal(catalogueFeature.selectSources);
  protected readonly station = this.store.selectSignal(catalogueFeature.selectStation);
  private readonly storedAir = this.store.selectSignal(catalogueFeature.selectAirPlan);
  private readonly draft = inject(WeekDraft);
  protected readonly plan = this.draft.plan;
  protected readonly air = computed<AirPlan | null>(() => {
    const air = this.storedAir();
    return air && { ...air, week: this.plan() };
  });
  /** What is in hand; null paints the default. */
  protected readonly brush = signal<BlockContent | null>(null);
  protected readonly step = signal(60);
  protected readonly hourPx = computed(() => HOUR_PX[this.step()]!);
  protected readonly cursor = signal(0);
  protected readonly cursorDay = computed(() => Math.floor(this.cursor() / DAY_MINUTES));
  protected readonly copied = signal<number | null>(null);
  private readonly today = computed(() => weekdayOf(this.station()?.today ?? '2026-01-05'));
  protected readonly columns = computed(() => {
    const air = this.air();
    return DAY_WORDS.map((label, day) => ({
      label,
      strong: day === this.today(),
      stretches: air ? stretchesOfDay(air, day) : [],
    }));
  });
  protected readonly brushLook = computed(() => {
    const [air, brush] = [this.air(), this.brush()];
    return air && brush ? nameOf(air, brush) : { label: 'Default', colour: 'var(--quiet)' };
  });
  protected readonly lastChange = this.draft.before;
  private readonly demand = computed(() => this.demandOf(this.plan()));
  private readonly demandBefore = computed(() =>
    this.lastChange() ? this.demandOf(this.lastChange()!) : this.demand(),
  );
  protected readonly asks = computed(() => {
    const [now, before] = [this.demand(), this.demandBefore()];
    return this.categories()
      .filter((category) => now.has(category.id) || before.has(category.id))
      .map((category) => {
        const [slots, slotsBefore] = [now.get(category.id) ?? 0, before.get(category.id) ?? 0];
        const turnover = turnoverText(turnoverHours(category.items, slots), category.items);
        const turnoverBefore = turnoverText(turnoverHours(category.items, slotsBefore), category.items);
        return {
          category,
          slots,
          change: slots - slotsBefore,
          turnover,
          before: turnover === turnoverBefore ? '' : turnoverBefore,
        };
      });
  });
  /** What stands where the cursor is. */
  protected readonly here = computed(() => {
    const air = this.air();
    const minute = this.cursor();
    if (!air || this.clocks().length === 0) return null;
    const day = DAY_WORDS[Math.floor(minute / DAY_MINUTES)]!;
    const block = blockAt(this.plan(), minute) ?? null;
    const content = block ?? (air.week.defaultClockId ? { runs: 'clock' as const, id: air.week.defaultClockId } : null);
    const { label } = nameOf(air, content);
    const place = content?.runs === 'show' ? 'shows' : null;
    const link =
      content &&
      (place ? ['/', this.stationId(), 'week', place, content.id] : ['/', this.stationId(), 'clocks', content.id]);
    return {
      about: `${day} ${minuteText(minute % DAY_MINUTES)}`,
      title: label,
      block,
      from: block ? minuteText(block.at % DAY_MINUTES) : '',
      to: block ? minuteText((block.at + block.minutes) % DAY_MINUTES || DAY_MINUTES) : '',
      words: block ? '' : 'By default, as nothing is painted here.',
      link,
      linkWords: content?.runs === 'show' ? 'Open the show' : 'Open the clock',
    };
  });
  protected readonly copyTargets = computed(() => {
    const own = this.cursorDay();
    const others = [0, 1, 2, 3, 4, 5, 6].filter((day) => day !== own);
    const sets = [
      { label: 'the other weekdays', days: others.filter((day) => day < 5) },
      { label: 'the weekend', days: others.filter((day) => day > 4) },
      { label: 'every other day', days: others },
    ];
    return [...sets, ...others.map((day) => ({ label: DAY_WORDS[day]!, days: [day] }))].map(({ label, days }) => ({
      label,
      value: days.join(','),
    }));
  });

  constructor() {
    inject(KeysHelp).place.set({
      name: 'Week',
      keys: [
        { keys: ['↑↓←→'], does: 'move; with Shift select' },
        { keys: ['Enter'], does: 'paint; Space does the same' },
        { keys: ['Delete'], does: 'clear the block, or what is selected' },
        { keys: ['Alt', '↑↓←→'], does: 'move the block' },
        { keys: ['+', '−'], does: 'make it longer or shorter' },
        { keys: ['p'], does: 'pick up what is under the cursor' },
        { keys: ['Ctrl', 'C / V'], does: 'copy a day onto others' },
      ],
    });
  }

  private demandOf(week: WeekPlan): Map<string, number> {
    const air = this.storedAir();
    return air ? weeklyDemand({ ...air, week }, this.clockNames.lengths()) : new Map();
  }

  protected paint(strokes: readonly Stroke[]): void {
    const brush = this.brush();
    const show = brush?.runs === 'show' ? this.air()!.shows.find(({ id }) => id === brush.id) : undefined;
    this.change((plan) =>
      strokes.reduce((painted, { at, minutes }) => {
        // A show laid down with one stroke has its own length.
        const length = show && minutes <= this.step() ? show.minutes : minutes;
        return paint(painted, at, length, brush);
      }, plan),
    );
  }

  protected clear(strokes: readonly Stroke[]): void {
    this.change((plan) => strokes.reduce((cleared, { at, minutes }) => paint(cleared, at, minutes, null), plan));
  }

  protected reshape({ block, at, minutes }: { block: PlanBlock; at: number; minutes: number }): void {
    this.change((plan) => reshape(plan, block, at, minutes));
  }

  protected takeUp({ block, show }: GridStretch): void {
    this.brush.set(block ? { runs: show ? 'show' : 'clock', id: block.id } : null);
  }

  protected paste(days: readonly number[]): void {
    const from = this.copied();
    if (from !== null) this.change((plan) => copyDay(plan, from, days));
  }

  protected copyTo(days: string): void {
    if (days) this.change((plan) => copyDay(plan, this.cursorDay(), days.split(',').map(Number)));
  }

  protected readonly timeFault = (text: string): string | null =>
    readTime(text) === null ? 'Write a time like 06:30, in steps of five minutes.' : null;

  protected retime(edge: 'from' | 'to', text: string): void {
    const block = blockAt(this.plan(), this.cursor());
    const minute = readTime(text);
    if (!block || minute === null) return;
    const day = Math.floor(block.at / DAY_MINUTES) * DAY_MINUTES;
    const end = block.at + block.minutes;
    if (edge === 'from') {
      const at = day + (minute % DAY_MINUTES);
      const length = end - at > 0 ? end - at : end - at + DAY_MINUTES;
      this.change((plan) => reshape(plan, block, at, length));
    } else {
      const length = day + minute - block.at;
      this.change((plan) => reshape(plan, block, block.at, length > 0 ? length : length + DAY_MINUTES));
    }
  }

  protected readonly defaults = computed(() => [
    { value: '', label: 'nothing' },
    ...this.clocks().map(({ id, name }) => ({ value: id, label: name })),
  ]);

  protected setDefault(clockId: string): void {
    this.change((plan) => ({ ...plan, defaultClockId: clockId || null }));
  }

  private change(edit: (plan: WeekPlan) => WeekPlan): void {
    this.draft.change(edit);
  }

  protected number(value: number): string {
    return value.toLocaleString('en-GB');
  }
}

function turnoverText(hours: number | null, items: number): string {
  if (hours === null) return '';
  if (items === 0) return 'empty';
  return hours < 72 ? `${Math.round(hours)} h` : `${(hours / 24).toFixed(1)} d`;
}
