import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  ElementRef,
  inject,
  input,
  untracked,
  viewChild,
} from '@angular/core';
import { SmallButton } from '../shared/ui/small-button';
import { Router, RouterLink } from '@angular/router';
import { addDays, isDate } from '@fuller/core';
import { StaleLogs } from '../clocks/stale-logs';
import { KeysHelp } from '../frame/keys-help';
import { reloadOn } from '../shared/api/reload-on';
import { JobWatch } from '../state/job-watch';
import { BeginHere } from '../shared/begin-here';
import { EmptyState } from '../shared/ui/empty-state';
import { Inspector } from '../shared/ui/inspector';
import { AddEntry } from './add-entry';
import { AttendedBar } from './attended-bar';
import { AttendedDesk } from './attended.store';
import { BetterLog } from './better-log';
import { DayHours } from './day-hours';
import { DeskDays } from './desk-days';
import { DeskBar } from './desk-bar';
import { DESK_KEYS } from './desk-keys';
import { DeskEngine } from './desk-engine';
import { EntryPanel } from './entry-panel';
import { DeskHead } from './desk-head';
import { GeneratePanel, type RunRequest } from './generate-panel';
import { LogCompareView } from './log-compare';
import { LogCompare } from './log-compare.store';
import { AiredDay } from './aired-day';
import { DeskEdits } from './desk-edits';
import { LogDesk } from './log-desk.store';
import { LogList } from './log-list';
import type { EntryRow } from './log-model';
import { LogPrint } from './log-print';
import { LogVersions } from './log-versions';
import { Presence } from './presence';
import { viewOrder, type ViewOrder } from './view-order';
import { LogDocument } from './log-document';
import { May } from '../shared/session/may';

const PAGE = 15;
const FRAME_MS = 16;
const TICK_MS = 5000;
/** Two seconds. */
const MOST_FRAMES = 120;

