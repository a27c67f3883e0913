import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  linkedSignal,
  output,
  signal,
  untracked,
} from '@angular/core';
import { RadioButton } from 'primeng/radiobutton';
import { Checkbox } from 'primeng/checkbox';
import { FormsModule } from '@angular/forms';
import type { DrawCount } from '@fuller/contracts';
import {
  drawAdvice,
  drawOf,
  formatDuration,
  parseDuration,
  parseFilter,
  TURN_ORDERS,
  withSource,
  type ClockLine,
  type ExpectedLine,
  sourceOf,
  FIRST_GROUP,
  MOST_ROWS_OF_LINE,
  THEME_TAGS,
  type Theme,
  type LineFlags,
  type TeaseTarget,
  type TurnOrder,
} from '@fuller/core';
import { Store } from '@ngrx/store';
import { Select } from 'primeng/select';
import { FilterField } from '../library/filter-field';
import { LibraryWords } from '../library/library-words';
import { Api } from '../shared/api/api';
import { plural } from '../shared/text/plural';
import { CategoryChooser } from '../shared/ui/category-chooser';
import { InlineEdit } from '../shared/ui/inline-edit';
import { catalogueFeature } from '../state/catalogue.feature';
import { ClockNames } from './clock-names';
import { adviceWords } from './line-words';
import { WeekUse } from './week-use';

/** A flag as it is ticked; where it is its inverse that is said, the box is ticked without the flag. */
interface FlagTick {
  readonly flag: keyof LineFlags;
  readonly words: string;
  readonly inverse: boolean;
}
const FLAG_TICKS: readonly FlagTick[] = [
  { flag: 'waits', words: 'After its end, wait for the presenter', inverse: false },
  { flag: 'noFade', words: 'May be faded early', inverse: true },
  { flag: 'noFile', words: 'Goes into player files', inverse: true },
  { flag: 'noPrint', words: 'Goes into the print', inverse: true },
];

/** What comes at a quarter to is announced where nothing else is chosen. */
const TEASED_AT_MS = 2_700_000;

/** A line of the clock, as far as others look at it. */
export interface LineAmong {
  readonly id: string;
  readonly label: string;
  readonly plays: boolean;
  readonly theme?: Theme | undefined;
}

const LONGEST_GROUP = 20;

type Pick = Extract<ClockLine, { kind: 'pick' }>;

