import { NgTemplateOutlet } from '@angular/common';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  ElementRef,
  inject,
  output,
  signal,
  viewChild,
} from '@angular/core';
import { SmallButton } from '../shared/ui/small-button';
import { formatAirTime, formatDuration } from '@fuller/core';
import { DragDropModule } from 'primeng/dragdrop';
import { Scroller } from 'primeng/scroller';
import { Looks } from '../shared/looks';
import { MOST_PRINTED, Printing } from '../shared/printing';
import { dayYearText } from '../shared/text/when';
import { Icon } from '../shared/ui/icon';
import { DeskDays } from './desk-days';
import { DeskEdits } from './desk-edits';
import { EntryRowView } from './entry-row';
import { insideWords, offWords, twoDigits } from './hour-words';
import { LogDesk } from './log-desk.store';
import type { EntryRow, HourRow } from './log-model';

const ROW_PX = { comfortable: 30, dense: 25 };
const FRAME_MS = 16;
/** Two seconds; a list that is not shown by then is not scrolled. */
const MOST_FRAMES = 120;

/** The rows of the log desk: hours and entries of the day that is worked on, among further days where some are shown. */
@Component({
  selector: 'f-log-list',
  imports: [SmallButton, DragDropModule, EntryRowView, Icon, NgTemplateOutlet, Scroller],
  templateUrl: './log-list.html',
  styleUrl: './log-list.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class LogList {
  protected readonly desk = inject(LogDesk);
  private readonly edits = inject(DeskEdits);
  private readonly looks = inject(Looks);
  protected readonly printing = inject(Printing);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  private readonly scroller = viewChild(Scroller);
  protected readonly list = inject(DeskDays).list;

  readonly pressed = output<KeyboardEvent>();
  readonly clicked = output<{ readonly event: MouseEvent; readonly row: EntryRow }>();
  readonly dragged = output<EntryRow>();
  /** Another day of those shown is wanted, at one of its entries. */
  readonly away = output<{ readonly date: string; readonly entryId: string | null }>();

  protected readonly printed = computed(() => this.list().slice(0, MOST_PRINTED));
  protected readonly rowPx = computed(() => ROW_PX[this.looks.density()]);
  protected readonly pickedIds = computed(() => new Set(this.desk.pickedRows().map(({ id }) => id)));
  private readonly timeZone = computed(() => this.desk.station()?.timeZone ?? 'UTC');
  /** What the list is to those who hear the screen: its keys choose among entries. */
  protected readonly listbox = computed(() => ({
    root: {
      role: 'listbox',
      'aria-label': 'Entries of the log',
      'aria-activedescendant': this.desk.chosen() ? `entry-${this.desk.activeId()}` : null,
    },
  }));

  focus(): void {
    this.host.nativeElement.querySelector<HTMLElement>('.rows')?.focus();
  }

  /** Waits until the list is as high as its rows; before that it cannot be scrolled to one. */
  async listed(): Promise<void> {
    for (let frame = 0; frame < MOST_FRAMES; frame++) {
      await new Promise((resolve) => setTimeout(resolve, FRAME_MS));
      const box = this.box();
      if (box && box.scrollHeight >= this.list().length * this.rowPx()) return;
    }
  }

  /** Scrolls as far as needed for a row to be seen, or so that it stands near the top. */
  show(id: string | null, at: 'nearest' | 'top' = 'nearest'): void {
    const [box, scroller] = [this.box(), this.scroller()];
    const index = this.list().findIndex((row) => row.id === id);
    if (!scroller || !box || index < 0) return;
    const size = this.rowPx();
    const top = index * size;
    const seen = { top: box.scrollTop, bottom: box.scrollTop + box.clientHeight };
    if (at === 'top') scroller.scrollTo({ top: Math.max(0, top - size * 3) });
    else if (top < seen.top + size) scroller.scrollTo({ top: Math.max(0, top - size) });
    else if (top + size > seen.bottom) scroller.scrollTo({ top: top + size - box.clientHeight });
  }

  private box(): HTMLElement | undefined {
    return this.scroller()?.getElementRef()?.nativeElement as HTMLElement | undefined;
  }

  /** The entry or hour a dragged entry is over. */
  protected readonly overId = signal<string | null>(null);

  protected dropOn(row: EntryRow): void {
    this.overId.set(null);
    this.edits.moveTo({ hourIndex: row.hourIndex, beforeId: row.id });
  }

  /** At the head of an hour. */
  protected dropOnHour(index: number): void {
    this.overId.set(null);
    this.edits.moveTo({ hourIndex: index, beforeId: this.desk.log()?.hours[index]?.entries[0]?.id ?? null });
  }

  protected isCollapsed({ hour }: HourRow): boolean {
    return !this.desk.isFiltering() && this.desk.collapsed().includes(hour.index);
  }

  protected clock(ms: number): string {
    return formatAirTime(ms, this.timeZone());
  }

  protected readonly dayName = dayYearText;
  protected readonly length = formatDuration;
  protected readonly off = offWords;
  protected readonly two = twoDigits;
  protected readonly insideWords = insideWords;
}
