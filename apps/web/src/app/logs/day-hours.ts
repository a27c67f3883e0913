import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { ButtonDirective } from 'primeng/button';
import { formatDuration } from '@fuller/core';
import type { HourRow, LogRow } from './log-model';

/** The day as a strip of its hours: filled or open, strained, over or under. */
@Component({
  selector: 'f-day-hours',
  imports: [ButtonDirective],
  template: `<ol aria-label="Hours of the day">
    @for (row of hours(); track row.id) {
      <li>
        <button
          pButton
          [pButtonUnstyled]="true"
          type="button"
          (click)="choose.emit(row.id)"
          [class.here]="row.hour.index === current()"
          [title]="words(row)">
          <span class="top"
            ><b class="mono">{{ two(row.hour.localHour) }}</b>
            @if (row.strained) {
              <svg width="6" height="10" viewBox="0 0 9 16" aria-hidden="true">
                <path d="M0.75 1.5 L8 8 L0.75 14.5 Z" class="burr" />
              </svg>
            }
            @if (row.open) {
              <svg width="8" height="8" viewBox="0 0 10 10" aria-hidden="true">
                <circle cx="5" cy="5" r="4" class="open" />
              </svg>
            }
          </span>
          <span class="bar"
            ><i [style.width.%]="fill(row)" [class.over]="row.overMs > 30000"></i>
            @if (row.silentMs) {
              <i class="silence" [style.width.%]="silence(row)"></i>
            }
          </span>
          <span class="visually-hidden">{{ words(row) }}</span>
          <span class="off mono" [class.much]="much(row)">{{ off(row) }}</span>
        </button>
      </li>
    }
  </ol>`,
  styles: `
    ol {
      display: flex;
      margin: 0;
      padding: 0;
      list-style: none;
    }
    li {
      flex: 1 1 0;
      min-width: 0;
    }
    button {
      display: grid;
      gap: 3px;
      width: 100%;
      padding: 5px 2px 4px 4px;
      border: 0;
      border-left: 1px solid var(--line);
      background: none;
      cursor: pointer;
      text-align: left;
    }
    li:first-child button {
      border-left: 0;
    }
    button:hover {
      background: var(--woad-wash);
    }
    button.here {
      background: var(--woad-wash);
      box-shadow: inset 0 2px 0 var(--woad);
    }
    button:focus-visible {
      outline-offset: -2px;
    }
    .top {
      display: flex;
      align-items: center;
      gap: 2px;
      height: 14px;
      font-size: 12px;
    }
    .burr {
      fill: var(--madder);
      stroke: var(--madder);
    }
    .open {
      fill: none;
      stroke: var(--weld);
      stroke-width: 2;
    }
    .bar {
      display: flex;
      height: 5px;
      border-radius: 2px;
      background: var(--line);
      overflow: hidden;
    }
    .bar i {
      display: block;
      height: 100%;
      background: var(--moss);
    }
    .bar i.silence {
      background: repeating-linear-gradient(90deg, var(--weld) 0 2px, transparent 2px 4px);
    }
    .bar i.over {
      background: var(--weld);
    }
    .off {
      font-size: 10.5px;
      color: var(--quiet);
      white-space: nowrap;
    }
    .off.much {
      color: var(--weld-text);
      font-weight: 600;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class DayHours {
  readonly rows = input.required<readonly LogRow[]>();
  readonly current = input(-1);
  readonly choose = output<string>();
  protected readonly hours = computed(() => this.rows().filter((row): row is HourRow => row.kind === 'hour'));

  protected two(value: number): string {
    return String(value).padStart(2, '0');
  }

  protected fill(row: HourRow): number {
    return Math.min(
      100,
      Math.max(0, ((row.hour.durationMs + Math.max(0, row.overMs) - row.silentMs) / row.hour.durationMs) * 100),
    );
  }

  protected silence(row: HourRow): number {
    return Math.min(100, (row.silentMs / row.hour.durationMs) * 100);
  }

  protected off(row: HourRow): string {
    if (row.hour.entries.length === 0) return 'empty';
    if (Math.abs(row.overMs) < 1000) return '0s';
    const off = Math.abs(row.overMs);
    return `${row.overMs > 0 ? '+' : '−'}${off < 60_000 ? Math.round(off / 1000) + 's' : `${Math.round(off / 60_000)}m`}`;
  }

  protected much(row: HourRow): boolean {
    return Math.abs(row.overMs) > 120_000;
  }

  protected words(row: HourRow): string {
    const parts = [`${this.two(row.hour.localHour)}:00, ${row.hour.clockName || 'no clock'}`];
    if (row.open) parts.push(`${row.open} open`);
    if (row.strained) parts.push(`${row.strained} strained`);
    if (row.silentMs) parts.push(`${formatDuration(row.silentMs)} of silence`);
    parts.push(`ends ${formatDuration(Math.abs(row.overMs))} ${row.overMs > 0 ? 'late' : 'early'}`);
    return parts.join(', ');
  }
}
