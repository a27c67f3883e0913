import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { RouterLink } from '@angular/router';
import type { DaySummary } from '@fuller/contracts';
import { elementAt, weekdayOf } from '@fuller/core';
import { Store } from '@ngrx/store';
import { catalogueFeature } from '../state/catalogue.feature';
import { daysFeature } from '../state/days.feature';
import { longDayText } from '../shared/text/when';
import { DayMark, dayStateWords } from '../shared/ui/day-mark';

const LETTERS = ['Mo', 'Tu', 'We', 'Th', 'Fr', 'Sa', 'Su'];

/** Fourteen days round today, each showing by shape how far it is and leading to it. */
@Component({
  selector: 'f-fortnight-strip',
  imports: [RouterLink, DayMark],
  template: `<ol aria-label="Fourteen days">
    @for (day of days(); track day.date) {
      <li>
        <a
          [routerLink]="['/', stationId(), 'logs', day.date]"
          [class.today]="day.date === today()"
          [class.weekend]="weekend(day)"
          [class.chosen]="day.date === chosen()"
          [attr.title]="words(day)"
          [attr.aria-current]="day.date === chosen() ? 'date' : null">
          <span class="name">{{ letter(day) }}</span><span class="number">{{ +day.date.slice(8) }}</span
          ><span class="visually-hidden">{{ words(day) }}</span
          ><f-day-mark [state]="day.state" />
        </a>
      </li>
    }
  </ol>`,
  styles: `
    ol {
      display: flex;
      margin: 0;
      padding: 0;
      list-style: none;
      border: 1px solid var(--line);
      border-radius: 4px;
      background: var(--paper);
      overflow: hidden;
    }
    li + li {
      border-left: 1px solid var(--line);
    }
    a {
      display: grid;
      grid-template-columns: auto auto;
      justify-content: center;
      align-content: center;
      column-gap: 3px;
      width: 37px;
      height: 44px;
      color: var(--ink);
      text-decoration: none;
      font-size: 12px;
      line-height: 17px;
      border-bottom: 2px solid transparent;
    }
    .name {
      color: var(--quiet);
    }
    .number {
      font-weight: 600;
    }
    f-day-mark {
      grid-column: 1 / -1;
      justify-self: center;
    }
    a.weekend {
      background: color-mix(in srgb, var(--chalk) 70%, transparent);
    }
    a:hover {
      background: var(--woad-wash);
    }
    a.today {
      border-bottom-color: var(--ink);
    }
    a.chosen {
      background: var(--woad-wash);
      box-shadow: inset 0 0 0 1.5px var(--woad);
    }
    a:focus-visible {
      outline-offset: -3px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class FortnightStrip {
  private readonly store = inject(Store);
  readonly stationId = input.required<string>();
  readonly chosen = input<string | null>(null);
  protected readonly days = this.store.selectSignal(daysFeature.selectDays);
  private readonly station = this.store.selectSignal(catalogueFeature.selectStation);
  protected readonly today = computed(() => this.station()?.today ?? '');

  protected letter(day: DaySummary): string {
    return elementAt(LETTERS, weekdayOf(day.date));
  }

  protected weekend(day: DaySummary): boolean {
    return weekdayOf(day.date) >= 5;
  }

  protected words(day: DaySummary): string {
    const strains = day.strains > 0 ? `, ${day.strains} strained` : '';
    return `${longDayText(day.date)}: ${dayStateWords(day.state, day.open)}${strains}`;
  }
}
