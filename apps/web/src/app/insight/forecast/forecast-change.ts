import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { ForecastChangeAsked } from '@fuller/contracts';
import {
  asWords,
  mergeLines,
  readRuleAmount,
  RULE_FORMS,
  type ClockLine,
  type ClockText as ReadText,
} from '@fuller/core';
import { Store } from '@ngrx/store';
import { Checkbox } from 'primeng/checkbox';
import { InputNumber } from 'primeng/inputnumber';
import { InputText } from 'primeng/inputtext';
import { MultiSelect } from 'primeng/multiselect';
import { Select } from 'primeng/select';
import { ClockText } from '../../clocks/clock-text';
import { newLineId } from '../../clocks/clock-draft';
import { minuteText } from '../../clocks/line-words';
import { RuleNamesOfStation } from '../../rules/rule-names';
import { Api } from '../../shared/api/api';
import { plural } from '../../shared/text/plural';
import { CategoryChooser } from '../../shared/ui/category-chooser';
import { Choice } from '../../shared/ui/choice';
import { Finder, type Found } from '../../shared/ui/finder';
import { Icon } from '../../shared/ui/icon';
import { SmallButton } from '../../shared/ui/small-button';
import { catalogueFeature } from '../../state/catalogue.feature';
import { readTime } from '../../week/times';

type Of<K extends ForecastChangeAsked['kind']> = Extract<ForecastChangeAsked, { readonly kind: K }>;

interface FoundSong extends Found {
  readonly id: string;
}

const TITLES: Readonly<Record<ForecastChangeAsked['kind'], string>> = {
  move: 'Songs in another category',
  rule: 'A rule',
  clock: 'Lines of a clock',
  add: 'More songs',
  fewer: 'Fewer songs',
  week: 'Hours of the week',
};
const DAYS = ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday'];
const SHOWN_SONGS = 4;

/** One change of a forecast, edited where it stands. */
@Component({
  selector: 'f-forecast-change',
  imports: [
    CategoryChooser,
    Checkbox,
    Choice,
    ClockText,
    Finder,
    FormsModule,
    Icon,
    InputNumber,
    InputText,
    MultiSelect,
    Select,
    SmallButton,
  ],
  templateUrl: './forecast-change.html',
  styleUrl: './forecast-change.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ForecastChangeCard {
  private readonly api = inject(Api);
  private readonly store = inject(Store);
  protected readonly words = inject(RuleNamesOfStation);
  readonly stationId = input.required<string>();
  readonly change = input.required<ForecastChangeAsked>();
  /** Distinguishes its fields from those of the others. */
  readonly at = input.required<number>();
  readonly changed = output<ForecastChangeAsked>();
  readonly removed = output();

  private readonly ruleMap = this.store.selectSignal(catalogueFeature.selectRuleMap);
  private readonly clocks = this.store.selectSignal(catalogueFeature.selectAllClocks);
  protected readonly title = computed(() => TITLES[this.change().kind]);
  protected readonly editing = signal(false);
  protected readonly refused = signal<string | null>(null);
  private readonly titles = signal<ReadonlyMap<string, string>>(new Map());

  protected readonly rules = computed(() =>
    Object.values(this.ruleMap()).flatMap((rule) =>
      rule ? [{ value: rule.id, label: this.words.sentence(rule.id) }] : [],
    ),
  );
  protected readonly clockOptions = computed(() => this.clocks().map(({ id, name }) => ({ value: id, label: name })));
  protected readonly days = DAYS.map((label, value) => ({ value, label }));

  // The change, where it is of one kind, so that each part knows its fields.
  protected readonly move = computed(() => ofKind(this.change(), 'move'));
  protected readonly rule = computed(() => ofKind(this.change(), 'rule'));
  protected readonly clock = computed(() => ofKind(this.change(), 'clock'));
  protected readonly week = computed(() => ofKind(this.change(), 'week'));
  protected readonly size = computed(() => ofKind(this.change(), 'add') ?? ofKind(this.change(), 'fewer'));

  protected take(patch: Readonly<Record<string, unknown>>): void {
    this.refused.set(null);
    this.changed.emit({ ...this.change(), ...patch } as ForecastChangeAsked);
  }

  protected readonly songWords = computed(() => {
    const songs = this.move()?.songs ?? [];
    const known = songs.flatMap((id) => this.titles().get(id) ?? []);
    if (known.length < songs.length || songs.length > SHOWN_SONGS) return plural(songs.length, 'song');
    return known.join(', ');
  });

  protected readonly findSong = async (query: string): Promise<FoundSong[]> => {
    const page = await this.api
      .items({ stationId: this.stationId(), q: asWords(query), limit: 8 })
      .catch(() => ({ rows: [] }));
    return page.rows
      .filter(({ kind }) => kind === 'song')
      .map(({ id, title, artist }) => ({ id, text: title, hint: artist }));
  };

  protected addSong({ id, text }: FoundSong): void {
    const change = this.move();
    if (!change || change.songs.includes(id)) return;
    this.titles.update((titles) => new Map([...titles, [id, text]]));
    this.take({ songs: [...change.songs, id] });
  }

  protected amountOf({ rule, amount }: Of<'rule'>): string {
    const found = this.ruleMap()[rule];
    return found ? RULE_FORMS[found.shape].amountText(amount ?? found.amount) : '';
  }

  protected setAmount(text: string): void {
    const rule = this.ruleMap()[this.rule()?.rule ?? ''];
    if (!rule) return;
    const read = readRuleAmount(rule.shape, text);
    if (!read.ok) return this.refused.set(`The amount ${read.why}.`);
    this.take({ amount: read.amount });
  }

  protected chooseRule(rule: string): void {
    this.changed.emit({ kind: 'rule', rule });
  }

  protected clockOf({ clock, lines }: Of<'clock'>) {
    const found = this.clocks().find(({ id }) => id === clock);
    return found && { ...found, lines };
  }

  protected chooseClock(clock: string): void {
    const found = this.clocks().find(({ id }) => id === clock);
    if (found) this.changed.emit({ kind: 'clock', clock, lines: [...found.lines] as Of<'clock'>['lines'] });
  }

  protected isUnchanged({ clock, lines }: Of<'clock'>): boolean {
    return JSON.stringify(this.clocks().find(({ id }) => id === clock)?.lines) === JSON.stringify(lines);
  }

  protected keepText({ lines }: ReadText): void {
    const change = this.clock();
    if (!change) return;
    this.editing.set(false);
    this.take({ lines: mergeLines(change.lines as ClockLine[], lines, newLineId) as Of<'clock'>['lines'] });
  }

  protected time(minutes: number): string {
    return minuteText(minutes);
  }

  protected setTime(which: 'from' | 'to', text: string): void {
    const change = this.week();
    const minute = readTime(text);
    if (!change || minute === null) return this.refused.set(`“${text}” is no time in steps of five minutes.`);
    const next = { ...change, [which]: minute };
    if (next.to <= next.from) return this.refused.set('The end must be after the beginning.');
    this.take(next);
  }
}

function ofKind<K extends ForecastChangeAsked['kind']>(change: ForecastChangeAsked, kind: K): Of<K> | null {
  return change.kind === kind ? (change as Of<K>) : null;
}
