import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  ElementRef,
  inject,
  input,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { DragDropModule } from 'primeng/dragdrop';
import { ButtonDirective } from 'primeng/button';
import { Router, RouterLink } from '@angular/router';
import { addDays, formatAirTime, formatDuration, isDate } from '@fuller/core';
import { Scroller } from 'primeng/scroller';
import { StaleLogs } from '../clocks/stale-logs';
import { KeysHelp } from '../frame/keys-help';
import { reloadOn } from '../shared/api/reload-on';
import { Looks } from '../shared/looks';
import { JobWatch } from '../state/job-watch';
import { Band } from '../shared/ui/band';
import { Burr } from '../shared/ui/burr';
import { EmptyState } from '../shared/ui/empty-state';
import { Icon } from '../shared/ui/icon';
import { Inspector } from '../shared/ui/inspector';
import { AddEntry } from './add-entry';
import { AttendedBar } from './attended-bar';
import { AttendedDesk } from './attended.store';
import { DayHours } from './day-hours';
import { DeskBar } from './desk-bar';
import { DESK_KEYS } from './desk-keys';
import { DeskEngine } from './desk-engine';
import { EntryPanel } from './entry-panel';
import { flowPath, flowX } from './flow-line';
import { DeskHead } from './desk-head';
import { GeneratePanel, type RunRequest } from './generate-panel';
import { LogCompareView } from './log-compare';
import { LogCompare } from './log-compare.store';
import { DeskEdits } from './desk-edits';
import { LogDesk } from './log-desk.store';
import { LogPrint } from './log-print';
import { LogVersions } from './log-versions';
import { insideWords, offWords, twoDigits } from './hour-words';
import { Presence } from './presence';
import { LogDocument } from './log-document';
import { isOpen, type EntryRow, type HourRow } from './log-model';

const ROW_PX = { comfortable: 30, dense: 25 };
const PAGE = 15;
const FRAME_MS = 16;
const TICK_MS = 5000;
/** Two seconds; a list that is not shown by then is not scrolled. */
const MOST_FRAMES = 120;

