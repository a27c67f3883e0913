import { CdkDrag, type CdkDragDrop, CdkDragHandle, CdkDropList } from '@angular/cdk/drag-drop';
import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal, untracked } from '@angular/core';
import { SmallButton } from '../shared/ui/small-button';
import { ButtonDirective } from 'primeng/button';
import { Router, RouterLink } from '@angular/router';
import {
  bandColour,
  copyLines,
  drawAdvice,
  drawOf,
  expectedStarts,
  formatDuration,
  framedClock,
  GRAIN_MS,
  LONGEST_CLOCK_MS,
  mergeLines,
  nameKey,
  NO_FRAMING,
  parseDuration,
  type ClockLine,
  type ClockText as ReadText,
} from '@fuller/core';
import { FormsModule } from '@angular/forms';
import { Store } from '@ngrx/store';
import { Checkbox } from 'primeng/checkbox';
import { KeysHelp } from '../frame/keys-help';
import { Api } from '../shared/api/api';
import { plural } from '../shared/text/plural';
import { ColourPicker } from '../shared/ui/colour-picker';
import { BeginHere } from '../shared/begin-here';
import { EmptyState } from '../shared/ui/empty-state';
import { HourRibbon } from '../shared/ui/hour-ribbon';
import { HourRing } from '../shared/ui/hour-ring';
import { hourParts, type HourPart } from '../shared/ui/hour-shape';
import { Icon } from '../shared/ui/icon';
import { InlineEdit } from '../shared/ui/inline-edit';
import { NameForm } from '../shared/ui/name-form';
import { Inspector } from '../shared/ui/inspector';
import { catalogueFeature } from '../state/catalogue.feature';
import { Changes } from '../state/changes';
import { putOnClipboard, takeFromClipboard } from './clipboard';
import { ClockDraft, newLineId } from './clock-draft';
import { ClockNames } from './clock-names';
import { isFarOff, playedMs, totalWords } from './clock-totals';
import { ClockTally } from './clock-tally';
import { ClockText } from './clock-text';
import { LineAdder } from './line-adder';
import { LineSelection } from './line-selection.store';
import { LineInspector, type LineAmong } from './line-inspector';
import { LinePalette, type LineMade } from './line-palette';
import { adviceWords, KIND_WORDS, lineChoices } from './line-words';
import { StaleLogs } from './stale-logs';
import { WeekUse } from './week-use';
import { driftText, minuteText } from './start-words';
import { SharedMark } from '../shared/sharing/shared-mark';
import { SharingPanel } from '../shared/sharing/sharing-panel';
import { ForecastThis } from '../shared/forecast-this';
import { May } from '../shared/session/may';

