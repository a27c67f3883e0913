import { CdkDrag, type CdkDragDrop, CdkDragHandle, CdkDropList } from '@angular/cdk/drag-drop';
import { ChangeDetectionStrategy, Component, computed, effect, inject, input, linkedSignal, signal, untracked } from '@angular/core';
import { Router, RouterLink } from '@angular/router';
import { BAND_COLOURS, copyLines, expectedStarts, formatDuration, hoursByClock, nameKey, type ClockLine } from '@fuller/core';
import { Store } from '@ngrx/store';
import { KeysHelp } from '../frame/keys-help';
import { Api } from '../shared/api/api';
import { plural } from '../shared/text/plural';
import { ColourPicker } from '../shared/ui/colour-picker';
import { EmptyState } from '../shared/ui/empty-state';
import { HourRibbon } from '../shared/ui/hour-ribbon';
import { HourRing } from '../shared/ui/hour-ring';
import { hourParts, type HourPart } from '../shared/ui/hour-shape';
import { Icon } from '../shared/ui/icon';
import { InlineEdit } from '../shared/ui/inline-edit';
import { Inspector } from '../shared/ui/inspector';
import { catalogueFeature } from '../state/catalogue.feature';
import { Changes } from '../state/changes';
import { ClockDraft, newLineId } from './clock-draft';
import { ClockNames } from './clock-names';
import { LineAdder } from './line-adder';
import { LineInspector } from './line-inspector';

const HOUR_MS = 3_600_000;
/** Marks lines on the clipboard, so that they can be pasted into any clock, in any tab. */
const CLIP_FORMAT = 'fuller-lines';