/** The log desk: a day as hours and rows, what strains it, and what could stand instead. */
@Component({
  selector: 'f-logs-page',
  imports: [
    ButtonDirective,
    DragDropModule,
    AddEntry,
    AttendedBar,
    DeskBar,
    DeskHead,
    GeneratePanel,
    LogCompareView,
    LogPrint,
    LogVersions,
    Scroller,
    RouterLink,
    DayHours,
    EntryPanel,
    StaleLogs,
    Inspector,
    Band,
    Burr,
    Icon,
    EmptyState,
  ],
  templateUrl: './logs-page.html',
  styleUrl: './logs-page.scss',
  providers: [DeskEngine, LogDocument, LogDesk, DeskEdits, LogCompare, AttendedDesk, Presence],
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class LogsPage {
  protected readonly desk = inject(LogDesk);
  protected readonly edits = inject(DeskEdits);
  protected readonly attended = inject(AttendedDesk);
  protected readonly compare = inject(LogCompare);
  protected readonly presence = inject(Presence);
  private readonly panel = viewChild(EntryPanel);
  private readonly router = inject(Router);
  private readonly looks = inject(Looks);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  readonly stationId = input.required<string>();
  readonly date = input<string>();
  readonly entry = input<string>();
  /** A preview to show beside the day, by its job. */
  readonly preview = input<string>();
  /** An instant to open the day at, UTC epoch milliseconds: what airs then is selected. */
  readonly at = input<string>();

  protected readonly rowPx = computed(() => ROW_PX[this.looks.density()]);
  private readonly timeZone = computed(() => this.desk.station()?.timeZone ?? 'UTC');
  /** The day is not opened again because something else of the station has changed. */
  private readonly today = computed(() => this.desk.station()?.today);
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
    inject(KeysHelp).place.set({ name: 'Logs', keys: DESK_KEYS });
    effect(() => {
      const [stationId, date, entryId] = [this.stationId(), this.date(), this.desk.activeId()];
      untracked(() => {
        if (date) this.presence.at(stationId, date, entryId);
      });
    });
    effect(() => {
      const stop = this.attended.stop();
      if (stop) untracked(() => this.comeTo(stop.entryId));
    });
    effect(() => {
      const [id, status] = [this.preview(), this.desk.status()];
      if (id !== undefined && (status === 'ready' || status === 'none'))
        untracked(() => void this.compare.showPreview(id).then(() => this.forgetPreview()));
    });
    reloadOn(['logs'], () => this.attended.reload());
    const ticking = setInterval(() => this.desk.today() && this.desk.tick(), TICK_MS);
    inject(DestroyRef).onDestroy(() => clearInterval(ticking));
    effect(() => {
      const entry = this.entry();
      untracked(() => this.desk.choose(entry ?? null));
    });
    effect(() => {
      const [stationId, date, today] = [this.stationId(), this.date(), this.today()];
      untracked(() => {
        if (!date && today) void this.router.navigate(['/', stationId, 'logs', today], { replaceUrl: true });
        else if (date) void this.load(stationId, date);
      });
    });
  }

  /** Shows the slot an attended run waits at. */
  private comeTo(entryId: string): void {
    this.go(entryId);
    setTimeout(() => {
      this.showChosen();
      if (document.activeElement === document.body) this.focusList();
    });
  }

  /** Once it is shown the address is that of the day again. */
  private forgetPreview(): void {
    void this.router.navigate([], { queryParams: { preview: null }, queryParamsHandling: 'merge', replaceUrl: true });
  }

  private async load(stationId: string, date: string): Promise<void> {
    this.compare.begin(stationId, date);
    void this.attended.open(stationId, date);
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

  protected go(id: string): void {
    this.desk.choose(id);
    void this.router.navigate([], { queryParams: { entry: id }, replaceUrl: true });
  }

  protected goHour(id: string): void {
    const hour = this.desk.allRows().find((row) => row.id === id);
    if (hour?.kind !== 'hour') return;
    this.desk.openHour(hour.hour.index);
    const rows = this.desk.rows();
    const index = rows.findIndex((row) => row.id === id);
    if (index < 0) return;
    const first = rows[index + 1];
    if (first?.kind === 'entry') this.go(first.id);
    this.scroller()?.scrollTo({ top: index * this.rowPx() });
  }

  protected showChosen(): void {
    const row = this.desk.allRows().find(({ id }) => id === this.desk.activeId());
    if (row?.kind === 'entry') this.desk.openHour(row.hourIndex);
    this.show(this.desk.active(), true);
  }

  protected clickRow(event: MouseEvent, id: string): void {
    if (event.shiftKey) this.desk.pickTo(id);
    else if (event.ctrlKey || event.metaKey) this.desk.pickAlso(id);
    else this.go(id);
    this.focusList();
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
    if (event.ctrlKey || event.metaKey) return this.onCtrlKey(event);
    if (event.altKey) {
      if (event.key === 'ArrowUp' || event.key === 'ArrowDown') this.moveEntry(event, event.key === 'ArrowUp' ? -1 : 1);
      return;
    }
    const step = { ArrowDown: 1, ArrowUp: -1, PageDown: PAGE, PageUp: -PAGE }[event.key];
    if (step !== undefined) return event.shiftKey ? this.stretch(event, step) : this.step(event, step);
    this.plainKeys[event.key]?.(event);
  }

  /** What a key alone does. */
  private readonly plainKeys: Readonly<Record<string, (event: KeyboardEvent) => void>> = {
    ArrowLeft: () => this.goDay(-1),
    ArrowRight: () => this.goDay(1),
    n: () => this.nextMatter(),
    Enter: (event) => void this.focusOn(event, '.candidates button:not(:disabled)'),
    m: (event) => void this.focusOn(event, '#entry-note'),
    f: (event) => void this.focusOn(event, '#desk-find'),
    l: () => this.edits.toggleLock(),
    s: () => this.edits.swap(),
    i: (event) => this.openAdd(event),
    p: () => this.panel()?.playEntry(),
    P: () => this.panel()?.playJoin(),
    c: () => this.turnHour(),
    C: () => this.desk.turnAllHours(),
    w: () => this.goToStop(),
    x: () => this.attended.stop() && void this.attended.step({ do: 'skip', rulesOff: [...this.desk.rulesOff()] }),
    b: () => this.attended.run()?.decisions.length && void this.attended.step({ do: 'back' }),
    Escape: () => this.escape(),
    Delete: (event) => (event.shiftKey ? this.removeEntry() : this.edits.openSlot()),
  };

  private onCtrlKey(event: KeyboardEvent): void {
    const key = event.key.toLowerCase();
    if (key === 'c') this.edits.copy();
    else if (key === 'x' && this.edits.copy() > 0) this.removeEntry();
    else if (key === 'v' && this.edits.paste() > 0) event.preventDefault();
  }

  private openAdd(event: Event): void {
    event.preventDefault();
    if (this.desk.side() !== 'add') this.desk.show('add');
  }

  private turnHour(): void {
    const index = this.desk.currentHour();
    if (index < 0) return;
    this.desk.turnHour(index);
    const head = this.desk.rows().findIndex((row) => row.kind === 'hour' && row.hour.index === index);
    this.show(head);
  }

  private goToStop(): void {
    const stop = this.attended.stop();
    if (!stop) return;
    this.go(stop.entryId);
    this.showChosen();
  }

  private escape(): void {
    if (this.desk.pickedRows().length > 0) this.desk.unpick();
    else if (this.desk.side() !== 'entry') this.desk.show('entry');
    else this.edits.dropSwap();
  }

  /** Chooses further entries, from where the stretch began. */
  private stretch(event: Event, step: number): void {
    event.preventDefault();
    const row = this.desk.entryAway(step);
    if (!row) return;
    this.desk.pickTo(row.id);
    this.show(this.desk.active());
  }

  /** Something was put in, or a run has begun: the list has the focus again, once it is there. */
  protected async added(): Promise<void> {
    this.desk.show('entry');
    await this.listed();
    this.showChosen();
    this.focusList();
  }

  /** The entry or hour a dragged entry is over. */
  protected readonly overId = signal<string | null>(null);

  protected startDrag(row: EntryRow): void {
    if (!this.isPicked(row.id)) this.go(row.id);
  }

  protected dropOn(row: EntryRow): void {
    this.overId.set(null);
    this.edits.moveTo({ hourIndex: row.hourIndex, beforeId: row.id });
  }

  /** At the head of an hour. */
  protected dropOnHour(index: number): void {
    this.overId.set(null);
    this.edits.moveTo({ hourIndex: index, beforeId: this.desk.log()?.hours[index]?.entries[0]?.id ?? null });
  }

  /** Starts a run as it was set up; a preview is shown beside the log when it is there. */
  protected async run({ request, preview }: { request: RunRequest; preview: boolean }): Promise<void> {
    this.desk.show('entry');
    const job = await this.desk.generate({ ...request, ...(preview ? { preview: true as const } : {}) });
    if (!job || !preview) return;
    const ended = await this.jobs.end(job);
    if (ended.state === 'done') await this.compare.showPreview(job.id);
  }

  private readonly jobs = inject(JobWatch);

  protected isPicked(id: string): boolean {
    return this.pickedIds().has(id);
  }
  private readonly pickedIds = computed(() => new Set(this.desk.pickedRows().map(({ id }) => id)));

  protected hasAired({ startMs, durationMs }: EntryRow): boolean {
    return this.desk.today() && startMs + durationMs <= this.desk.nowMs();
  }

  protected isOnAir({ startMs, durationMs }: EntryRow): boolean {
    return (
      this.desk.today() && durationMs > 0 && startMs <= this.desk.nowMs() && startMs + durationMs > this.desk.nowMs()
    );
  }

  protected isCollapsed({ hour }: HourRow): boolean {
    return !this.desk.isFiltering() && this.desk.collapsed().includes(hour.index);
  }

  /** Removes the chosen entry; the address follows to the next one. */
  protected removeEntry(): void {
    this.edits.remove();
    const next = this.desk.activeId();
    if (next !== null) this.go(next);
    this.focusList();
  }

  private moveEntry(event: Event, step: 1 | -1): void {
    event.preventDefault();
    this.edits.move(step);
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

  /** Candidates may still be on their way when the key is pressed. */
  private async focusOn(event: Event, selector: string): Promise<void> {
    event.preventDefault();
    const id = this.desk.activeId();
    for (let frame = 0; frame < MOST_FRAMES && this.desk.activeId() === id; frame++) {
      const found = this.host.nativeElement.querySelector<HTMLElement>(selector);
      if (found) return found.focus();
      await new Promise((resolve) => setTimeout(resolve, FRAME_MS));
    }
  }

  /** Puts an item into the chosen slot; where an attended run waits there, that is its decision. */
  protected replace(itemId: string | null): void {
    const stop = this.attended.stop();
    if (itemId !== null && stop && stop.entryId === this.desk.activeId())
      void this.attended.step({ do: 'take', itemId, rulesOff: [...this.desk.rulesOff()] });
    else this.edits.replace(itemId);
    this.focusList();
  }

  /** Once the field that was left has kept its text. */
  protected backToList(): void {
    setTimeout(() => this.focusList());
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

  protected readonly off = offWords;
  protected readonly two = twoDigits;
  protected readonly insideWords = insideWords;

  protected open(row: EntryRow): boolean {
    return isOpen(row.entry);
  }

  protected readonly flowPath = flowPath;
  protected readonly flowX = flowX;
}
