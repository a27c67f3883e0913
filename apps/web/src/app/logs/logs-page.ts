import { CdkFixedSizeVirtualScroll, CdkVirtualForOf, CdkVirtualScrollViewport } from '@angular/cdk/scrolling';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  ElementRef,
  inject,
  input,
  linkedSignal,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { Router, RouterLink } from '@angular/router';
import type { HandEdit, LogView, ServerEvent } from '@fuller/contracts';
import { addDays, applyEdit, byHand, expandDay, formatAirTime, formatDuration, type DailyLog } from '@fuller/core';
import { Store } from '@ngrx/store';
import { Popover } from 'primeng/popover';
import { ProgressBar } from 'primeng/progressbar';
import { debounceTime, filter, merge, tap } from 'rxjs';
import { ClockNames } from '../clocks/clock-names';
import { StaleLogs } from '../clocks/stale-logs';
import { KeysHelp } from '../frame/keys-help';
import { Api, ApiError, CLIENT_ID } from '../shared/api/api';
import { ServerEvents } from '../shared/api/server-events';
import { Looks } from '../shared/looks';
import { dayYearText } from '../shared/text/when';
import { Band } from '../shared/ui/band';
import { Burr } from '../shared/ui/burr';
import { EmptyState } from '../shared/ui/empty-state';
import { Icon } from '../shared/ui/icon';
import { Inspector } from '../shared/ui/inspector';
import { catalogueFeature } from '../state/catalogue.feature';
import { Changes } from '../state/changes';
import { GenerateRuns } from '../state/generate-runs';
import { jobsFeature } from '../state/jobs.feature';
import { DayHours } from './day-hours';
import { DeskEngine } from './desk-engine';
import { EntryPanel } from './entry-panel';
import { isMatter, isOpen, logRows, type EntryRow, type LogRow } from './log-model';

const ROW_PX = { comfortable: 30, dense: 25 };
const PAGE = 15;

