import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal, untracked } from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { SponsorRow } from '@fuller/contracts';
import { addDays, elementAt, isDate, PROMISED_PER, type SponsorPromise } from '@fuller/core';
import { TableModule } from 'primeng/table';
import { KeysHelp } from '../frame/keys-help';
import { reloadOn } from '../shared/api/reload-on';
import { plural } from '../shared/text/plural';
import { Choice } from '../shared/ui/choice';
import { DaySteps } from '../shared/ui/day-steps';
import { EmptyState } from '../shared/ui/empty-state';
import { Icon } from '../shared/ui/icon';
import { InlineEdit } from '../shared/ui/inline-edit';
import { Inspector } from '../shared/ui/inspector';
import { KeptRows } from '../shared/ui/kept-rows';
import { NameForm } from '../shared/ui/name-form';
import { SmallButton } from '../shared/ui/small-button';
import { ButtonDirective } from 'primeng/button';
import { BreaksTabs } from './breaks-tabs';
import { belowOnDay, brokenWords, keptInWeek, promiseWords, sum } from './sponsor-words';
import { SponsorsStore } from './sponsors.store';
import { May } from '../shared/session/may';

const ANY_TIME = 'any';
const DAYS = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'] as const;

/** The sponsors of a station week by week: what was promised, what stands in the logs, what aired. */
@Component({
  selector: 'f-sponsors-page',
  imports: [
    May,
    BreaksTabs,
    ButtonDirective,
    Choice,
    DaySteps,
    EmptyState,
    FormsModule,
    Icon,
    InlineEdit,
    Inspector,
    NameForm,
    SmallButton,
    KeptRows,
    TableModule,
  ],
  providers: [SponsorsStore],
  templateUrl: './sponsors-page.html',
  styleUrl: './sponsors-page.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SponsorsPage {
  protected readonly store = inject(SponsorsStore);
  readonly stationId = input.required<string>();
  /** The name of the sponsor an address leads to. */
  readonly sponsor = input<string>();
  protected readonly adding = signal(false);
  protected readonly days = DAYS;

  constructor() {
    inject(KeysHelp).place.set({ name: 'Sponsors', keys: [] });
    effect(() => {
      const station = this.store.station();
      untracked(() => station && void this.store.load());
    });
    effect(() => {
      const sponsor = this.sponsor();
      if (sponsor) this.store.choose(sponsor);
    });
    reloadOn(['sponsors', 'logs', 'library', 'catalogue', 'on-air'], () => this.store.load(), { burstMs: 400 });
  }

  protected readonly head = computed(() => {
    const monday = this.store.week()?.monday;
    if (!monday) return 'Sponsors';
    const text = (date: string): string =>
      new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'short', timeZone: 'UTC' }).format(
        new Date(`${date}T00:00:00Z`),
      );
    return `${text(monday)} to ${text(addDays(monday, 6))}`;
  });
  /** What each row says, worked out once for a week. */
  protected readonly rows = computed(() => {
    const week = this.store.week();
    const daypart = this.store.daypartName();
    if (!week) return [];
    return week.sponsors.map((row) => {
      const aired = row.aired.some((count) => count !== null) ? sum(row.aired) : null;
      return {
        row,
        promised: row.promises.map((promise) => promiseWords(promise, daypart)).join(', '),
        kept: keptInWeek(row, week),
        placed: sum(row.placed),
        aired,
        broken: brokenWords(row, week, daypart),
        cells: row.placed.map((count, day) => ({
          count,
          below: belowOnDay(row, day),
          title: this.cellWords(row, day),
        })),
      };
    });
  });
  protected readonly brokenCount = computed(() => this.rows().filter(({ broken }) => broken.length > 0).length);
  protected readonly sumWords = computed(() => {
    const rows = this.rows();
    const promised = rows.filter(({ row }) => row.promises.length > 0).length;
    const placed = rows.reduce((all, row) => all + row.placed, 0);
    return `${plural(rows.length, 'sponsor')}, ${promised} with a promise; ${plural(placed, 'message')} in the logs of this week.`;
  });
  protected readonly dayparts = computed(() => [
    { value: ANY_TIME, label: 'at any time' },
    ...this.store.dayparts().map(({ id, name }) => ({ value: id, label: `in ${name}` })),
  ]);
  protected readonly periods = PROMISED_PER.map((value) => ({ value, label: `a ${value}` }));

  private cellWords(row: SponsorRow, day: number): string {
    const from = elementAt(this.store.week()?.days ?? [], day).from;
    const [placed, aired] = [elementAt(row.placed, day), elementAt(row.aired, day)];
    const asked = row.promises.map(
      (promise) => `${elementAt(promise.placed, day)} of ${elementAt(promise.asked, day)}`,
    );
    return [
      from !== 'log' ? (from === 'plan' ? 'no log yet' : 'no log') : `${placed} in the log`,
      aired === null ? '' : `${aired} aired`,
      asked.length > 0 ? `promised: ${asked.join(', ')}` : '',
    ]
      .filter(Boolean)
      .join('; ');
  }

  protected readonly add = async (name: string): Promise<string | null> => {
    const refused = await this.store.add(name);
    if (refused === null) this.adding.set(false);
    return refused;
  };

  protected readonly nameFault = (text: string): string | null =>
    text.trim() === '' ? 'A name cannot be empty.' : null;
  protected readonly dateFault = (text: string): string | null =>
    text === '' || isDate(text) ? null : 'Write a date like 2026-11-23.';
  protected readonly minutesFault = (text: string): string | null =>
    /^\d{1,4}$/.test(text) && Number(text) <= 1440 ? null : 'Write minutes from 0 to 1440.';
  protected readonly hourFault = (text: string): string | null =>
    text === '' || (/^\d{1,2}$/.test(text) && Number(text) >= 1 && Number(text) <= 60)
      ? null
      : 'Write a number from 1 to 60, or nothing.';
  protected readonly countFault = (text: string): string | null =>
    /^\d{1,4}$/.test(text) && Number(text) >= 1 && Number(text) <= 2000 ? null : 'Write a number from 1 to 2000.';

  protected readonly saveName = (text: string): Promise<string | null> => this.patch({ name: text });
  protected readonly saveProduct = (text: string): Promise<string | null> => this.patch({ product: text });
  protected readonly saveStart = (text: string): Promise<string | null> => this.patch({ startDate: text || null });
  protected readonly saveEnd = (text: string): Promise<string | null> => this.patch({ endDate: text || null });

  private patch(fields: Parameters<typeof this.store.patch>[1]): Promise<string | null> {
    const row = this.store.row();
    return row ? this.store.patch(row, fields) : Promise.resolve(null);
  }

  protected addPromise(row: SponsorRow): void {
    void this.setPromises(row, [...plain(row), { count: 1, per: 'day', daypartId: null }]);
  }

  protected removePromise(row: SponsorRow, at: number): void {
    void this.setPromises(row, plain(row).toSpliced(at, 1));
  }

  protected changePromise(row: SponsorRow, at: number, fields: Partial<SponsorPromise>): void {
    const promises = plain(row);
    void this.setPromises(row, promises.with(at, { ...elementAt(promises, at), ...fields }));
  }

  protected takeDaypart(row: SponsorRow, at: number, value: string): void {
    this.changePromise(row, at, { daypartId: value === ANY_TIME ? null : value });
  }

  protected takePer(row: SponsorRow, at: number, value: string): void {
    this.changePromise(row, at, { per: value === 'week' ? 'week' : 'day' });
  }

  protected readonly anyTime = ANY_TIME;

  private setPromises(row: SponsorRow, promises: SponsorPromise[]): Promise<string | null> {
    return this.store.patch(row, { promises });
  }
}

/** The promises of a row without what came of them. */
function plain({ promises }: SponsorRow): SponsorPromise[] {
  return promises.map(({ count, per, daypartId }) => ({ count, per, daypartId }));
}
