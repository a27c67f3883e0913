import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  ElementRef,
  inject,
  input,
  untracked,
  viewChild,
} from '@angular/core';
import { InputText } from 'primeng/inputtext';
import { ButtonDirective } from 'primeng/button';
import { Router, RouterLink } from '@angular/router';
import { addDays, formatAirTime, formatDuration, isDate } from '@fuller/core';
import { Popover } from 'primeng/popover';
import { ProgressBar } from 'primeng/progressbar';
import { Scroller } from 'primeng/scroller';
import { StaleLogs } from '../clocks/stale-logs';
import { KeysHelp } from '../frame/keys-help';
import { Looks } from '../shared/looks';
import { dayYearText } from '../shared/text/when';
import { Band } from '../shared/ui/band';
import { Burr } from '../shared/ui/burr';
import { EmptyState } from '../shared/ui/empty-state';
import { Icon } from '../shared/ui/icon';
import { Inspector } from '../shared/ui/inspector';
import { DayHours } from './day-hours';
import { DeskEngine } from './desk-engine';
import { EntryPanel } from './entry-panel';
import { flowPath, flowX } from './flow-line';
import { DeskRules } from './desk-rules';
import { LogDesk } from './log-desk.store';
import { LogDocument } from './log-document';
import { isOpen, type EntryRow } from './log-model';

const ROW_PX = { comfortable: 30, dense: 25 };
const PAGE = 15;
const FRAME_MS = 16;
/** Two seconds; a list that is not shown by then is not scrolled. */
const MOST_FRAMES = 120;

