import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  linkedSignal,
  signal,
  untracked,
} from '@angular/core';
import { ButtonDirective } from 'primeng/button';
import { Router, RouterLink } from '@angular/router';
import type { DatePlanRow } from '@fuller/contracts';
import {
  addDays,
  datesOf,
  EMPTY_WEEK,
  isDate,
  paint,
  repeatFault,
  reshape,
  type AirPlan,
  type BlockContent,
  type PlanBlock,
  type WeekPlan,
} from '@fuller/core';
import { Store } from '@ngrx/store';
import { minuteText } from '../clocks/line-words';
import { StaleLogs } from '../clocks/stale-logs';
import { KeysHelp } from '../frame/keys-help';
import { Api } from '../shared/api/api';
import { dayYearText } from '../shared/text/when';
import { DateField } from '../shared/ui/date-field';
import { EmptyState } from '../shared/ui/empty-state';
import { Icon } from '../shared/ui/icon';
import { InlineEdit } from '../shared/ui/inline-edit';
import { NameForm } from '../shared/ui/name-form';
import { Inspector } from '../shared/ui/inspector';
import { catalogueFeature } from '../state/catalogue.feature';
import { Changes } from '../state/changes';
import { Brushes } from './brushes';
import { PlanGrid, type GridStretch, type Stroke } from './plan-grid';
import { DAY_WORDS, nameOf, stretchesOfDate } from './plan-view';
import { HOUR_PX, STEPS } from './steps';
import { likelyRepeats, repeatWords, splitUntil, withUntil } from './repeats';
import { newerOf } from './newer-of';
import { WeekTabs } from './week-tabs';
import { Choice } from '../shared/ui/choice';
import { YearStrip } from './year-strip';

const SHOWN_DATES = 5;
/** How far ahead the next dates are looked for. */
const DAYS_AHEAD = 800;

