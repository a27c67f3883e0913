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
import { InputText } from 'primeng/inputtext';
import { ButtonDirective } from 'primeng/button';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { Router, RouterLink } from '@angular/router';
import type { AiredPlay } from '@fuller/contracts';
import { addDays, expandDay, formatAirTime, formatDuration, isDate, type DailyLog } from '@fuller/core';
import { Store } from '@ngrx/store';
import { Popover } from 'primeng/popover';
import { ProgressBar } from 'primeng/progressbar';
import { debounceTime, filter, merge, tap } from 'rxjs';
import { ClockNames } from '../clocks/clock-names';
import { StaleLogs } from '../clocks/stale-logs';
import { KeysHelp } from '../frame/keys-help';
import { Api } from '../shared/api/api';
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
import { LogDocument } from './log-document';
import { RuleNamesOfStation } from '../rules/rule-names';
import { isMatter, isOpen, isStrained, logRows, type EntryRow, type LogRow } from './log-model';

const ROW_PX = { comfortable: 30, dense: 25 };
const PAGE = 15;

/** The log desk: a day as hours and rows, what strains it, and what could stand instead. */
@Component({
  selector: 'f-logs-page',
  imports: [
    ButtonDirective,
    InputText,
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
  providers: [DeskEngine, LogDocument],
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
  private readonly words = inject(RuleNamesOfStation);
  protected readonly rules = this.store.selectSignal(catalogueFeature.selectRuleMap);
  private readonly categories = this.store.selectSignal(catalogueFeature.selectCategoryMap);
  private readonly plan = this.store.selectSignal(catalogueFeature.selectAirPlan);
  private readonly clockNames = inject(ClockNames);
  private readonly jobs = this.store.selectSignal(jobsFeature.selectAllJobs);
  private readonly document = inject(LogDocument);
  protected readonly view = this.document.view;
  protected readonly state = this.document.state;
  protected readonly message = this.document.message;
  /** What a day without a log has played. */
  protected readonly aired = signal<readonly AiredPlay[]>([]);
  private readonly model = computed(() => {
    const view = this.view();
    return view
      ? logRows(view, { categories: this.categories(), rules: this.rules(), words: this.words.names() })
      : null;
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
      strained: rows.filter(isStrained).length,
      wishes: rows.filter((row) => row.strains.length > 0 && !isStrained(row)).length,
      silences: this.rows().filter((row) => row.kind === 'silence').length,
    };
  });
  protected readonly running = computed(
    () =>
      this.jobs().find(
        (job) => job.kind === 'generate' && job.state === 'running' && job.stationId === this.stationId(),
      ) ?? null,
  );
  protected readonly past = computed(() => (this.date() ?? '') < (this.station()?.today ?? ''));
  protected readonly rowPx = computed(() => ROW_PX[this.looks.density()]);
  private readonly viewport = viewChild(CdkVirtualScrollViewport);

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
        { keys: ['m'], does: 'write a note' },
        { keys: ['←', '→'], does: 'the day before, the day after' },
      ],
    });
    effect(() => {
      const [stationId, date, today] = [this.stationId(), this.date(), this.station()?.today];
      untracked(() => {
        if (!date && today) void this.router.navigate(['/', stationId, 'logs', today], { replaceUrl: true });
        else if (date) void this.load(stationId, date);
      });
    });
    const events = inject(ServerEvents);
    events.events
      .pipe(
        filter((event) => event.type === 'log'),
        takeUntilDestroyed(),
      )
      .subscribe((event) => this.document.take(event));
    merge(
      events.resumed,
      events.events.pipe(
        filter((event) => event.type === 'changed' && (event.what.includes('logs') || event.what.includes('library'))),
      ),
    )
      .pipe(
        tap(() => this.engine.forget()),
        debounceTime(50),
        takeUntilDestroyed(),
      )
      .subscribe(() => void this.document.reload());
  }

  private async load(stationId: string, date: string): Promise<void> {
    this.aired.set([]);
    if (!(await this.document.open(stationId, date))) return;
    if (this.state() === 'none') {
      if (date <= (this.station()?.today ?? ''))
        this.aired.set(await this.api.aired({ stationId, date }).catch(() => []));
      return;
    }
    setTimeout(() => {
      if (!this.entry() && date === this.station()?.today) this.goNow();
      else this.show(this.active(), true);
      if (document.activeElement === document.body) this.focusList();
    });
  }

  /** Today begins at what is on the air. */
  private goNow(): void {
    const now = Date.now();
    const rows = this.rows();
    const index = rows.findLastIndex((row) => row.kind === 'entry' && row.startMs <= now && row.durationMs > 0);
    const row = rows[index];
    if (!row) return;
    this.activeId.set(row.id);
    this.show(index, true);
  }

  /** What the lines of this day's clocks ask for before it is generated. */
  protected readonly questions = computed(() => {
    const [plan, date, station] = [this.plan(), this.date(), this.station()];
    if (
      !plan ||
      !date ||
      !isDate(date) ||
      !station ||
      !plan.clocks.some(({ lines }) => lines.some((line) => line.kind === 'pick' && line.ask))
    )
      return [];
    const lines = expandDay(date, station.timeZone, plan, this.clockNames.lengths()).flatMap((hour) => hour.lines);
    return [...new Set(lines.flatMap(({ line }) => (line.kind === 'pick' && line.ask ? [line.ask] : [])))];
  });

  protected answersIn(event: Event): Record<string, string> {
    const entries = [...new FormData(event.target as HTMLFormElement)].map(
      ([question, answer]) => [question, String(answer).trim()] as const,
    );
    return Object.fromEntries(entries.filter(([, answer]) => answer !== ''));
  }

  protected generate(
    days: number,
    only: 'all' | 'open',
    more: { answers?: Record<string, string>; replaceByHand?: true } = {},
  ): void {
    void this.runs.start(this.date()!, days, only, more);
  }

  protected cancelRun(): void {
    const job = this.running();
    if (job) void this.api.cancelJob({ id: job.id }).catch((error: unknown) => this.changes.tell(error));
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
    if (date && isDate(date)) void this.router.navigate(['/', this.stationId(), 'logs', addDays(date, step)]);
  }

  private show(index: number, atTop = false): void {
    const viewport = this.viewport();
    if (!viewport || index < 0) return;
    const size = this.rowPx();
    const top = index * size;
    const offset = viewport.measureScrollOffset('top');
    if (atTop) viewport.scrollToOffset(Math.max(0, top - size * 3));
    else if (top < offset + size) viewport.scrollToOffset(Math.max(0, top - size));
    else if (top + size > offset + viewport.getViewportSize())
      viewport.scrollToOffset(top + size - viewport.getViewportSize());
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
    while (rows[index]!.kind !== 'entry' && index + Math.sign(step) >= 0 && index + Math.sign(step) < rows.length)
      index += Math.sign(step);
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

  /** What a key does is done to the entry that is chosen when it is pressed, as it then looks. */
  private turnLock(): void {
    const entry = this.chosen()?.entry;
    if (entry?.kind === 'pick' && entry.itemId !== null)
      this.document.edit({ type: 'lock', entryId: entry.id, locked: !entry.locked });
  }

  private openSlot(): void {
    const entry = this.chosen()?.entry;
    if (entry?.kind === 'pick' && entry.itemId !== null && !entry.locked)
      this.document.edit({ type: 'open', entryId: entry.id });
  }

  protected replace(itemId: string | null): void {
    const entryId = this.chosen()!.id;
    this.document.edit(itemId === null ? { type: 'open', entryId } : { type: 'replace', entryId, itemId });
    this.focusList();
  }

  protected lock(locked: boolean): void {
    this.document.edit({ type: 'lock', entryId: this.chosen()!.id, locked });
  }

  protected note(note: string): void {
    this.document.edit({ type: 'note', entryId: this.chosen()!.id, note });
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

  protected clock(ms: number): string {
    return formatAirTime(ms, this.station()!.timeZone);
  }

  protected off(overMs: number): string {
    if (Math.abs(overMs) < 1000) return 'ends on the hour';
    return `${formatDuration(Math.abs(overMs))} ${overMs > 0 ? 'over' : 'under'}`;
  }

  protected longDate(): string {
    return this.date() && isDate(this.date()!) ? dayYearText(this.date()!) : 'No such date';
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
