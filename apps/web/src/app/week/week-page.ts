import type { ForecastChangeAsked } from '@fuller/contracts';
import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { SmallButton } from '../shared/ui/small-button';
import { RouterLink } from '@angular/router';
import { TableModule } from 'primeng/table';
import { DAY_MINUTES } from '@fuller/core';
import { minuteText } from '../clocks/line-words';
import { StaleLogs } from '../clocks/stale-logs';
import { KeysHelp } from '../frame/keys-help';
import { Band } from '../shared/ui/band';
import { Choice } from '../shared/ui/choice';
import { BeginHere } from '../shared/begin-here';
import { EmptyState } from '../shared/ui/empty-state';
import { InlineEdit } from '../shared/ui/inline-edit';
import { Inspector } from '../shared/ui/inspector';
import { Brushes } from './brushes';
import { PlanGrid } from './plan-grid';
import { DAY_WORDS } from './plan-view';
import { HOUR_PX, STEPS } from './steps';
import { readTime } from './times';
import { WeekDraft } from './week-draft';
import { WeekStore } from './week.store';
import { WeekTabs } from './week-tabs';
import { YearStrip } from './year-strip';
import { ForecastThis } from '../shared/forecast-this';
import { May } from '../shared/session/may';

/** Which clock or show runs when in the week, painted by hand. */
@Component({
  selector: 'f-week-page',
  imports: [
    BeginHere,
    ForecastThis,
    May,
    SmallButton,
    Choice,
    RouterLink,
    Inspector,
    InlineEdit,
    Band,
    TableModule,
    EmptyState,
    Brushes,
    PlanGrid,
    WeekTabs,
    YearStrip,
    StaleLogs,
  ],
  providers: [WeekDraft, WeekStore],
  templateUrl: './week-page.html',
  styleUrl: './week-page.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class WeekPage {
  protected readonly week = inject(WeekStore);
  readonly stationId = input.required<string>();

  protected readonly steps = STEPS;
  protected readonly hourPx = computed(() => HOUR_PX[this.week.step()] ?? 0);
  protected readonly dayName = computed(() => DAY_WORDS[this.week.cursorDay()] ?? '');
  protected readonly about = computed(() =>
    this.week.here() ? `${this.dayName()} ${minuteText(this.week.cursor() % DAY_MINUTES)}` : 'Week',
  );
  protected readonly edges = computed(() => {
    const block = this.week.here()?.block;
    return block
      ? {
          from: minuteText(block.at % DAY_MINUTES),
          to: minuteText((block.at + block.minutes) % DAY_MINUTES || DAY_MINUTES),
        }
      : null;
  });
  /** Where what stands under the cursor is made. */
  protected readonly link = computed(() => {
    const content = this.week.here()?.content;
    if (!content) return null;
    const station = this.stationId();
    switch (content.runs) {
      case 'show':
        return { to: ['/', station, 'week', 'shows', content.id], words: 'Open the show' };
      case 'clock':
        return { to: ['/', station, 'clocks', content.id], words: 'Open the clock' };
      case 'set list':
        return { to: ['/', station, 'library', 'set-lists', content.id], words: 'Open the set list' };
      case 'draw':
        return { to: ['/', station, 'rotation'], words: 'See its rotation' };
    }
  });
  /** The hours under the cursor with the clock that could run there. */
  protected readonly hoursChange = computed<ForecastChangeAsked | null>(() => {
    const here = this.week.here();
    const clock = here?.content?.runs === 'clock' ? here.content.id : this.week.clocks()[0]?.id;
    const edges = this.edges();
    const at = this.week.cursor() % DAY_MINUTES;
    // Where nothing is painted it is the hour under the cursor.
    const from = edges ? readTime(edges.from) : at;
    const to = edges ? readTime(edges.to) : Math.min(at + 60, DAY_MINUTES);
    if (!clock || from === null || to === null || to <= from) return null;
    return { kind: 'week', days: [this.week.cursorDay()], from, to, clock };
  });
  protected readonly copyTargets = computed(() => {
    const own = this.week.cursorDay();
    const others = [0, 1, 2, 3, 4, 5, 6].filter((day) => day !== own);
    const sets = [
      { label: 'the other weekdays', days: others.filter((day) => day < 5) },
      { label: 'the weekend', days: others.filter((day) => day > 4) },
      { label: 'every other day', days: others },
    ];
    return [...sets, ...others.map((day) => ({ label: DAY_WORDS[day] ?? '', days: [day] }))].map(({ label, days }) => ({
      label,
      value: days.join(','),
    }));
  });
  protected readonly defaults = computed(() => [
    { value: '', label: 'nothing' },
    ...this.week.clocks().map(({ id, name }) => ({ value: id, label: name })),
  ]);

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

  protected copyTo(days: string): void {
    if (days) this.week.copyTo(days.split(',').map(Number));
  }

  protected readonly timeFault = (text: string): string | null =>
    readTime(text) === null ? 'Write a time like 06:30, in steps of five minutes.' : null;

  protected retime(edge: 'from' | 'to', text: string): void {
    const minute = readTime(text);
    if (minute !== null) this.week.retime(edge, minute);
  }

  protected number(value: number): string {
    return value.toLocaleString('en-GB');
  }
}