/** The clocks, and the lines of one beside the picture of its hour. */
@Component({
  selector: 'f-clocks-page',
  imports: [
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
    CdkDropList,
    CdkDrag,
    CdkDragHandle,
  ],
  providers: [ClockDraft],
  templateUrl: './clocks-page.html',
  styleUrl: './clocks-page.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ClocksPage {
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  private readonly changes = inject(Changes);
  private readonly store = inject(Store);
  private readonly clockNames = inject(ClockNames);
  protected readonly draft = inject(ClockDraft);
  readonly stationId = input.required<string>();
  readonly clockId = input<string>();
  readonly line = input<string>();

  protected readonly clocks = this.store.selectSignal(catalogueFeature.selectAllClocks);
  private readonly week = this.store.selectSignal(catalogueFeature.selectWeek);
  private readonly hours = computed(() => (this.week() ? hoursByClock(this.week()!) : new Map<string, number>()));
  protected readonly selected = linkedSignal<ReadonlySet<string>>(() => new Set(this.line() ? [this.line()!] : []));
  private anchor: string | null = null;
  protected readonly making = signal(false);
  protected readonly shape = computed(() => this.shapeOf(this.draft.clock()?.lines ?? []));
  protected readonly expected = computed(() => expectedStarts(this.draft.clock()?.lines ?? [], this.clockNames.lengths()).lines);
  protected readonly current = computed(() => {
    const ids = this.selected();
    const index = this.draft.clock()?.lines.findIndex((line) => ids.has(line.id)) ?? -1;
    if (ids.size !== 1 || index < 0) return null;
    return {
      line: this.draft.clock()!.lines[index]!,
      expected: this.expected()[index]!,
      part: this.shape().parts[index]!,
    };
  });
  protected readonly totalWords = computed(() => {
    const over = this.shape().totalMs - HOUR_MS;
    if (Math.abs(over) < 1000) return 'fills the hour exactly';
    return `${formatDuration(Math.abs(over))} ${over > 0 ? 'over' : 'under'} the hour`;
  });
  protected readonly far = computed(() => Math.abs(this.shape().totalMs - HOUR_MS) > 120_000);

  constructor() {
    inject(KeysHelp).place.set({
      name: 'Clocks',
      keys: [
        { keys: ['↑', '↓'], does: 'move between lines; with Shift select' },
        { keys: ['Alt', '↑↓'], does: 'move the selected lines' },
        { keys: ['a'], does: 'add a line' },
        { keys: ['Ctrl', 'C / V'], does: 'copy and paste lines, also into another clock' },
        { keys: ['Ctrl', 'D'], does: 'duplicate' },
        { keys: ['Delete'], does: 'delete the selected lines' },
      ],
    });
    effect(() => {
      const [asked, first] = [this.clockId(), this.clocks()[0]];
      untracked(() => {
        if (!asked && first) void this.router.navigate(['/', this.stationId(), 'clocks', first.id], { replaceUrl: true });
        this.draft.open(asked ?? null);
      });
    });
  }

  protected shapeOf(lines: readonly ClockLine[]): { parts: HourPart[]; totalMs: number } {
    return hourParts(lines, this.clockNames.lengths(), this.clockNames.names());
  }

  protected hoursOf(id: string): string {
    const hours = this.hours().get(id) ?? 0;
    return hours ? `${plural(hours, 'hour')} a week` : 'not in the week';
  }

  protected choose(id: string, event?: MouseEvent | KeyboardEvent): void {
    const lines = this.draft.clock()!.lines;
    if (event?.shiftKey && this.anchor) {
      const [from, to] = [lines.findIndex((line) => line.id === this.anchor), lines.findIndex((line) => line.id === id)].sort((a, b) => a - b);
      this.selected.set(new Set(lines.slice(from, to! + 1).map((line) => line.id)));
      return;
    }
    this.anchor = id;
    void this.router.navigate([], { queryParams: { line: id }, replaceUrl: true });
    this.selected.set(new Set([id]));
  }

  /** New lines go after the selected ones, or to the end. */
  private placeForNew(): number {
    const lines = this.draft.clock()!.lines;
    const last = lines.findLastIndex((line) => this.selected().has(line.id));
    return last < 0 ? lines.length : last + 1;
  }

  protected add(line: ClockLine): void {
    this.draft.insert(this.placeForNew(), [line], 'Add a line');
    this.selected.set(new Set([line.id]));
    this.anchor = line.id;
  }

  protected onKey(event: KeyboardEvent): void {
    const clock = this.draft.clock();
    if (!clock || (event.target as HTMLElement).tagName === 'INPUT') return;
    const ids = this.selected();
    const at = clock.lines.findIndex((line) => line.id === (this.anchor ?? [...ids][0]));
    const step = { ArrowDown: 1, ArrowUp: -1 }[event.key];
    if (step !== undefined && event.altKey) {
      event.preventDefault();
      this.nudge(step);
    } else if (step !== undefined) {
      event.preventDefault();
      const from = event.shiftKey ? this.edge(step) : at;
      const next = clock.lines[Math.max(0, Math.min(clock.lines.length - 1, from + step))];
      if (next) this.choose(next.id, event);
      document.getElementById(`line-${next?.id}`)?.scrollIntoView({ block: 'nearest' });
    } else if (event.key === 'Delete' || event.key === 'Backspace') {
      event.preventDefault();
      this.removeSelected();
    } else if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'd') {
      event.preventDefault();
      this.duplicate();
    } else if (event.key === 'a' && !event.ctrlKey && !event.metaKey) {
      event.preventDefault();
      document.getElementById('add-line')?.focus();
    } else if (event.key === 'Enter') {
      document.querySelector<HTMLElement>('f-line-inspector input')?.focus();
    }
  }

  /** The end of the selection away from the anchor. */
  private edge(step: number): number {
    const lines = this.draft.clock()!.lines;
    const first = lines.findIndex((line) => this.selected().has(line.id));
    const last = lines.findLastIndex((line) => this.selected().has(line.id));
    if (first === last) return first;
    return lines[first]!.id === this.anchor ? last : step ? first : last;
  }

  private nudge(step: number): void {
    const lines = this.draft.clock()!.lines;
    const ids = this.selected();
    const first = lines.findIndex((line) => ids.has(line.id));
    const last = lines.findLastIndex((line) => ids.has(line.id));
    if (first < 0) return;
    this.draft.move(ids, step < 0 ? Math.max(0, first - 1) : Math.min(lines.length, last + 2));
  }

  protected removeSelected(): void {
    const lines = this.draft.clock()!.lines;
    const ids = this.selected();
    if (ids.size === 0) return;
    const after = lines.slice(lines.findLastIndex((line) => ids.has(line.id)) + 1)[0] ?? lines.filter((line) => !ids.has(line.id)).at(-1);
    this.draft.remove(ids);
    this.selected.set(new Set(after ? [after.id] : []));
    this.anchor = after?.id ?? null;
  }

  protected duplicate(): void {
    const copies = this.draft.duplicate(this.selected());
    this.selected.set(new Set(copies.map((line) => line.id)));
    this.anchor = copies[0]?.id ?? null;
  }

  protected copy(event: ClipboardEvent): void {
    const lines = this.draft.clock()?.lines.filter((line) => this.selected().has(line.id)) ?? [];
    if (lines.length === 0 || (event.target as HTMLElement).tagName === 'INPUT') return;
    event.preventDefault();
    event.clipboardData?.setData('text/plain', JSON.stringify({ format: CLIP_FORMAT, lines }));
    if (event.type === 'cut') this.removeSelected();
  }

  protected paste(event: ClipboardEvent): void {
    if ((event.target as HTMLElement).tagName === 'INPUT') return;
    const lines = linesFromClip(event.clipboardData?.getData('text/plain') ?? '');
    if (lines.length === 0) return;
    event.preventDefault();
    const copies = copyLines(lines, newLineId);
    this.draft.insert(this.placeForNew(), copies, lines.length === 1 ? 'Paste a line' : `Paste ${lines.length} lines`);
    this.selected.set(new Set(copies.map((line) => line.id)));
  }

  protected dropped({ previousIndex, currentIndex }: CdkDragDrop<unknown>): void {
    const lines = this.draft.clock()!.lines;
    const moved = lines[previousIndex]!;
    const ids = this.selected().has(moved.id) ? this.selected() : new Set([moved.id]);
    this.draft.move(ids, currentIndex > previousIndex ? currentIndex + 1 : currentIndex);
  }

  protected async create(name: string, like: boolean): Promise<void> {
    if (name.trim() === '') return;
    const source = like ? this.draft.clock() : null;
    const colour = source?.colour ?? BAND_COLOURS[this.clocks().length % BAND_COLOURS.length]!;
    const created = await this.changes.run(
      this.api.createClock(this.stationId(), { name, colour, lines: source ? copyLines(source.lines, newLineId) : [] }),
    );
    if (!created) return;
    this.making.set(false);
    void this.router.navigate(['/', this.stationId(), 'clocks', created.id]);
  }

  protected async removeClock(id: string): Promise<void> {
    if (await this.changes.run(this.api.deleteClock(this.stationId(), id))) void this.router.navigate(['/', this.stationId(), 'clocks']);
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

  /** Expected start as the minute of the hour: `07:12`. */
  protected minute(ms: number): string {
    const total = Math.round(ms / 1000);
    return `${String(Math.floor(total / 60)).padStart(2, '0')}:${String(total % 60).padStart(2, '0')}`;
  }

  protected drift(driftMs: number): string {
    return `${driftMs > 0 ? '+' : '−'}${formatDuration(Math.abs(driftMs))}`;
  }

  protected abs(value: number): number {
    return Math.abs(value);
  }
}

function linesFromClip(text: string): ClockLine[] {
  try {
    const clip = JSON.parse(text) as { format?: unknown; lines?: unknown };
    return clip.format === CLIP_FORMAT && Array.isArray(clip.lines) ? (clip.lines as ClockLine[]) : [];
  } catch {
    return [];
  }
}