/** The log desk: a day as hours and rows, what strains it, and what could stand instead. */
@Component({
  selector: 'f-logs-page',
  imports: [
    BeginHere,
    May,
    AiredDay,
    SmallButton,
    AddEntry,
    AttendedBar,
    DeskBar,
    DeskHead,
    GeneratePanel,
    LogCompareView,
    LogPrint,
    LogVersions,
    LogList,
    RouterLink,
    DayHours,
    EntryPanel,
    StaleLogs,
    Inspector,
    EmptyState,
  ],
  templateUrl: './logs-page.html',
  styleUrl: './logs-page.scss',
  providers: [BetterLog, DeskEngine, LogDocument, LogDesk, DeskDays, DeskEdits, LogCompare, AttendedDesk, Presence],
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class LogsPage {
  protected readonly desk = inject(LogDesk);
  protected readonly edits = inject(DeskEdits);
  protected readonly attended = inject(AttendedDesk);
  protected readonly compare = inject(LogCompare);
  protected readonly shown = inject(DeskDays);
  private readonly presence = inject(Presence);
  private readonly panel = viewChild(EntryPanel);
  private readonly router = inject(Router);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  readonly stationId = input.required<string>();
  readonly date = input<string>();
  readonly entry = input<string>();
  /** A preview to show beside the day, by its job. */
  readonly preview = input<string>();
  /** Which days stand on the desk, and the date the view was begun with. */
  readonly days = input<string>();
  readonly from = input<string>();
  /** An instant to open the day at, UTC epoch milliseconds: what airs then is selected. */
  readonly at = input<string>();

  /** The day is not opened again because something else of the station has changed. */
  private readonly today = computed(() => this.desk.station()?.today);
  protected readonly order = computed(() => viewOrder(this.days()));
  private readonly list = viewChild(LogList);

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
      const [stationId, date, order, from] = [this.stationId(), this.date(), this.order(), this.from()];
      untracked(() => this.shown.lay(stationId, date ?? '', order, from));
    });
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

  /** The station whose day is open. */
  private opened = '';

  private async load(stationId: string, date: string): Promise<void> {
    this.compare.begin(stationId, date);
    void this.attended.open(stationId, date);
    this.shown.keep(this.opened, this.desk.view());
    this.opened = stationId;
    const known = this.shown.known(date);
    const opening = this.desk.openDay(stationId, date, known);
    if (known) this.list()?.show(this.desk.activeId());
    if (!(await opening) || this.desk.status() !== 'ready') return;
    await this.listed();
    if (date !== this.date()) return;
    if (!this.entry() && this.at()) this.goTo(Number(this.at()));
    else if (!this.entry() && date === this.desk.station()?.today) this.goTo(Date.now());
    else this.list()?.show(this.desk.activeId(), known ? 'nearest' : 'top');
    if (document.activeElement === document.body) this.focusList();
  }

  /** The list comes with the log, and takes some frames until it is as high as its rows. */
  private async listed(): Promise<void> {
    for (let frame = 0; frame < MOST_FRAMES && !this.list(); frame++)
      await new Promise((resolve) => setTimeout(resolve, FRAME_MS));
    await this.list()?.listed();
  }

  /** Selects what is on the air at an instant; today begins there. */
  private goTo(instantMs: number): void {
    const row = this.desk.entryAt(instantMs);
    if (!row) return;
    this.desk.choose(row.id);
    this.list()?.show(this.desk.activeId(), 'top');
  }

  protected go(id: string): void {
    this.desk.choose(id);
    void this.router.navigate([], {
      queryParams: { entry: id, at: null },
      queryParamsHandling: 'merge',
      replaceUrl: true,
    });
  }

  protected goHour(id: string): void {
    const hour = this.desk.allRows().find((row) => row.id === id);
    if (hour?.kind !== 'hour') return;
    this.desk.openHour(hour.hour.index);
    const rows = this.desk.rows();
    const first = rows[rows.findIndex((row) => row.id === id) + 1];
    if (first?.kind === 'entry') this.go(first.id);
    this.list()?.show(id, 'top');
  }

  protected showChosen(): void {
    const row = this.desk.allRows().find(({ id }) => id === this.desk.activeId());
    if (row?.kind === 'entry') this.desk.openHour(row.hourIndex);
    this.list()?.show(this.desk.activeId(), 'top');
  }

  protected clickRow({ event, row: { id } }: { readonly event: MouseEvent; readonly row: EntryRow }): void {
    if (event.shiftKey) this.desk.pickTo(id);
    else if (event.ctrlKey || event.metaKey) this.desk.pickAlso(id);
    else this.go(id);
    this.focusList();
  }

  protected goDay(step: number): void {
    const date = this.date();
    if (date && isDate(date)) this.goToDay({ date: addDays(date, step), entryId: null });
  }

  /** Another day; the days that are shown stay where it is one of them. */
  protected goToDay({ date, entryId }: { readonly date: string; readonly entryId: string | null }): void {
    const dates = this.shown.dates();
    const from = dates.length > 1 && dates.includes(date) ? this.shown.begun : null;
    const days = this.order() === 'one' ? null : this.order();
    void this.router.navigate(['/', this.stationId(), 'logs', date], { queryParams: { entry: entryId, days, from } });
  }

  protected setOrder(order: ViewOrder): void {
    void this.router.navigate([], {
      queryParams: { days: order === 'one' ? null : order, from: null },
      queryParamsHandling: 'merge',
    });
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
    this.list()?.show(`hour-${index}`);
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
    this.list()?.show(this.desk.activeId());
  }

  /** Something was put in, or a run has begun: the list has the focus again, once it is there. */
  protected async added(): Promise<void> {
    this.desk.show('entry');
    await this.listed();
    this.showChosen();
    this.focusList();
  }

  protected startDrag(row: EntryRow): void {
    if (!this.desk.pickedRows().some(({ id }) => id === row.id)) this.go(row.id);
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
    this.list()?.show(this.desk.activeId());
  }

  private step(event: Event, step: number): void {
    event.preventDefault();
    const row = this.desk.entryAway(step);
    const beyond = !row || row.id === this.desk.activeId() ? this.shown.beyond(step) : null;
    if (beyond) return this.goToDay(beyond);
    if (!row) return;
    this.go(row.id);
    this.list()?.show(this.desk.activeId());
  }

  protected nextMatter(): void {
    const next = this.desk.nextMatter();
    if (!next) return;
    this.go(next.id);
    this.list()?.show(this.desk.activeId(), 'top');
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
    this.list()?.focus();
  }
}
