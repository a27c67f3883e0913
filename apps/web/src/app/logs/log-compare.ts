import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { SmallButton } from '../shared/ui/small-button';
import { FormsModule } from '@angular/forms';
import {
  breakLength,
  airTimes,
  formatAirTime,
  formatDuration,
  itemOf,
  lookUp,
  type ComparedRow,
  type LogEntry,
  type LogTiming,
} from '@fuller/core';
import { Store } from '@ngrx/store';
import { Checkbox } from 'primeng/checkbox';
import { Scroller } from 'primeng/scroller';
import { catalogueFeature } from '../state/catalogue.feature';
import { plural } from '../shared/text/plural';
import { dayYearText } from '../shared/text/when';
import { Band } from '../shared/ui/band';
import { Choice } from '../shared/ui/choice';
import { Icon } from '../shared/ui/icon';
import { LogCompare, type ShownLog } from './log-compare.store';
import { May } from '../shared/session/may';

interface HeadRow {
  readonly kind: 'head';
  readonly index: number;
  readonly label: string;
  readonly differing: number;
}
interface PairRow {
  readonly kind: 'pair';
  readonly before: Cell | null;
  readonly after: Cell | null;
  readonly differs: boolean;
}
interface Cell {
  /** Minutes and seconds of its hour. */
  readonly time: string;
  readonly title: string;
  readonly artist: string;
  readonly code: string;
  readonly colour: string;
  readonly isOpen: boolean;
  readonly marks: string;
}

const ROW_PX = 28;

