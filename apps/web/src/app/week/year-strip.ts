import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { Router } from '@angular/router';
import { elementAt, addDays, datesOf, daysBetween, type AirPlan } from '@fuller/core';
import { dayYearText } from '../shared/text/when';

const MONTHS = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec'];
const WIDTH = 1100;
const DAYS = 366;

/** A year from this month on as a strip, with the dates that differ from the week. */
@Component({
  selector: 'f-year-strip',
  template: `<svg
      [attr.viewBox]="'0 0 ' + width + ' 34'"
      preserveAspectRatio="none"
      role="img"
      [attr.aria-label]="summary()">
      <rect x="0" y="16" [attr.width]="width" height="12" class="bed" />
      @for (month of months(); track month.x) {
        <line [attr.x1]="month.x" [attr.x2]="month.x" y1="4" y2="28" class="month" />
      }
      @for (mark of marks(); track mark.date + mark.id) {
        <rect [attr.x]="mark.x" y="15" [attr.width]="dayPx" height="14" class="mark" (click)="open(mark.id)">
          <title>{{ mark.title }}</title>
        </rect>
      }
      <line [attr.x1]="now()" [attr.x2]="now()" y1="12" y2="32" class="now" />
    </svg>
    <div class="names" aria-hidden="true">
      @for (month of months(); track month.x) {
        <span [style.left.%]="(100 * month.x) / width">{{ month.name }}</span>
      }
    </div>`,
  styles: `
    :host {
      position: relative;
      display: block;
      padding: 4px 16px 8px 40px;
      border-top: 1px solid var(--line);
    }
    svg {
      display: block;
      width: 100%;
      height: 34px;
    }
    .names {
      position: absolute;
      left: 40px;
      right: 16px;
      top: 4px;
      height: 14px;
      font-size: 11.5px;
      color: var(--quiet);
      pointer-events: none;
    }
    .names span {
      position: absolute;
      padding-left: 4px;
    }
    .bed {
      fill: var(--paper);
      stroke: var(--line);
    }
    .month {
      stroke: var(--line-strong);
    }
    .mark {
      fill: var(--woad);
      cursor: pointer;
    }
    .mark:hover {
      fill: var(--madder);
    }
    .now {
      stroke: var(--ink);
      stroke-width: 2;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class YearStrip {
  private readonly router = inject(Router);
  readonly stationId = input.required<string>();
  readonly plan = input.required<AirPlan>();
  readonly today = input.required<string>();
  protected readonly width = WIDTH;
  protected readonly dayPx = WIDTH / DAYS + 1;
  private readonly first = computed(() => `${this.today().slice(0, 8)}01`);
  protected readonly now = computed(() => this.x(this.today()));
  protected readonly months = computed(() => {
    const [year, month] = this.first().split('-').map(Number) as [number, number];
    return Array.from({ length: 12 }, (_, n) => {
      const at = (month - 1 + n) % 12;
      const date = `${year + Math.floor((month - 1 + n) / 12)}-${String(at + 1).padStart(2, '0')}-01`;
      return { x: this.x(date), name: elementAt(MONTHS, at) };
    });
  });
  protected readonly marks = computed(() => {
    const from = this.first();
    const to = addDays(from, DAYS - 1);
    return this.plan().dates.flatMap((special) =>
      datesOf(special, from, to).map((date) => ({
        id: special.id,
        date,
        x: this.x(date),
        title: `${dayYearText(date)}: ${special.name}`,
      })),
    );
  });
  protected readonly summary = computed(() => {
    const coming = this.marks()
      .filter(({ date }) => date >= this.today())
      .sort((a, b) => a.date.localeCompare(b.date))
      .slice(0, 6);
    return coming.length
      ? `Dates that differ: ${coming.map(({ title }) => title).join('; ')}`
      : 'No dates differ from the week';
  });

  private x(date: string): number {
    return (daysBetween(this.first(), date) / DAYS) * WIDTH;
  }

  protected open(id: string): void {
    void this.router.navigate(['/', this.stationId(), 'week', 'dates', id]);
  }
}
