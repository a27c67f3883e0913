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
import { RouterLink } from '@angular/router';
import type { ItemCard, ItemFit } from '@fuller/contracts';
import { elementAt, PAUSED_FOR_GOOD } from '@fuller/core';
import { Store } from '@ngrx/store';
import { RuleNamesOfStation } from '../../rules/rule-names';
import { Api } from '../../shared/api/api';
import { Newest } from '../../shared/api/newest';
import { whenText } from '../../shared/text/when';
import { DateField } from '../../shared/ui/date-field';
import { catalogueFeature } from '../../state/catalogue.feature';

type FitHour = ItemFit['hours'][number];
const MARKS: Readonly<Record<FitHour['state'], string>> = {
  plays: '●',
  may: '○',
  'other slot': '◌',
  held: '▲',
  'no slot': '–',
  barred: '✕',
};

/** Hour by hour of a chosen day whether an item may play, and what holds it back until when. */
@Component({
  selector: 'f-card-fit',
  imports: [DateField, RouterLink],
  template: `<div class="range one">
      <label for="fit-date">On</label>
      <f-date-field fieldId="fit-date" [value]="date()" (changed)="date.set($event)" />
      <a [routerLink]="['/', stationId(), 'logs', date()]">its log</a>
    </div>
    @if (failed()) {
      <p class="error-text" role="alert">{{ failed() }}</p>
    } @else if (fit(); as it) {
      <p class="small lead">{{ sentence() }}</p>
      <ol class="hours" aria-label="Hours of the day">
        @for (hour of rows(); track hour.index) {
          <li
            [class.may]="hour.state === 'may'"
            [class.plays]="hour.state === 'plays'"
            [class.held-back]="hour.state === 'held'">
            <span class="mono">{{ hour.label }}</span><span class="mark" aria-hidden="true">{{ hour.mark }}</span
            ><span class="what">{{ hour.words }}</span>
          </li>
        }
      </ol>
    } @else {
      <p class="quiet">Checking every hour</p>
    }`,
  styleUrl: './card.scss',
  styles: `
    .one {
      grid-template-columns: auto 140px 1fr;
    }
    .lead {
      margin-bottom: 6px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class CardFit {
  private readonly api = inject(Api);
  private readonly store = inject(Store);
  private readonly station = this.store.selectSignal(catalogueFeature.selectStation);
  private readonly words = inject(RuleNamesOfStation);
  readonly stationId = input.required<string>();
  readonly card = input.required<ItemCard>();

  protected readonly date = linkedSignal(() => this.station()?.today ?? '');
  protected readonly fit = signal<ItemFit | null>(null);
  protected readonly failed = signal<string | null>(null);
  protected readonly rows = computed(() =>
    (this.fit()?.hours ?? []).map((hour) => ({
      index: hour.index,
      state: hour.state,
      label: `${String(hour.localHour).padStart(2, '0')}:00`,
      mark: MARKS[hour.state],
      words: this.wordsOf(hour),
    })),
  );
  protected readonly sentence = computed(() => {
    const it = this.fit();
    if (!it) return '';
    const may = it.hours.filter(({ state }) => state === 'may').length;
    const plays = it.hours.filter(({ state }) => state === 'plays').length;
    const against = it.hasLog ? 'as its log now stands' : 'no log yet, judged against its clocks';
    return `${plays > 0 ? `It plays in ${plays} of ${it.hours.length} hours and may` : 'It may'} play in ${plays > 0 ? `${may} more` : `${may} of ${it.hours.length} hours`}, ${against}.`;
  });

  constructor() {
    effect(() => {
      const [stationId, card, date] = [this.stationId(), this.card(), this.date()];
      untracked(() => void this.load(stationId, card.id, date));
    });
  }

  private readonly newest = new Newest();

  private async load(stationId: string, id: string, date: string): Promise<void> {
    if (date === '') return;
    const isNewest = this.newest.begin();
    if (this.fit()?.date !== date) this.fit.set(null);
    this.failed.set(null);
    try {
      const fit = await this.api.itemFit({ stationId, id, date });
      if (isNewest()) this.fit.set(fit);
    } catch (error) {
      if (isNewest()) this.failed.set(error instanceof Error ? error.message : String(error));
    }
  }

  private wordsOf({ state, atMs, bar, clashes }: FitHour): string {
    const at = atMs === null ? '' : this.time(atMs);
    switch (state) {
      case 'plays':
        return `plays at ${at}`;
      case 'may':
        return `may play, as at ${at}`;
      case 'other slot':
        return 'free, but no slot of its category';
      case 'no slot':
        return 'no slot for music';
      case 'barred':
        return unavailabilityWords(bar!);
      case 'held': {
        const { ruleId, by, other, otherMs, freeMs } = elementAt(clashes, 0);
        const what = other.id === this.card().id ? 'itself' : `“${other.title}”`;
        const where = otherMs < atMs! ? `after ${what}` : `before ${what} at ${this.time(otherMs)}`;
        return `${this.words.subject(ruleId)} ${this.words.excess(ruleId, by)} ${where}; free ${this.time(freeMs)}`;
      }
    }
  }

  private time(ms: number): string {
    const station = this.station();
    return station ? whenText(ms, station.timeZone, this.date()).replace('today ', '') : '';
  }
}

function unavailabilityWords(bar: NonNullable<FitHour['bar']>): string {
  switch (bar.because) {
    case 'not yet':
      return `not on air before ${bar.from}`;
    case 'over':
      return `on air until ${bar.until} only`;
    case 'paused':
      return bar.until === PAUSED_FOR_GOOD ? 'paused for good' : `paused until ${bar.until}`;
    case 'cooling off':
      return `cooling off until ${bar.until} after many plays`;
    case 'no length':
      return 'without a length, so nothing plays it';
    case 'hour':
      return 'not among its hours';
    case 'not approved':
      return 'not approved, as its category asks';
  }
}
