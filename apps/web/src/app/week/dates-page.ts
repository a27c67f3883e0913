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
import { SmallButton } from '../shared/ui/small-button';
import { ButtonDirective } from 'primeng/button';
import { Router, RouterLink } from '@angular/router';
import { addDays, isDate, repeatFault, type PlanBlock } from '@fuller/core';
import { minuteText } from '../clocks/line-words';
import { StaleLogs } from '../clocks/stale-logs';
import { KeysHelp } from '../frame/keys-help';
import { dayYearText } from '../shared/text/when';
import { Choice } from '../shared/ui/choice';
import { DateField } from '../shared/ui/date-field';
import { EmptyState } from '../shared/ui/empty-state';
import { Icon } from '../shared/ui/icon';
import { InlineEdit } from '../shared/ui/inline-edit';
import { Inspector } from '../shared/ui/inspector';
import { NameForm } from '../shared/ui/name-form';
import { Brushes } from './brushes';
import { DatesStore } from './dates.store';
import { PlanGrid } from './plan-grid';
import { DAY_WORDS, nameOf } from './plan-view';
import { HOUR_PX, STEPS } from './steps';
import { WeekTabs } from './week-tabs';
import { YearStrip } from './year-strip';
import { May } from '../shared/session/may';

/** Dates that differ from the week: which they are, how they come again, and what runs on them. */
@Component({
  selector: 'f-dates-page',
  imports: [
    May,
    SmallButton,
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
  providers: [DatesStore],
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class DatesPage {
  private readonly router = inject(Router);
  protected readonly store = inject(DatesStore);
  readonly stationId = input.required<string>();
  readonly dateId = input<string>();

  protected readonly days = DAY_WORDS;
  protected readonly steps = STEPS;
  protected readonly hourPx = computed(() => HOUR_PX[this.store.step()] ?? 0);

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
      const [asked, first] = [this.dateId(), this.store.dates()[0]];
      untracked(() => {
        this.store.open(asked ?? null);
        if (!asked && first)
          void this.router.navigate(['/', this.stationId(), 'week', 'dates', first.id], { replaceUrl: true });
      });
    });
  }

  protected comingWords(): string {
    const coming = this.store.coming();
    return coming.length ? `Next on ${coming.map((date) => dayYearText(date)).join(', ')}.` : 'It does not come again.';
  }

  protected heldWords(): string {
    return `${dayYearText(this.store.shownDate())}, next to the day without this plan`;
  }

  protected blockWords(block: PlanBlock): string {
    return `${minuteText(block.at)}–${minuteText(block.at + block.minutes)}`;
  }

  protected nameOf(block: PlanBlock): string {
    const air = this.store.air();
    return air ? nameOf(air, block).label : '';
  }

  protected readonly create = async (name: string): Promise<string | null> => {
    const why = await this.store.create(name, this.newStart());
    if (why === null) this.making.set(false);
    return why;
  };

  /** Asked for by name: begins a new one. */
  readonly new = input<string>();
  protected readonly making = signal(false);
  protected readonly newStart = linkedSignal(() => addDays(this.store.today(), 1));

  protected readonly nameFault = (name: string): string | null => (name.trim() === '' ? 'It needs a name.' : null);

  protected takeStart(start: string): void {
    if (isDate(start)) this.store.save({ start });
  }

  protected readonly ruleFault = (text: string): string | null => {
    const fault = repeatFault(text.trim());
    return fault ? `The rule ${fault}.` : null;
  };

  protected readonly repeatOptions = computed(() =>
    this.store.repeats().map(({ rule, words }) => ({ value: rule, label: words })),
  );
  protected readonly dayModes = [
    { value: 'own', label: 'runs as it would' },
    ...DAY_WORDS.map((day, index) => ({ value: String(index), label: `runs like a ${day}` })),
    { value: 'instead', label: 'has only its own blocks' },
  ];
  protected readonly dayMode = computed(() => {
    const one = this.store.one();
    if (!one || one.instead) return 'instead';
    return one.like === null ? 'own' : String(one.like);
  });

  protected takeDayMode(mode: string): void {
    this.store.save({ instead: mode === 'instead', like: mode === 'own' || mode === 'instead' ? null : Number(mode) });
  }
}