/** The log desk: a day as hours and rows, what strains it, and what could stand instead. */
@Component({
  selector: 'f-logs-page',
  imports: [
    ButtonDirective,
    InputText,
    Scroller,
    RouterLink,
    Popover,
    ProgressBar,
    DayHours,
    EntryPanel,
    StaleLogs,
    Inspector,
    Band,
    Burr,
    Icon,
    EmptyState,
    DeskRules,
  ],
  templateUrl: './logs-page.html',
  styleUrl: './logs-page.scss',
  providers: [DeskEngine, LogDocument, LogDesk],
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class LogsPage {
  protected readonly desk = inject(LogDesk);
  private readonly router = inject(Router);
  private readonly looks = inject(Looks);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  readonly stationId = input.required<string>();
  readonly date = input<string>();
  readonly entry = input<string>();
  /** An instant to open the day at, UTC epoch milliseconds: what airs then is selected. */
  readonly at = input<string>();

  protected readonly rowPx = computed(() => ROW_PX[this.looks.density()]);
  private readonly timeZone = computed(() => this.desk.station()?.timeZone ?? 'UTC');
  private readonly scroller = viewChild(Scroller);
  /** What the list is to those who hear the screen: its keys choose among entries. */
  protected readonly listbox = computed(() => ({
    root: {
      role: 'listbox',
      'aria-label': 'Entries of the log',
      'aria-activedescendant': this.desk.chosen() ? `entry-${this.desk.activeId()}` : null,
    },
  }));

  constructor() {
    inject(KeysHelp).place.set({
      name: 'Logs',
      keys: [
        { keys: ['↑', '↓'], does: 'move between entries' },
        { keys: ['PgUp', 'PgDn'], does: 'move by a page' },
        { keys: ['Enter'], does: 'candidates for the slot' },
        { keys: ['n'], does: 'next one to review' },
        { keys: ['l'], does: 'lock or unlock' },
        { keys: ['Delete'], does: 'open the slot' },
        { keys: ['Shift', 'Delete'], does: 'remove the entry' },
        { keys: ['s'], does: 'mark for a swap, then swap with the marked one' },
        { keys: ['Alt', '↑'], does: 'move the entry up' },
        { keys: ['Alt', '↓'], does: 'move the entry down' },
        { keys: ['m'], does: 'write a note' },
        { keys: ['←', '→'], does: 'the day before, the day after' },
      ],
    });
    effect(() => {
      const entry = this.entry();
      untracked(() => this.desk.choose(entry ?? null));
    });
    effect(() => {
      const [stationId, date, today] = [this.stationId(), this.date(), this.desk.station()?.today];
      untracked(() => {
        if (!date && today) void this.router.navigate(['/', stationId, 'logs', today], { replaceUrl: true });
        else if (date) void this.load(stationId, date);
      });
    });
  }

  private async load(stationId: string, date: string): Promise<void> {
    if (!(await this.desk.openDay(stationId, date)) || this.desk.status() !== 'ready') return;
    await this.listed();
    if (date !== this.date()) return;
    if (!this.entry() && this.at()) this.goTo(Number(this.at()));
    else if (!this.entry() && date === this.desk.station()?.today) this.goTo(Date.now());
    else this.show(this.desk.active(), true);
    if (document.activeElement === document.body) this.focusList();
  }

  /** The list takes some frames until it is as high as its rows; before that it cannot be scrolled to one. */
  private async listed(): Promise<void> {
    for (let frame = 0; frame < MOST_FRAMES; frame++) {
      await new Promise((resolve) => setTimeout(resolve, FRAME_MS));
      const box = this.scroller()?.getElementRef()?.nativeElement as HTMLElement | undefined;
      if (box && box.scrollHeight >= this.desk.rows().length * this.rowPx()) return;
    }
  }

  /** Selects what is on the air at an instant; today begins there. */
  private goTo(instantMs: number): void {
    const row = this.desk.entryAt(instantMs);
    if (!row) return;
    this.desk.choose(row.id);
    this.show(this.desk.active(), true);
  }

  protected answersIn(event: Event): Record<string, string> {
    const entries = [...new FormData(event.target as HTMLFormElement)].map(
      ([question, answer]) => [question, String(answer).trim()] as const,
    );
    return Object.fromEntries(entries.filter(([, answer]) => answer !== ''));
  }

  protected go(id: string): void {
    this.desk.choose(id);
    void this.router.navigate([], { queryParams: { entry: id }, replaceUrl: true });
  }

  protected goHour(id: string): void {
    const rows = this.desk.rows();
    const index = rows.findIndex((row) => row.id === id);
    const first = rows[index + 1];
    if (first?.kind === 'entry') this.go(first.id);
    this.scroller()?.scrollTo({ top: index * this.rowPx() });
  }

  protected goDay(step: number): void {
    const date = this.date();
    if (date && isDate(date)) void this.router.navigate(['/', this.stationId(), 'logs', addDays(date, step)]);
  }

  private show(index: number, atTop = false): void {
    const scroller = this.scroller();
    const box = scroller?.getElementRef()?.nativeElement as HTMLElement | undefined;
    if (!scroller || !box || index < 0) return;
    const size = this.rowPx();
    const top = index * size;
    const seen = { top: box.scrollTop, bottom: box.scrollTop + box.clientHeight };
    if (atTop) scroller.scrollTo({ top: Math.max(0, top - size * 3) });
    else if (top < seen.top + size) scroller.scrollTo({ top: Math.max(0, top - size) });
    else if (top + size > seen.bottom) scroller.scrollTo({ top: top + size - box.clientHeight });
  }

  protected onKey(event: KeyboardEvent): void {
    if (event.ctrlKey || event.metaKey) return;
    if (event.altKey) {
      if (event.key === 'ArrowUp' || event.key === 'ArrowDown') this.moveEntry(event, event.key === 'ArrowUp' ? -1 : 1);
      return;
    }
    const step = { ArrowDown: 1, ArrowUp: -1, PageDown: PAGE, PageUp: -PAGE }[event.key];
    if (step !== undefined) this.step(event, step);
    else if (event.key === 'ArrowLeft' || event.key === 'ArrowRight') this.goDay(event.key === 'ArrowLeft' ? -1 : 1);
    else if (event.key === 'n') this.nextMatter();
    else if (event.key === 'Enter') this.focusOn(event, '.candidates button:not(:disabled)');
    else if (event.key === 'm') this.focusOn(event, '#entry-note');
    else if (event.key === 'l') this.desk.toggleLock();
    else if (event.key === 's') this.desk.swap();
    else if (event.key === 'Escape') this.desk.dropSwap();
    else if (event.key === 'Delete' && event.shiftKey) this.removeEntry();
    else if (event.key === 'Delete') this.desk.openSlot();
  }

  /** Removes the chosen entry; the address follows to the next one. */
  protected removeEntry(): void {
    this.desk.remove();
    const next = this.desk.activeId();
    if (next !== null) this.go(next);
    this.focusList();
  }

  private moveEntry(event: Event, step: 1 | -1): void {
    event.preventDefault();
    this.desk.move(step);
    this.show(this.desk.active());
  }

  private step(event: Event, step: number): void {
    event.preventDefault();
    const row = this.desk.entryAway(step);
    if (!row) return;
    this.go(row.id);
    this.show(this.desk.active());
  }

  protected nextMatter(): void {
    const next = this.desk.nextMatter();
    if (!next) return;
    this.go(next.id);
    this.show(this.desk.active(), true);
  }

  private focusOn(event: Event, selector: string): void {
    event.preventDefault();
    this.host.nativeElement.querySelector<HTMLElement>(selector)?.focus();
  }

  protected replace(itemId: string | null): void {
    this.desk.replace(itemId);
    this.focusList();
  }

  protected focusList(): void {
    this.host.nativeElement.querySelector<HTMLElement>('.rows')?.focus();
  }

  /** What stands in the slot that is marked for a swap. */
  protected readonly swapTitle = computed(() => {
    const id = this.desk.swapId();
    const row = id === null ? null : this.desk.rows().find((one) => one.id === id);
    return row?.kind === 'entry' ? (row.item?.title ?? 'Deleted item') : null;
  });

  protected clock(ms: number): string {
    return formatAirTime(ms, this.timeZone());
  }

  protected length(ms: number): string {
    return formatDuration(ms);
  }

  protected two(value: number): string {
    return String(value).padStart(2, '0');
  }

  protected off(overMs: number): string {
    if (Math.abs(overMs) < 1000) return 'ends on the hour';
    return `${formatDuration(Math.abs(overMs))} ${overMs > 0 ? 'over' : 'under'}`;
  }

  protected readonly longDate = computed(() => {
    const date = this.date();
    return date && isDate(date) ? dayYearText(date) : 'No such date';
  });

  protected percent(progress: number): number {
    return Math.round(progress * 100);
  }

  protected open(row: EntryRow): boolean {
    return isOpen(row.entry);
  }

  protected readonly flowPath = flowPath;
  protected readonly flowX = flowX;
}
