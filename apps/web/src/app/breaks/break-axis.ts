import { ChangeDetectionStrategy, Component, computed, ElementRef, inject, input } from '@angular/core';
import { type CdkDrag, type CdkDragDrop, CdkDropList } from '@angular/cdk/drag-drop';
import type { TrafficBreak, TrafficDay } from '@fuller/contracts';
import { formatDuration } from '@fuller/core';
import { ButtonDirective } from 'primeng/button';
import { BreaksStore } from './breaks.store';

const HOUR_MS = 3_600_000;
/** The narrowest bar, as a share of the hour: what it holds must be read. */
const NARROWEST = 0.052;

/** A break with where its bar stands, in per cent. */
interface Bar {
  readonly one: TrafficBreak;
  readonly left: number;
  readonly width: number;
  /** How much of its planned length is booked. */
  readonly filled: number;
  readonly state: 'none' | 'empty' | 'under' | 'full' | 'over';
  readonly says: string;
}

/**
 * The breaks of a day, an hour a row: each bar begins where it is booked and is as wide as planned; its filling is what is
 * booked. A spot that is held, or dragged here, is placed by a press.
 */
@Component({
  selector: 'f-break-axis',
  imports: [ButtonDirective, CdkDropList],
  template: `<div class="ruler" aria-hidden="true">
      <span></span>
      <div>
        @for (minute of minutes; track minute) {
          <i [style.left.%]="minute / 0.6">:{{ minute < 10 ? '0' + minute : minute }}</i>
        }
      </div>
    </div>
    @for (row of rows(); track row.index) {
      <div class="row">
        <span class="mono hour" aria-hidden="true">{{ row.hour }}</span>
        <div class="line">
          @for (bar of row.bars; track bar.one.entryId) {
            <button
              pButton
              [pButtonUnstyled]="true"
              type="button"
              [class]="'bar ' + bar.state"
              [class.here]="!isPreview() && bar.one.entryId === store.breakId()"
              [class.aired]="bar.one.aired"
              [style.left.%]="bar.left"
              [style.width.%]="bar.width"
              [attr.aria-label]="bar.says"
              [attr.aria-pressed]="bar.one.entryId === store.breakId()"
              [title]="bar.says"
              [attr.data-break]="bar.one.entryId"
              cdkDropList
              [id]="'drop-' + bar.one.entryId"
              [cdkDropListData]="bar.one.entryId"
              [cdkDropListDisabled]="bar.one.aired || isPreview()"
              [cdkDropListSortingDisabled]="true"
              (cdkDropListDropped)="drop($event)"
              (click)="press(bar.one)"
              (keydown)="key($event, bar.one)">
              <span class="fill" [style.width.%]="bar.filled"></span>
              <span class="text mono">{{ bar.one.spots ? length(bar.one.bookedMs) : '–' }}</span>
              @if (bar.one.marks.length) {
                <span class="mark"></span>
              }
            </button>
          }
        </div>
      </div>
    }`,
  styleUrl: './break-axis.scss',
  host: { '[class.placing]': 'store.held() !== null' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class BreakAxis {
  protected readonly store = inject(BreaksStore);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
  readonly day = input.required<Pick<TrafficDay, 'hours' | 'breaks'>>();
  /** Shows what an import would book; nothing can be moved in it. */
  readonly isPreview = input(false);
  protected readonly minutes = [0, 10, 20, 30, 40, 50];
  protected readonly length = formatDuration;

  protected readonly rows = computed(() => {
    const { hours, breaks } = this.day();
    return hours.map(({ index, localHour }) => ({
      index,
      hour: String(localHour).padStart(2, '0'),
      bars: breaks.filter(({ hourIndex }) => hourIndex === index).map(barOf),
    }));
  });

  protected press(one: TrafficBreak): void {
    if (this.isPreview()) return;
    const held = this.store.held();
    this.store.select(one.entryId);
    if (held && !one.aired) void this.store.move(held.id, one.entryId);
  }

  protected drop({ item, container }: CdkDragDrop<string, unknown, string>): void {
    void this.store.move((item as CdkDrag<string>).data, container.data);
  }

  /** The arrow keys lead to the breaks beside it, and to the nearest of the hours above and below. */
  protected key(event: KeyboardEvent, one: TrafficBreak): void {
    const { breaks } = this.day();
    const at = breaks.indexOf(one);
    const step = { ArrowRight: 1, ArrowLeft: -1 }[event.key];
    const rows = { ArrowDown: 1, ArrowUp: -1 }[event.key];
    const next = step !== undefined ? breaks[at + step] : rows !== undefined ? nearest(breaks, one, rows) : undefined;
    if (!next) return;
    event.preventDefault();
    this.focus(next.entryId);
    if (!this.store.held() && !this.isPreview()) this.store.select(next.entryId);
  }

  /** Moves the focus to the bar of a break. */
  focus(entryId: string): void {
    const bars = [...this.host.querySelectorAll<HTMLElement>('[data-break]')];
    bars.find(({ dataset }) => dataset['break'] === entryId)?.focus();
  }
}

function nearest(breaks: readonly TrafficBreak[], one: TrafficBreak, step: number): TrafficBreak | undefined {
  const hours = [...new Set(breaks.map(({ hourIndex }) => hourIndex))];
  const hour = hours[hours.indexOf(one.hourIndex) + step];
  const away = ({ pastHourMs }: TrafficBreak): number => Math.abs(pastHourMs - one.pastHourMs);
  return breaks
    .filter(({ hourIndex }) => hourIndex === hour)
    .reduce<TrafficBreak | undefined>((best, other) => (best && away(best) <= away(other) ? best : other), undefined);
}

function barOf(one: TrafficBreak): Bar {
  const share = one.plannedMs / HOUR_MS;
  const width = Math.max(NARROWEST, share);
  return {
    one,
    left: Math.min(one.pastHourMs / HOUR_MS, 1 - width) * 100,
    width: width * 100,
    filled: one.plannedMs === 0 ? 100 : Math.min(100, (one.bookedMs / one.plannedMs) * 100),
    state: stateOf(one),
    says: wordsOf(one),
  };
}

/** A few seconds more or less are what is booked. */
const NEAR_MS = 5000;

function stateOf({ spots, bookedMs, plannedMs }: TrafficBreak): Bar['state'] {
  if (spots === null) return 'none';
  if (spots.length === 0) return 'empty';
  if (bookedMs > plannedMs + NEAR_MS) return 'over';
  return bookedMs < plannedMs - NEAR_MS ? 'under' : 'full';
}

function wordsOf({ start, spots, bookedMs, plannedMs, marks, aired }: TrafficBreak): string {
  const count = spots === null ? 'nothing booked yet' : spots.length === 1 ? '1 spot' : `${spots.length} spots`;
  const booked = spots === null ? '' : `, ${formatDuration(bookedMs)} booked`;
  const rest = [...marks, ...(aired ? ['has aired'] : [])].map((words) => `. ${words}`).join('');
  return `Break at ${start.slice(0, 5)}: ${count}${booked}, ${formatDuration(plannedMs)} planned${rest}`;
}
