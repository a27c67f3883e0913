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
import { SmallButton } from '../../shared/ui/small-button';
import { RouterLink } from '@angular/router';
import type { ItemCard, ItemPlays } from '@fuller/contracts';
import { elementAt, addDays, localTimeOf } from '@fuller/core';
import { Store } from '@ngrx/store';
import { RuleNamesOfStation } from '../../rules/rule-names';
import { Api } from '../../shared/api/api';
import { Newest } from '../../shared/api/newest';
import { plural } from '../../shared/text/plural';
import { whenText } from '../../shared/text/when';
import { WeekGrid } from '../../shared/ui/week-grid';
import { DateField } from '../../shared/ui/date-field';
import { catalogueFeature } from '../../state/catalogue.feature';

const DAY_NAMES = ['Mondays', 'Tuesdays', 'Wednesdays', 'Thursdays', 'Fridays', 'Saturdays', 'Sundays'];
const PROOF_DAYS = 28;

/** When an item played and will, and the proof of it. */
@Component({
  selector: 'f-card-plays',
  imports: [SmallButton, DateField, WeekGrid, RouterLink],
  template: `@if (plays(); as it) {
      @if (held(); as held) {
        <div class="held" role="status">
          @for (one of held; track one.ruleId) {
            <p>{{ one.words }}</p>
          }
        </div>
      } @else {
        <p class="free">No recent play holds it back now.</p>
      }
      <h3 class="label head">Plays of the last {{ it.weeks }} weeks</h3>
      <f-week-grid [label]="'Plays by day and hour, ' + it.weeks + ' weeks'" [values]="it.cells" [says]="saysPlays" />
      <p class="small">{{ sentence() }}</p>
      <div class="lists">
        <section>
          <h3 class="label head">Before</h3>
          <ul>
            @for (at of it.past; track at) {
              <li>
                <a [routerLink]="logOf(at)">{{ when(at) }}</a>
              </li>
            } @empty {
              <li class="quiet">not in these weeks</li>
            }
          </ul>
        </section>
        <section>
          <h3 class="label head">To come</h3>
          <ul>
            @for (at of it.coming; track at) {
              <li>
                <a [routerLink]="logOf(at)">{{ when(at) }}</a>
              </li>
            } @empty {
              <li class="quiet">in no log ahead</li>
            }
          </ul>
        </section>
      </div>
      <h3 class="label head">Airplay proof</h3>
      <div class="range">
        <label for="proof-from">from</label>
        <f-date-field fieldId="proof-from" [value]="proofFrom()" (changed)="proofFrom.set($event)" />
        <label for="proof-to">to</label>
        <f-date-field fieldId="proof-to" [value]="proofTo()" (changed)="proofTo.set($event)" />
      </div>
      @if (rangeFault(); as fault) {
        <p class="error-text" role="alert">{{ fault }}</p>
      } @else {
        <div class="acts">
          <a fButton class="act" [href]="proofUrl('pdf')" download>PDF</a>
          <a fButton class="act" [href]="proofUrl('csv')" download>CSV</a>
        </div>
      }
    } @else if (failed()) {
      <p class="error-text">{{ failed() }}</p>
    } @else {
      <p class="quiet">Loading</p>
    }`,
  styleUrl: './card.scss',
  styles: `
    .lists {
      display: grid;
      grid-template-columns: 1fr 1fr;
      gap: 12px;
    }
    li a {
      color: inherit;
      text-decoration-color: var(--line-strong);
      text-underline-offset: 2px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class CardPlays {
  private readonly api = inject(Api);
  private readonly store = inject(Store);
  private readonly station = this.store.selectSignal(catalogueFeature.selectStation);
  private readonly words = inject(RuleNamesOfStation);
  readonly stationId = input.required<string>();
  readonly card = input.required<ItemCard>();

  protected readonly plays = signal<ItemPlays | null>(null);
  protected readonly failed = signal<string | null>(null);
  private readonly today = computed(() => this.station()?.today ?? '');
  protected readonly proofTo = linkedSignal(() => this.today());
  protected readonly proofFrom = linkedSignal(() => (this.today() ? addDays(this.today(), -PROOF_DAYS) : ''));
  protected readonly rangeFault = computed(() => {
    if (!this.proofFrom() || !this.proofTo()) return 'Choose both dates.';
    return this.proofFrom() > this.proofTo() ? 'The first date is after the second.' : null;
  });
  protected readonly held = computed(() => {
    const held = this.plays()?.held ?? [];
    if (held.length === 0) return null;
    return held.map(({ ruleId, other, endedMs, freeMs }) => {
      const tag = this.words.subject(ruleId);
      const what = other.id === this.card().id ? 'It' : `“${other.title}”`;
      return {
        ruleId,
        words: `Too recent for ${tag}: ${what} ended ${this.when(endedMs)}. Free ${this.when(freeMs)}.`,
      };
    });
  });
  protected readonly saysPlays = (count: number): string => plural(count, 'play');
  protected readonly sentence = computed(() => sentenceOf(this.plays()?.cells ?? []));

  constructor() {
    effect(() => {
      const [stationId, { id }] = [this.stationId(), this.card()];
      untracked(() => void this.load(stationId, id));
    });
  }

  private readonly newest = new Newest();

  private async load(stationId: string, id: string): Promise<void> {
    const isNewest = this.newest.begin();
    try {
      const plays = await this.api.itemPlays({ stationId, id });
      if (isNewest()) this.plays.set(plays);
    } catch (error) {
      if (isNewest()) this.failed.set(error instanceof Error ? error.message : String(error));
    }
  }

  protected when(ms: number): string {
    const station = this.station();
    return station ? whenText(ms, station.timeZone, station.today) : '';
  }

  protected logOf(ms: number): string[] {
    return ['/', this.stationId(), 'logs', localTimeOf(ms, this.station()?.timeZone ?? 'UTC').date];
  }

  protected proofUrl(kind: 'csv' | 'pdf'): string {
    const at = { stationId: this.stationId(), id: this.card().id, from: this.proofFrom(), to: this.proofTo() };
    return this.api.urlOf(kind === 'csv' ? 'proofCsv' : 'proofPdf', at);
  }
}

/** What the picture shows, in a sentence. */
function sentenceOf(cells: readonly number[]): string {
  const total = cells.reduce((sum, one) => sum + one, 0);
  if (total === 0) return 'It has not played in these weeks.';
  const byHour = Array.from({ length: 24 }, (_, hour) =>
    cells.reduce((sum, one, cell) => sum + (cell % 24 === hour ? one : 0), 0),
  );
  const byDay = DAY_NAMES.map((_, day) => cells.slice(day * 24, day * 24 + 24).reduce((sum, one) => sum + one, 0));
  const busiest = byHour.indexOf(Math.max(...byHour));
  const never = byHour.filter((count) => count === 0).length;
  const day = elementAt(DAY_NAMES, byDay.indexOf(Math.max(...byDay)));
  const hours = `most at ${String(busiest).padStart(2, '0')}:00 (${elementAt(byHour, busiest)}) and on ${day} (${Math.max(...byDay)})`;
  return `${plural(total, 'play')}, ${hours}; never at ${plural(never, 'hour')} of the day.`;
}