/** Dates that differ from the week: which they are, how they come again, and what runs on them. */
@Component({
  selector: 'f-dates-page',
  imports: [
    Choice,
    ButtonDirective,
    NameForm,
    RouterLink,
    DateField,
    Inspector,
    InlineEdit,
    EmptyState,
    Icon,
    Brushes,
    PlanGrid,
    WeekTabs,
    YearStrip,
    StaleLogs,
  ],
  templateUrl: './dates-page.html',
  styleUrl: './dates-page.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class DatesPage {
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  private readonly changes = inject(Changes);
  private readonly store = inject(Store);
  readonly stationId = input.required<string>();
  readonly dateId = input<string>();

  protected readonly days = DAY_WORDS;
  protected readonly steps = STEPS;
  protected readonly step = signal(60);
  protected readonly hourPx = computed(() => HOUR_PX[this.step()]!);
  protected readonly station = this.store.selectSignal(catalogueFeature.selectStation);
  protected readonly dates = this.store.selectSignal(catalogueFeature.selectDates);
  protected readonly air = this.store.selectSignal(catalogueFeature.selectAirPlan);
  protected readonly today = computed(() => this.station()?.today ?? '2026-01-01');
  protected readonly brush = signal<BlockContent | null>(null);
  private readonly stored = computed(() => this.dates().find(({ id }) => id === this.dateId()) ?? null);
  /** The plan as it is being changed; what the server tells replaces it. */
  protected readonly one = linkedSignal<DatePlanRow | null, DatePlanRow | null>({
    source: this.stored,
    computation: (stored, before) => newerOf(stored, before?.value ?? null),
  });
  protected readonly list = computed(() =>
    this.dates().map((date) => {
      const [next] = this.comingOf(date);
      return { ...date, words: repeatWords(date.start, date.repeat), next: next ? dayYearText(next) : 'no more' };
    }),
  );
  protected readonly coming = computed(() => (this.one() ? this.comingOf(this.one()!) : []));
  protected readonly shownDate = computed(() => this.coming()[0] ?? this.one()?.start ?? this.today());
  protected readonly repeats = computed(() => {
    const one = this.one();
    if (!one) return [];
    const { rule } = splitUntil(one.repeat);
    const likely = likelyRepeats(one.start);
    return likely.some((repeat) => repeat.rule === rule)
      ? likely
      : [...likely, { rule, words: 'by a rule of your own' }];
  });
  protected readonly rule = computed(() => splitUntil(this.one()?.repeat ?? ''));
  protected readonly columns = computed(() => {
    const [one, air, date] = [this.one(), this.air(), this.shownDate()];
    if (!one || !air) return [];
    // The plan is shown as it will be, laid over all others.
    const others = air.dates.filter(({ id }) => id !== one.id);
    const plan: AirPlan = { ...air, dates: [...others, { ...one, start: date, repeat: '' }] };
    const usual: AirPlan = { ...air, dates: others };
    return [
      { label: 'This day', strong: true, stretches: stretchesOfDate(date, plan, one.blocks) },
      { label: 'Without it', strong: false, stretches: stretchesOfDate(date, usual, []) },
    ];
  });
  protected readonly brushLook = computed(() => {
    const [air, brush] = [this.air(), this.brush()];
    return air && brush ? nameOf(air, brush) : { label: 'No change', colour: 'var(--quiet)' };
  });

  constructor() {
    effect(() => {
      if (this.new()) untracked(() => this.making.set(true));
    });
    inject(KeysHelp).place.set({
      name: 'Dates that differ',
      keys: [
        { keys: ['↑', '↓'], does: 'move; with Shift select' },
        { keys: ['Enter'], does: 'paint; Space does the same' },
        { keys: ['Delete'], does: 'clear: the week’s own plan runs' },
        { keys: ['+', '−'], does: 'make a block longer or shorter' },
      ],
    });
    effect(() => {
      const [asked, first] = [this.dateId(), this.dates()[0]];
      untracked(() => {
        if (!asked && first)
          void this.router.navigate(['/', this.stationId(), 'week', 'dates', first.id], { replaceUrl: true });
      });
    });
  }

  private comingOf(date: DatePlanRow): string[] {
    return datesOf(date, this.today(), addDays(this.today(), DAYS_AHEAD)).slice(0, SHOWN_DATES);
  }

  protected comingWords(): string {
    const coming = this.coming();
    return coming.length ? `Next on ${coming.map((date) => dayYearText(date)).join(', ')}.` : 'It does not come again.';
  }

  protected heldWords(): string {
    return `${dayYearText(this.shownDate())}, next to the day without this plan`;
  }

  protected blockWords(block: PlanBlock): string {
    return `${minuteText(block.at)}–${minuteText(block.at + block.minutes)}`;
  }

  protected nameOf(block: PlanBlock): string {
    return this.air() ? nameOf(this.air()!, block).label : '';
  }

  protected readonly create = async (name: string): Promise<string | null> => {
    const start = this.newStart();
    if (!isDate(start)) return 'Choose the date it begins on.';
    const made = await this.changes.made(this.api.createDate({ stationId: this.stationId() }, { name, start }));
    if (typeof made === 'string') return made;
    this.making.set(false);
    void this.router.navigate(['/', this.stationId(), 'week', 'dates', made.id]);
    return null;
  };

  /** Asked for by name: begins a new one. */
  readonly new = input<string>();
  protected readonly making = signal(false);
  protected readonly newStart = linkedSignal(() => addDays(this.today(), 1));

  private async save(patch: Partial<DatePlanRow>): Promise<void> {
    const before = this.one();
    if (!before) return;
    // The server counts a revision for every change, so the next one can be sent without asking.
    this.one.set({ ...before, ...patch, revision: before.revision + 1 });
    const saved = await this.changes.run(
      this.api.patchDate({ stationId: this.stationId(), id: before.id }, { revision: before.revision, ...patch }),
    );
    if (!saved) this.one.set(this.stored());
  }

  protected rename(name: string): void {
    void this.save({ name: name.trim() });
  }

  protected readonly nameFault = (name: string): string | null => (name.trim() === '' ? 'It needs a name.' : null);

  protected takeStart(start: string): void {
    if (isDate(start)) void this.save({ start });
  }

  protected takeRule(rule: string): void {
    void this.save({ repeat: withUntil(rule, this.rule().until) });
  }

  protected takeUntil(until: string): void {
    if (until === '' || isDate(until)) void this.save({ repeat: withUntil(this.rule().rule, until) });
  }

  protected readonly ruleFault = (text: string): string | null => {
    const fault = repeatFault(text.trim());
    return fault ? `The rule ${fault}.` : null;
  };

  protected takeOwnRule(text: string): void {
    void this.save({ repeat: withUntil(text.trim(), this.rule().until) });
  }

  protected readonly repeatOptions = computed(() =>
    this.repeats().map(({ rule, words }) => ({ value: rule, label: words })),
  );
  protected readonly dayModes = [
    { value: 'own', label: 'runs as it would' },
    ...DAY_WORDS.map((day, index) => ({ value: String(index), label: `runs like a ${day}` })),
    { value: 'instead', label: 'has only its own blocks' },
  ];

  protected dayMode(): string {
    const one = this.one()!;
    return one.instead ? 'instead' : one.like === null ? 'own' : String(one.like);
  }

  protected takeDayMode(mode: string): void {
    void this.save({ instead: mode === 'instead', like: mode === 'own' || mode === 'instead' ? null : Number(mode) });
  }

  protected paint(strokes: readonly Stroke[]): void {
    this.edit((plan) => {
      const show =
        this.brush()?.runs === 'show' ? this.air()!.shows.find(({ id }) => id === this.brush()!.id) : undefined;
      return strokes
        .filter(({ at }) => at < 1440)
        .reduce((left, { at, minutes }) => {
          const length = show && minutes <= this.step() ? show.minutes : minutes;
          return paint(left, at, length, this.brush());
        }, plan);
    });
  }

  protected clear(strokes: readonly Stroke[]): void {
    this.edit((plan) =>
      strokes.filter(({ at }) => at < 1440).reduce((left, { at, minutes }) => paint(left, at, minutes, null), plan),
    );
  }

  protected reshape({ block, at, minutes }: { block: PlanBlock; at: number; minutes: number }): void {
    if (at >= 0 && at < 1440) this.edit((plan) => reshape(plan, block, at, minutes));
  }

  /** The blocks of the day are edited as a week's are; what reaches over midnight goes on into the day after. */
  private edit(change: (plan: WeekPlan) => WeekPlan): void {
    const one = this.one();
    if (!one) return;
    const { blocks } = change({ ...EMPTY_WEEK, blocks: one.blocks });
    const own = joined(blocks);
    if (JSON.stringify(own) !== JSON.stringify(one.blocks)) void this.save({ blocks: own });
  }

  protected takeUp({ block, show }: GridStretch): void {
    this.brush.set(block ? { runs: show ? 'show' : 'clock', id: block.id } : null);
  }

  protected async remove(): Promise<void> {
    const id = this.one()?.id;
    if (id && (await this.changes.run(this.api.deleteDate({ stationId: this.stationId(), id }))))
      void this.router.navigate(['/', this.stationId(), 'week', 'dates']);
  }
}

/** Blocks of a date; a part that was cut off at midnight is put back to the one before it. */
function joined(blocks: readonly PlanBlock[]): PlanBlock[] {
  return blocks.reduce<PlanBlock[]>((left, block) => {
    const last = left.at(-1);
    if (block.at < 1440) return [...left, block];
    if (last && last.at + last.minutes === block.at && last.id === block.id)
      return [...left.slice(0, -1), { ...last, minutes: last.minutes + block.minutes }];
    return left;
  }, []);
}