/** Two logs of a day side by side: as it is, and as it would become; the rows that differ, and hours to take over. */
@Component({
  selector: 'f-log-compare',
  imports: [May, SmallButton, Checkbox, FormsModule, Scroller, Band, Choice, Icon],
  templateUrl: './log-compare.html',
  styleUrl: './log-compare.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class LogCompareView {
  protected readonly compare = inject(LogCompare);
  private readonly store = inject(Store);
  private readonly categories = this.store.selectSignal(catalogueFeature.selectCategoryMap);
  private readonly stations = this.store.selectSignal(catalogueFeature.selectStations);
  protected readonly everyRow = signal(false);
  protected readonly rowPx = ROW_PX;

  protected readonly titles = computed(() => {
    const beside = this.compare.beside();
    if (beside?.kind === 'version') return { now: 'The log now', then: `Version of ${this.time(beside.version.atMs)}` };
    return { now: this.compare.now() ? 'The log now' : 'No log yet', then: 'What the run would write' };
  });
  protected readonly isPreview = computed(() => this.compare.beside()?.kind === 'preview');
  protected readonly days = computed(() => {
    const beside = this.compare.beside();
    if (beside?.kind !== 'preview' || beside.days.length < 2) return [];
    const several = new Set(beside.days.map(({ stationId }) => stationId)).size > 1;
    return beside.days.map(({ date, stationId }, n) => ({
      value: String(n),
      label: several ? `${dayYearText(date)}, ${this.stationName(stationId)}` : dayYearText(date),
    }));
  });
  protected readonly day = computed(() => {
    const beside = this.compare.beside();
    return beside?.kind === 'preview' ? String(beside.at) : '0';
  });
  protected readonly sentence = computed(() => {
    const found = this.compare.comparison();
    if (!found) return '';
    if (found.differing === 0) return 'Nothing differs.';
    return `${plural(found.differing, 'row')} in ${plural(found.hours.length, 'hour')} ${found.differing === 1 ? 'differs' : 'differ'}.`;
  });
  protected readonly takeWords = computed(() => {
    const hours = this.compare.hours().length;
    const beside = this.compare.beside();
    if (hours > 0) return `Take ${plural(hours, 'hour')}`;
    if (beside?.kind === 'version') return 'Restore this version';
    return this.days().length > 0 ? `Write all ${this.days().length} days` : 'Write this log';
  });

  protected readonly rows = computed<readonly (HeadRow | PairRow)[]>(() => {
    const found = this.compare.comparison();
    const [now, then] = [this.compare.now(), this.compare.then()];
    if (!found || !then) return [];
    const every = this.everyRow();
    const hours = then.log.hours.length >= (now?.shown.log.hours.length ?? 0) ? then.log.hours : now!.shown.log.hours;
    return hours.flatMap((hour, index): (HeadRow | PairRow)[] => {
      const inHour = found.rows.filter(({ hourIndex }) => hourIndex === index);
      const shown = every ? inHour : inHour.filter(({ differs }) => differs);
      if (shown.length === 0) return [];
      const label = `${String(hour.localHour).padStart(2, '0')}:00  ${hour.clockName}`;
      const differing = inHour.filter(({ differs }) => differs).length;
      return [
        { kind: 'head', index, label, differing },
        ...shown.map((row) => this.pair(row, now?.shown ?? null, then)),
      ];
    });
  });

  private pair({ before, after, differs }: ComparedRow, now: ShownLog | null, then: ShownLog): PairRow {
    return { kind: 'pair', before: now && this.cell(before, now), after: this.cell(after, then), differs };
  }

  private cell(entry: LogEntry | null, shown: ShownLog): Cell | null {
    if (!entry) return null;
    const { items, log } = shown;
    const { startMs } = lookUp(this.timingOf(shown).entries, entry.id);
    const itemId = itemOf(entry);
    const item = itemId === null ? undefined : itemsById(items).get(itemId);
    const category = entry.kind === 'pick' ? this.categories()[entry.categoryId] : undefined;
    const isOpen = entry.kind === 'pick' && entry.itemId === null && !entry.out;
    const marks = [
      entry.kind === 'pick' && entry.locked ? 'locked' : '',
      entry.kind === 'pick' && entry.origin === 'hand' && entry.itemId !== null ? 'by hand' : '',
      entry.note ? 'note' : '',
    ];
    return {
      time: entry.kind === 'note' || entry.out ? '' : formatAirTime(startMs, log.timeZone).slice(3),
      title: titleOf(entry, item?.title),
      artist: entry.kind === 'break' ? formatDuration(breakLength(entry)) : (item?.artist ?? category?.name ?? ''),
      code: category?.code ?? (entry.kind === 'break' ? 'BR' : ''),
      colour: category?.colour ?? 'var(--ink)',
      isOpen,
      marks: marks.filter(Boolean).join(', '),
    };
  }

  /** When everything of a log airs, worked out once. */
  private timingOf({ log, items }: ShownLog): LogTiming {
    let timing = timings.get(log);
    if (timing) return timing;
    const known = itemsById(items);
    timing = airTimes(log, {
      lengthOf: (id) => (known.get(id)?.durationMs ?? 0) - (known.get(id)?.segueMs ?? 0),
      averageOfSlot: ({ categoryId }) => this.categories()[categoryId]?.averageMs ?? 0,
    });
    timings.set(log, timing);
    return timing;
  }

  protected isTaken(index: number): boolean {
    return this.compare.hours().includes(index);
  }

  private stationName(id: string): string {
    return this.stations().find((station) => station.id === id)?.name ?? id;
  }

  private time(atMs: number): string {
    const zone = this.store.selectSignal(catalogueFeature.selectStation)()?.timeZone ?? 'UTC';
    return formatAirTime(atMs, zone).slice(0, 5);
  }
}

const timings = new WeakMap<ShownLog['log'], LogTiming>();
const byId = new WeakMap<readonly { readonly id: string }[], Map<string, ShownLog['items'][number]>>();

function itemsById(items: ShownLog['items']): Map<string, ShownLog['items'][number]> {
  let known = byId.get(items);
  if (!known) byId.set(items, (known = new Map(items.map((item) => [item.id, item]))));
  return known;
}

function titleOf(entry: LogEntry, title: string | undefined): string {
  if (entry.kind === 'note') return entry.text;
  if (entry.kind === 'break') return 'Commercial break';
  if (entry.out) return entry.kind === 'pick' && entry.fill ? 'Fill, not needed' : 'Spare, left out';
  return title ?? (entry.itemId === null ? 'Open slot' : 'Deleted item');
}