/** The log desk: a day as hours and rows, what strains it, and what could stand instead. */
@Component({
  selector: 'f-logs-page',
  imports: [
    CdkVirtualScrollViewport,
    CdkVirtualForOf,
    CdkFixedSizeVirtualScroll,
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
  ],
  templateUrl: './logs-page.html',
  styleUrl: './logs-page.scss',
  providers: [DeskEngine],
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class LogsPage {
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  private readonly changes = inject(Changes);
  private readonly runs = inject(GenerateRuns);
  private readonly looks = inject(Looks);
  private readonly engine = inject(DeskEngine);
  private readonly store = inject(Store);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  readonly stationId = input.required<string>();
  readonly date = input<string>();
  readonly entry = input<string>();

  protected readonly station = this.store.selectSignal(catalogueFeature.selectStation);
  protected readonly rules = this.store.selectSignal(catalogueFeature.selectRuleMap);
  private readonly categories = this.store.selectSignal(catalogueFeature.selectCategoryMap);
  private readonly plan = this.store.selectSignal(catalogueFeature.selectAirPlan);
  private readonly clockNames = inject(ClockNames);
  private readonly jobs = this.store.selectSignal(jobsFeature.selectAllJobs);
  protected readonly view = signal<LogView | null>(null);
  protected readonly state = signal<'loading' | 'none' | 'ready' | 'failed'>('loading');
  protected readonly message = signal('');
  private readonly model = computed(() => {
    const view = this.view();
    return view ? logRows(view, { categories: this.categories(), rules: this.rules() }) : null;
  });
  protected readonly log = computed(() => (this.view()?.log ?? null) as DailyLog | null);
  protected readonly rows = computed<LogRow[]>(() => this.model()?.rows ?? []);
  protected readonly activeId = linkedSignal(() => this.entry() ?? null);
  protected readonly active = computed(() => this.rows().findIndex((row) => row.id === this.activeId()));
  protected readonly chosen = computed<EntryRow | null>(() => {
    const row = this.rows()[this.active()];
    return row?.kind === 'entry' ? row : null;
  });
  protected readonly currentHour = computed(() => {
    const row = this.rows()[this.active()];
    return row?.kind === 'hour' ? row.hour.index : (row?.hourIndex ?? -1);
  });
  private readonly matters = computed(() => this.rows().filter(isMatter));
  protected readonly tally = computed(() => {
    const rows = this.rows().filter((row): row is EntryRow => row.kind === 'entry');
    return {
      slots: rows.filter((row) => row.entry.kind === 'pick' && !row.entry.out).length,
      open: rows.filter((row) => isOpen(row.entry)).length,
      strained: rows.filter((row) => row.strains.length > 0).length,
    };
  });
  protected readonly running = computed(
    () => this.jobs().find((job) => job.kind === 'generate' && job.state === 'running' && job.stationId === this.stationId()) ?? null,
  );
  protected readonly past = computed(() => (this.date() ?? '') < (this.station()?.today ?? ''));
  protected readonly rowPx = computed(() => ROW_PX[this.looks.density()]);
  private readonly viewport = viewChild(CdkVirtualScrollViewport);
  private saved: Promise<void> = Promise.resolve();
  /** Edits of this page that the server has yet to announce. */
  private echoes = 0;

  constructor() {
    inject(KeysHelp).place.set({
      name: 'Logs',
      keys: [
        { keys: ['↑', '↓'], does: 'move between entries' },
        { keys: ['Enter'], does: 'candidates for the slot' },
        { keys: ['n'], does: 'next matter to look at' },
        { keys: ['l'], does: 'lock or unlock' },
        { keys: ['Delete'], does: 'open the slot' },
        { keys: ['m'], does: 'write a note' },
        { keys: ['←', '→'], does: 'the day before, the day after' },
      ],
    });
    effect(() => {
      const [stationId, date, today] = [this.stationId(), this.date(), this.station()?.today];
      untracked(() => {
        if (!date && today) void this.router.navigate(['/', stationId, 'logs', today], { replaceUrl: true });
        else if (date) void this.load(stationId, date, true);
      });
    });
    const events = inject(ServerEvents);
    merge(
      events.resumed,
      events.events.pipe(filter((event) => event.type === 'changed' && (event.what.includes('logs') || event.what.includes('library')))),
    )
      .pipe(
        tap((event) => this.noteChange(event)),
        debounceTime(50),
        takeUntilDestroyed(),
      )
      .subscribe(() => void this.load(this.stationId(), this.date()!, false));
  }

  /** What the engine judges by has changed, unless this page's own edit of the day is all there is to it. */
  private noteChange(event: ServerEvent | void): void {
    if (this.echoes > 0 && event?.type === 'changed' && event.clientId === CLIENT_ID && event.what.every((one) => one === 'logs')) this.echoes--;
    else this.engine.forget();
  }

  private async load(stationId: string, date: string, anew: boolean): Promise<void> {
    if (anew) {
      this.view.set(null);
      this.state.set('loading');
    }
    try {
      const view = await this.api.log(stationId, date);
      if (date !== this.date() || stationId !== this.stationId()) return;
      // Asked for before an edit and answered after it: what the edit brought is newer.
      if (view.revision >= (this.view()?.revision ?? 0)) this.view.set(view);
      this.state.set('ready');
      if (anew) {
        setTimeout(() => {
          this.show(this.active(), true);
          if (document.activeElement === document.body) this.focusList();
        });
      }
    } catch (error) {
      if (date !== this.date()) return;
      this.view.set(null);
      const none = error instanceof ApiError && error.code === 'NO_LOG';
      this.state.set(none ? 'none' : 'failed');
      this.message.set(error instanceof Error ? error.message : String(error));
    }
  }

  /** What the lines of this day's clocks ask for before it is generated. */
  protected readonly questions = computed(() => {
    const [plan, date, station] = [this.plan(), this.date(), this.station()];
    if (!plan || !date || !station || !plan.clocks.some(({ lines }) => lines.some((line) => line.kind === 'pick' && line.ask))) return [];
    const lines = expandDay(date, station.timeZone, plan, this.clockNames.lengths()).flatMap((hour) => hour.lines);
    return [...new Set(lines.flatMap(({ line }) => (line.kind === 'pick' && line.ask ? [line.ask] : [])))];
  });

  protected answersIn(event: Event): Record<string, string> {
    const entries = [...new FormData(event.target as HTMLFormElement)].map(([question, answer]) => [question, String(answer).trim()] as const);
    return Object.fromEntries(entries.filter(([, answer]) => answer !== ''));
  }

  protected generate(days: number, only: 'all' | 'open', answers: Record<string, string> = {}): void {
    void this.runs.start(this.date()!, days, only, { answers });
  }

  protected cancelRun(): void {
    const job = this.running();
    if (job) void this.api.cancelJob(job.id).catch((error: unknown) => this.changes.tell(error));
  }

  protected go(id: string): void {
    this.activeId.set(id);
    void this.router.navigate([], { queryParams: { entry: id }, replaceUrl: true });
  }

  protected goHour(id: string): void {
    const index = this.rows().findIndex((row) => row.id === id);
    const first = this.rows()[index + 1];
    if (first?.kind === 'entry') this.go(first.id);
    this.viewport()?.scrollToIndex(index);
  }

  protected goDay(step: number): void {
    const date = this.date();
    if (date) void this.router.navigate(['/', this.stationId(), 'logs', addDays(date, step)]);
  }

  private show(index: number, atTop = false): void {
    const viewport = this.viewport();
    if (!viewport || index < 0) return;
    const size = this.rowPx();
    const top = index * size;
    const offset = viewport.measureScrollOffset('top');
    if (atTop) viewport.scrollToOffset(Math.max(0, top - size * 3));
    else if (top < offset + size) viewport.scrollToOffset(Math.max(0, top - size));
    else if (top + size > offset + viewport.getViewportSize()) viewport.scrollToOffset(top + size - viewport.getViewportSize());
  }

  protected onKey(event: KeyboardEvent): void {
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    const step = { ArrowDown: 1, ArrowUp: -1, PageDown: PAGE, PageUp: -PAGE }[event.key];
    if (step !== undefined) this.step(event, step);
    else if (event.key === 'ArrowLeft' || event.key === 'ArrowRight') this.goDay(event.key === 'ArrowLeft' ? -1 : 1);
    else if (event.key === 'n') this.nextMatter();
    else if (event.key === 'Enter') this.toCandidates(event);
    else if (event.key === 'm') this.focusOn(event, '#entry-note');
    else if (event.key === 'l') this.turnLock();
    else if (event.key === 'Delete') this.openSlot();
  }

  private step(event: Event, step: number): void {
    event.preventDefault();
    const rows = this.rows();
    let index = Math.max(0, Math.min(rows.length - 1, this.active() + step));
    while (rows[index]?.kind === 'hour' && index + Math.sign(step) >= 0 && index + Math.sign(step) < rows.length) index += Math.sign(step);
    const row = rows[index];
    if (row?.kind !== 'entry') return;
    this.go(row.id);
    this.show(index);
  }

  protected nextMatter(): void {
    const matters = this.matters();
    const next = matters.find((row) => this.rows().indexOf(row) > this.active()) ?? matters[0];
    if (!next) return;
    this.go(next.id);
    this.show(this.rows().indexOf(next), true);
  }

  private toCandidates(event: Event): void {
    this.focusOn(event, '.candidates button:not(:disabled)');
  }

  private focusOn(event: Event, selector: string): void {
    event.preventDefault();
    this.host.nativeElement.querySelector<HTMLElement>(selector)?.focus();
  }

  private turnLock(): void {
    this.edit(() => {
      const entry = this.chosen()?.entry;
      return entry?.kind === 'pick' && entry.itemId !== null ? { type: 'lock', entryId: entry.id, locked: !entry.locked } : null;
    });
  }

  private openSlot(): void {
    this.edit(() => {
      const entry = this.chosen()?.entry;
      return entry?.kind === 'pick' && entry.itemId !== null && !entry.locked ? { type: 'replace', entryId: entry.id, itemId: null } : null;
    });
  }

  protected replace(itemId: string | null): void {
    const entryId = this.chosen()!.id;
    this.edit(() => ({ type: 'replace', entryId, itemId }));
    this.focusList();
  }

  protected lock(locked: boolean): void {
    const entryId = this.chosen()!.id;
    this.edit(() => ({ type: 'lock', entryId, locked }));
  }

  protected note(note: string): void {
    const entryId = this.chosen()!.id;
    this.edit(() => ({ type: 'note', entryId, note }));
  }

  /** One edit after another, each made from what the one before it left. */
  private edit(make: () => HandEdit | null): void {
    this.saved = this.saved.then(() => this.save(make));
  }

  private async save(make: () => HandEdit | null): Promise<void> {
    const view = this.view();
    const edit = view && make();
    if (!edit) return;
    this.echoes++;
    const answering = this.changes.run(this.api.editLog(this.stationId(), this.date()!, view.revision, edit));
    void this.foresee(view, edit);
    const answer = await answering;
    if (answer) this.view.set(answer);
    else {
      this.echoes--;
      await this.load(this.stationId(), this.date()!, false);
    }
  }

  /** Shows at once what an edit will make of the log; what the server answers takes its place. */
  private async foresee(view: LogView, edit: HandEdit): Promise<void> {
    const outcome = applyEdit(view.log as DailyLog, byHand(edit));
    if (!outcome.ok) return;
    try {
      const { strains, items } = await this.engine.judge(this.stationId(), outcome.log);
      const item = edit.type === 'replace' && edit.itemId !== null ? items.get(edit.itemId) : undefined;
      if (this.view() === view)
        this.view.set({ ...view, log: outcome.log as LogView['log'], strains, items: item ? [...view.items, item] : view.items });
    } catch {
      // The answer is on its way.
    }
  }

  private focusList(): void {
    this.host.nativeElement.querySelector<HTMLElement>('.rows')?.focus();
  }

  protected readonly track = (_index: number, row: LogRow): string => row.id;

  protected time(row: EntryRow): string {
    return formatAirTime(row.startMs, this.station()!.timeZone);
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

  protected longDate(): string {
    return this.date() ? dayYearText(this.date()!) : '';
  }

  protected percent(progress: number): number {
    return Math.round(progress * 100);
  }

  protected open(row: EntryRow): boolean {
    return isOpen(row.entry);
  }

  /** The piece of the flow line beside a row: tempo 1 is left, 5 is right. */
  protected flowPath({ flow }: EntryRow): string {
    if (flow.at === null) return flow.from !== null && flow.to !== null ? `M${x((flow.from + flow.to) / 2)} 0 V30` : '';
    const before = flow.from === null ? '' : `M${x((flow.from + flow.at) / 2)} 0 L${x(flow.at)} 15`;
    const after = flow.to === null ? '' : `M${x(flow.at)} 15 L${x((flow.to + flow.at) / 2)} 30`;
    return before + after;
  }

  protected flowAt(row: EntryRow): number {
    return x(row.flow.at!);
  }
}

function x(tempo: number): number {
  return 4 + ((tempo - 1) / 4) * 40;
}