/** What can be said about a line of a clock. */
@Component({
  selector: 'f-line-inspector',
  imports: [Checkbox, RadioButton, InlineEdit, CategoryChooser, FilterField, Select, FormsModule],
  providers: [LibraryWords],
  templateUrl: './line-inspector.html',
  styleUrl: './line-inspector.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class LineInspector {
  private readonly api = inject(Api);
  private readonly store = inject(Store);
  private readonly clockNames = inject(ClockNames);
  private readonly use = inject(WeekUse);
  protected readonly words = inject(LibraryWords);
  private readonly categories = this.store.selectSignal(catalogueFeature.selectCategoryMap);
  private readonly families = this.store.selectSignal(catalogueFeature.selectFamilies);
  protected readonly stationId = this.store.selectSignal(catalogueFeature.selectStationId);
  readonly line = input.required<ClockLine>();
  readonly expected = input.required<ExpectedLine>();
  /** The lines of the clock with what they are called, for what a tease can announce. */
  readonly among = input<readonly LineAmong[]>([]);
  readonly change = output<ClockLine>();

  protected readonly draw = computed(() => drawOf(this.line()));
  /** The filter as typed; kept on the line once it can be read and the field is left. */
  protected readonly filter = linkedSignal(() => this.draw()?.filter ?? '');
  protected readonly fault = computed(() => {
    const vocabulary = this.words.vocabulary();
    if (this.filter() === '' || !vocabulary) return null;
    const parsed = parseFilter(this.filter(), vocabulary);
    return parsed.ok ? null : parsed.fault.why;
  });
  private readonly counted = signal<DrawCount | null>(null);
  /** What the line draws from with the filter as it is being typed. */
  protected readonly count = computed(() => {
    const draw = this.draw();
    if (!draw) return null;
    const typed = { categoryId: draw.categoryId, filter: this.filter().trim() };
    const known = this.clockNames.itemsFor(typed);
    if (known !== null) return known;
    const counted = this.counted();
    return counted?.categoryId === typed.categoryId && counted.filter === typed.filter ? counted.items : null;
  });
  protected readonly advice = computed(() => {
    const [draw, items] = [this.draw(), this.count()];
    if (!draw || items === null) return '';
    const slots = this.use.slotsOf({ ...draw, filter: draw.filter });
    return adviceWords(drawAdvice(items, slots, this.use.titleSeconds(draw.categoryId)), items, slots);
  });
  /** A note plays nothing, and fill goes on to its mark. */
  protected readonly flags = computed(() => {
    const { kind } = this.line();
    return FLAG_TICKS.filter(({ flag }) =>
      kind === 'note' ? flag === 'noPrint' : kind !== 'fill' || flag !== 'waits',
    );
  });
  /** The category's own turn order first, as what holds when nothing is said. */
  protected readonly orders = computed(() => {
    const own = this.categories()[this.draw()?.categoryId ?? '']?.turnOrder ?? 'even';
    return [
      { value: '', label: `${own}, as its category` },
      ...TURN_ORDERS.map((value) => ({ value: value as string, label: value as string })),
    ];
  });

  constructor() {
    effect(() => {
      const station = this.stationId();
      if (station) untracked(() => void this.words.load(station));
    });
    effect((onCleanup) => {
      const [draw, filter, fault] = [this.draw(), this.filter().trim(), this.fault()];
      if (!draw || filter === '' || fault || this.clockNames.itemsFor({ ...draw, filter }) !== null) return;
      const timer = setTimeout(() => {
        this.api
          .countDraws({ stationId: this.stationId()! }, { draws: [{ categoryId: draw.categoryId, filter }] })
          .then(([count]) => this.counted.set(count ?? null))
          .catch(() => this.counted.set(null));
      }, 150);
      onCleanup(() => clearTimeout(timer));
    });
  }

  protected readonly mark = (text: string): string | null => {
    const value = parseDuration(text);
    return value === null || value >= 86_400_000 ? 'Write minutes and seconds of the clock, like 27:00.' : null;
  };
  protected readonly length = (text: string): string | null => {
    const value = parseDuration(text);
    return value === null || value === 0 || value > 3_600_000 ? 'Write a length like 2:00.' : null;
  };

  protected time(ms: number): string {
    return formatDuration(ms);
  }

  protected countWords(): string {
    const items = this.count();
    return items === null ? 'counting…' : `${plural(items, 'item')} to draw from`;
  }

  protected takeSource(categoryId: string): void {
    this.change.emit(withSource(this.line(), categoryId));
  }

  protected keepFilter(): void {
    const filter = this.filter().trim();
    if (this.fault() || filter === (this.draw()?.filter ?? '')) return;
    this.set({ filter: filter === '' ? undefined : filter });
  }

  protected takeOrder(order: string): void {
    this.set({ turnOrder: order === '' ? undefined : (order as TurnOrder) });
  }

  /** What lines can share: nothing, what every song has, the values of a tag family. */
  protected readonly themes = computed(() => [
    { value: '', label: 'None' },
    ...THEME_TAGS.map((value) => ({ value: value as string, label: `Same ${value}` })),
    ...this.families()
      .filter(({ name }) => !(THEME_TAGS as readonly string[]).includes(name))
      .map(({ name }) => ({ value: name, label: `Same ${name}` })),
  ]);
  protected readonly themeWords = computed(() => {
    const line = this.line();
    if (line.kind !== 'pick' || !line.theme) return '';
    const { by, group } = line.theme;
    const others = this.among().filter(({ id, theme }) => id !== line.id && theme?.by === by && theme.group === group);
    const shared =
      others.length === 0
        ? `No other line of this clock has this theme yet, so nothing is shared.`
        : `${plural(others.length + 1, 'line')} share one ${by}, chosen when a log is generated.`;
    return `${shared} A rule that forbids it is lifted for these lines alone; statutory limits never are.`;
  });

  protected takeTheme(by: string): void {
    const { theme } = this.line() as Pick;
    this.set({ theme: by === '' ? undefined : { by, group: theme?.group ?? FIRST_GROUP } });
  }

  protected takeGroup(text: string): void {
    const { theme } = this.line() as Pick;
    if (theme) this.set({ theme: { ...theme, group: text.trim().slice(0, LONGEST_GROUP) || FIRST_GROUP } });
  }

  protected takeAsk(ask: string): void {
    this.set({ ask: ask.trim() === '' ? undefined : ask.trim() });
  }

  protected takeNote(note: string): void {
    this.set({ note: note === '' ? undefined : note });
  }

  protected takeTime(field: 'bookedAtMs' | 'durationMs' | 'atMs', text: string): void {
    this.change.emit({ ...this.line(), [field]: parseDuration(text)! } as ClockLine);
  }

  protected takeText(text: string): void {
    this.change.emit({ ...this.line(), text } as ClockLine);
  }

  protected takeHard(hard: boolean): void {
    this.change.emit({ ...this.line(), hard } as ClockLine);
  }

  protected takeComment(comment: string): void {
    this.change.emit({ ...this.line(), comment: comment.trim() });
  }

  /** A choice left undefined is taken off the line. */
  protected set(choices: { [K in keyof Pick]?: Pick[K] | undefined }): void {
    const merged = Object.entries({ ...this.line(), ...choices }).filter(([, value]) => value !== undefined);
    this.change.emit(Object.fromEntries(merged) as unknown as ClockLine);
  }

  protected readonly setLists = this.store.selectSignal(catalogueFeature.selectSetLists);
  protected readonly rowsFault = (text: string): string | null =>
    /^\d{1,3}$/.test(text) && Number(text) >= 1 && Number(text) <= MOST_ROWS_OF_LINE
      ? null
      : `Write a number from 1 to ${MOST_ROWS_OF_LINE}.`;
  protected readonly source = computed(() => sourceOf(this.line()));
  /** The lines after this one that play something. */
  protected readonly linesAfter = computed(() => {
    const lines = this.among();
    const own = lines.findIndex(({ id }) => id === this.line().id);
    return lines.flatMap(({ id, label, plays }, n) => (n > own && plays ? [{ id, label: `${n + 1}. ${label}` }] : []));
  });
  protected readonly targets = computed(() => [
    { value: 'pick', label: 'The next pick of a category' },
    ...(this.linesAfter().length > 0 ? [{ value: 'line', label: 'Another line' }] : []),
    { value: 'time', label: 'What comes at a time' },
    { value: 'next show', label: 'The next show' },
  ]);

  protected takeTarget(to: TeaseTarget['to']): void {
    const [line] = this.linesAfter();
    const category = Object.values(this.categories()).find((one) => one?.music);
    if (to === 'pick' && category) this.setTarget({ to, categoryId: category.id });
    if (to === 'line' && line) this.setTarget({ to, lineId: line.id });
    if (to === 'time') this.setTarget({ to, atMs: TEASED_AT_MS });
    if (to === 'next show') this.setTarget({ to });
  }

  protected setTarget(target: TeaseTarget): void {
    this.change.emit({ ...this.line(), target } as ClockLine);
  }

  protected takeTargetTime(text: string): void {
    this.setTarget({ to: 'time', atMs: parseDuration(text)! });
  }

  protected takeFlag(flag: keyof LineFlags): void {
    this.set({ [flag]: this.line()[flag] ? undefined : true });
  }

  protected place(): string {
    const { startMs, durationMs, driftMs, unsureMs, out } = this.expected();
    if (out) return 'There is no room for it on average, so it is left out.';
    const sure = unsureMs >= 1000 ? `, give or take ${formatDuration(unsureMs)}` : '';
    const place = `Expected at ${formatDuration(startMs)}${sure}${durationMs ? `, for ${formatDuration(durationMs)}` : ''}.`;
    if (driftMs === null) return place;
    if (Math.abs(driftMs) < 1000) return `${place} That is on its mark.`;
    if (this.line().kind === 'moment')
      return `${place} What is before it ends ${formatDuration(Math.abs(driftMs))} ${driftMs > 0 ? 'after' : 'before'} its mark.`;
    return `${place} That is ${formatDuration(Math.abs(driftMs))} ${driftMs > 0 ? 'after' : 'before'} its mark.`;
  }
}