/** The clocks, and the lines of one beside the picture of its hour. */
@Component({
  selector: 'f-clocks-page',
  imports: [
    BeginHere,
    ForecastThis,
    SharingPanel,
    SharedMark,
    May,
    SmallButton,
    ButtonDirective,
    NameForm,
    Checkbox,
    FormsModule,
    RouterLink,
    HourRing,
    HourRibbon,
    Icon,
    Inspector,
    InlineEdit,
    ColourPicker,
    EmptyState,
    LineAdder,
    LineInspector,
    LinePalette,
    ClockTally,
    ClockText,
    StaleLogs,
    CdkDropList,
    CdkDrag,
    CdkDragHandle,
  ],
  providers: [ClockDraft, LineSelection],
  templateUrl: './clocks-page.html',
  styleUrl: './clocks-page.scss',
  host: { '(document:keydown)': 'onPageKey($event)' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ClocksPage {
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  private readonly changes = inject(Changes);
  private readonly store = inject(Store);
  private readonly clockNames = inject(ClockNames);
  private readonly use = inject(WeekUse);
  protected readonly draft = inject(ClockDraft);
  protected readonly lines = inject(LineSelection);
  protected readonly kindWords = KIND_WORDS;
  readonly stationId = input.required<string>();
  readonly clockId = input<string>();
  readonly line = input<string>();
  /** `text` shows the clock as text. */
  readonly view = input<string>();
  protected readonly asText = computed(() => this.view() === 'text');

  protected readonly clocks = this.store.selectSignal(catalogueFeature.selectAllClocks);
  private readonly week = this.store.selectSignal(catalogueFeature.selectWeek);
  readonly new = input<string>();
  protected readonly making = signal(false);
  /** The clock as it airs: with what the station puts into every hour. */
  private readonly framed = computed(() => {
    const clock = this.draft.clock();
    if (!clock) return [];
    return framedClock(clock, this.week()?.framing ?? NO_FRAMING, this.clocks(), this.clockNames.lengths());
  });
  protected readonly shape = computed(() =>
    hourParts(this.framed(), this.clockNames.lengths(), this.clockNames.names(), this.lengthMs()),
  );
  private readonly expected = computed(
    () =>
      expectedStarts(
        this.framed().map(({ line }) => line),
        this.clockNames.lengths(),
        this.lengthMs(),
      ).lines,
  );
  private readonly lengthMs = computed(() => this.draft.clock()?.lengthMs ?? 3_600_000);
  protected readonly current = computed(() => {
    const ids = this.lines.selected();
    if (ids.size !== 1) return null;
    const index = this.framed().findIndex(({ line, from }) => !from && ids.has(line.id));
    const [framed, expected, part] = [this.framed()[index], this.expected()[index], this.shape().parts[index]];
    return framed && expected && part ? { line: framed.line, expected, part } : null;
  });
  /** What a row says beside its name, by the line's id. */
  protected readonly rows = computed(() => {
    const rows: Record<string, { choices: string; comment: string; count: number | null; advice: string }> = {};
    for (const line of this.draft.clock()?.lines ?? []) {
      const draw = drawOf(line);
      const count = draw ? this.clockNames.itemsFor(draw) : null;
      const slots = draw ? this.use.slotsOf(draw) : 0;
      const advice =
        draw && count !== null
          ? adviceWords(drawAdvice(count, slots, this.use.titleSeconds(draw.categoryId)), count, slots)
          : '';
      rows[line.id] = { choices: lineChoices(line), comment: line.comment, count, advice };
    }
    return rows;
  });
  /** The clock's own lines, for what a tease can announce. */
  protected readonly among = computed(() => {
    const lines = new Map((this.draft.clock()?.lines ?? []).map((line) => [line.id, line]));
    return this.shape()
      .parts.filter(({ from }) => !from)
      .map(({ lineId, label, kind }): LineAmong => {
        const line = lines.get(lineId);
        const theme = line?.kind === 'pick' ? line.theme : undefined;
        return { id: lineId, label, plays: kind === 'pick' || kind === 'item' || kind === 'moment', theme };
      });
  });
  protected readonly selectedMs = computed(() =>
    this.shape()
      .parts.filter((part) => !part.from && this.lines.selected().has(part.lineId))
      .reduce((sum, { durationMs }) => sum + durationMs, 0),
  );
  protected readonly playedMs = computed(() => playedMs(this.shape()));
  protected readonly totalWords = computed(() => totalWords(this.shape(), this.lengthMs()));
  protected readonly totalTitle = computed(
    () =>
      `Expected, give or take ${formatDuration(this.shape().unsureMs)}; the clock is ${formatDuration(this.lengthMs())} long`,
  );
  protected readonly far = computed(() => isFarOff(this.shape(), this.lengthMs()));
  protected readonly useWords = computed(() => {
    const clock = this.draft.clock();
    return clock ? `${plural(clock.lines.length, 'line')}. ${this.use.whereWords(clock.id)}` : '';
  });

  constructor() {
    effect(() => this.new() && untracked(() => this.making.set(true)));
    inject(KeysHelp).place.set({
      name: 'Clocks',
      keys: [
        { keys: ['↑', '↓'], does: 'move between lines; with Shift select' },
        { keys: ['Alt', '↑↓'], does: 'move the selected lines' },
        { keys: ['Enter'], does: 'go to the fields of the line' },
        { keys: ['a'], does: 'add a line' },
        { keys: ['Ctrl', 'C / V'], does: 'copy and paste lines, also into another clock' },
        { keys: ['Ctrl', 'A'], does: 'select every line; Ctrl and click one more' },
        { keys: ['Ctrl', 'D'], does: 'duplicate' },
        { keys: ['Delete'], does: 'delete the selected lines' },
      ],
    });
    effect(() => {
      const [asked, first] = [this.clockId(), this.clocks()[0]];
      untracked(() => {
        if (!asked && first)
          void this.router.navigate(['/', this.stationId(), 'clocks', first.id], { replaceUrl: true });
        this.draft.open(asked ?? null);
      });
    });
    effect(() => {
      const line = this.line();
      untracked(() => this.lines.only(line ? [line] : []));
    });
  }

  private readonly rings = computed(() => {
    const [lengths, names] = [this.clockNames.lengths(), this.clockNames.names()];
    return new Map(
      this.clocks().map(({ id, lines, lengthMs }) => [
        id,
        hourParts(
          lines.map((line) => ({ line })),
          lengths,
          names,
          lengthMs,
        ).parts,
      ]),
    );
  });

  protected ringOf({ id }: { id: string }): readonly HourPart[] {
    return id === this.clockId() ? this.shape().parts : (this.rings().get(id) ?? []);
  }

  protected hoursOf(id: string): string {
    return this.use.hoursWords(id);
  }

  protected readonly lengthFault = (text: string): string | null => {
    const ms = parseDuration(text);
    return ms === null || ms < GRAIN_MS || ms > LONGEST_CLOCK_MS || ms % GRAIN_MS
      ? 'Write five minutes or a multiple, like 60:00.'
      : null;
  };

  protected takeLength(text: string): void {
    const lengthMs = parseDuration(text);
    if (lengthMs !== null) this.draft.rename({ lengthMs });
  }

  protected keepText({ head, lines }: ReadText): void {
    const clock = this.draft.clock();
    if (!clock) return;
    const fault = head ? this.nameFault(head.name) : null;
    if (fault) return this.changes.tell(new Error(fault));
    const named = head
      ? { name: head.name, lengthMs: head.lengthMs, ...(head.colour ? { colour: head.colour } : {}) }
      : {};
    this.draft.rewrite(named, mergeLines(clock.lines, lines, newLineId));
  }

  protected choose(id: string, event?: MouseEvent | KeyboardEvent): void {
    if (this.lines.choose(id, event)) void this.router.navigate([], { queryParams: { line: id }, replaceUrl: true });
  }

  protected make(line: LineMade): void {
    this.lines.add({ ...line, id: newLineId() } as ClockLine);
  }

  /** `a` adds a line wherever on the page one is, in an empty clock too. */
  protected onPageKey(event: KeyboardEvent): void {
    const typing = event.target instanceof HTMLElement && /^(?:input|textarea|select)$/i.test(event.target.tagName);
    const plain = event.key === 'a' && !event.ctrlKey && !event.metaKey && !event.altKey;
    if (!plain || typing || event.defaultPrevented || this.asText() || (event.target as HTMLElement).isContentEditable)
      return;
    event.preventDefault();
    document.getElementById('add-line')?.focus();
  }

  protected onKey(event: KeyboardEvent): void {
    const clock = this.draft.clock();
    if (!clock || (event.target as HTMLElement).tagName === 'INPUT') return;
    const step = { ArrowDown: 1, ArrowUp: -1 }[event.key];
    if (step !== undefined && event.altKey) {
      event.preventDefault();
      this.lines.nudge(step);
    } else if (step !== undefined) {
      event.preventDefault();
      const next = this.lines.lineAway(step, event.shiftKey);
      if (next) this.choose(next.id, event);
      document.getElementById(`line-${next?.id}`)?.scrollIntoView({ block: 'nearest' });
    } else if (event.key === 'Delete' || event.key === 'Backspace') {
      event.preventDefault();
      this.lines.remove();
    } else if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'd') {
      event.preventDefault();
      this.lines.duplicate();
    } else if (event.key === 'a' && (event.ctrlKey || event.metaKey)) {
      event.preventDefault();
      this.lines.all();
    } else if (event.key === 'Enter') {
      document.querySelector<HTMLElement>('f-line-inspector input')?.focus();
    }
  }

  protected copy(event: ClipboardEvent): void {
    const lines = this.draft.clock()?.lines.filter((line) => this.lines.selected().has(line.id)) ?? [];
    if (this.asText() || lines.length === 0 || (event.target as HTMLElement).tagName === 'INPUT') return;
    event.preventDefault();
    putOnClipboard(event.clipboardData, lines, this.clockNames.book());
    if (event.type === 'cut') this.lines.remove();
  }

  protected paste(event: ClipboardEvent): void {
    if (this.asText() || (event.target as HTMLElement).tagName === 'INPUT' || !this.draft.clock()) return;
    const { lines, fault } = takeFromClipboard(event.clipboardData, this.clockNames.book());
    if (fault) this.changes.tell(new Error(fault));
    if (lines.length === 0) return;
    event.preventDefault();
    this.lines.paste(lines);
  }

  protected dropped({ previousIndex, currentIndex, previousContainer, container, item }: CdkDragDrop<unknown>): void {
    // What the station puts into the hour stands among the rows, and not among the lines.
    const placeOf = (row: number): number =>
      this.framed()
        .slice(0, row)
        .filter(({ from }) => !from).length;
    if (previousContainer !== container) {
      this.lines.add({ ...(item.data as LineMade), id: newLineId() } as ClockLine, placeOf(currentIndex));
      return;
    }
    this.lines.drop(placeOf(previousIndex), placeOf(currentIndex > previousIndex ? currentIndex + 1 : currentIndex));
  }

  /** A new clock begins with the lines of the open one. */
  protected readonly withLines = signal(false);

  protected openClock(id: string): Promise<boolean> {
    return this.router.navigate(['/', this.stationId(), 'clocks', id]);
  }

  protected readonly create = async (name: string): Promise<string | null> => {
    const source = this.withLines() ? this.draft.clock() : null;
    const length = source ? { lengthMs: source.lengthMs } : {};
    const colour = source?.colour ?? bandColour(this.clocks().length);
    const lines = source ? copyLines(source.lines, newLineId) : [];
    const created = await this.changes.made(
      this.api.createClock({ stationId: this.stationId() }, { name, colour, ...length, lines }),
    );
    if (typeof created === 'string') return created;
    this.making.set(false);
    await this.openClock(created.id);
    document.getElementById('add-line')?.focus();
    return null;
  };

  protected async removeClock(id: string): Promise<void> {
    if (await this.changes.run(this.api.deleteClock({ stationId: this.stationId(), id })))
      void this.router.navigate(['/', this.stationId(), 'clocks']);
  }

  protected readonly nameFault = (name: string): string | null => {
    if (name.trim() === '') return 'A clock needs a name.';
    return this.clocks().some((clock) => clock.id !== this.clockId() && nameKey(clock.name) === nameKey(name))
      ? 'There is a clock of that name already.'
      : null;
  };

  protected time(ms: number): string {
    return formatDuration(ms);
  }

  protected readonly minute = minuteText;
  protected readonly drift = driftText;

  protected readonly abs = Math.abs;
}
