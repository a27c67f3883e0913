import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  output,
  signal,
  untracked,
} from '@angular/core';
import { SmallButton } from '../shared/ui/small-button';
import { Textarea } from 'primeng/textarea';
import { InputText } from 'primeng/inputtext';
import { ButtonDirective } from 'primeng/button';
import type { AttendedRun, Station } from '@fuller/contracts';
import {
  foldText,
  isBound,
  formatAirTime,
  formatDuration,
  formatSpan,
  parseDuration,
  type DailyLog,
  type LogEntry,
  type LogMend,
  type Rule,
  type Spot,
} from '@fuller/core';
import { RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import { plural } from '../shared/text/plural';
import { restText, whenText } from '../shared/text/when';
import { Burr } from '../shared/ui/burr';
import { LatestCall } from '../shared/latest-call';
import { flagWords } from '../shared/text/flag-words';
import { Icon } from '../shared/ui/icon';
import { Inspector } from '../shared/ui/inspector';
import { KeepOrCancel } from '../shared/ui/keep-or-cancel';
import { DeskEngine, type CandidateRow, type PlaysAround } from './desk-engine';
import { placeWords } from './place-words';
import { RuleNamesOfStation } from '../rules/rule-names';
import { AskSwap } from './ask-swap';
import { EntryBonds } from './entry-bonds';
import { EntryMends } from './entry-mends';
import { SpotList } from '../shared/ui/spot-list';
import { EntryPlays } from './entry-plays';
import { Listen } from './listen';
import { isOpen, strainWords, whyWords, type EntryRow, type LogRow } from './log-model';
import { May } from '../shared/session/may';

const SHOWN = 60;

/** What is to be said of an entry: where it stands, what strains it or keeps it open, and what could stand there instead. */
@Component({
  selector: 'f-entry-panel',
  imports: [
    AskSwap,
    May,
    SmallButton,
    RouterLink,
    ButtonDirective,
    InputText,
    Textarea,
    Inspector,
    Burr,
    Icon,
    KeepOrCancel,
    EntryBonds,
    EntryMends,
    EntryPlays,
    SpotList,
  ],
  templateUrl: './entry-panel.html',
  styleUrl: './entry-panel.scss',
  providers: [Listen],
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class EntryPanel {
  private readonly engine = inject(DeskEngine);
  private readonly calls = new LatestCall();
  private readonly store = inject(Store);
  readonly row = input.required<EntryRow>();
  readonly station = input.required<Station>();
  /** The whole log it stands in. */
  readonly log = input.required<DailyLog>();
  private readonly words = inject(RuleNamesOfStation);
  readonly rules = input.required<Readonly<Record<string, Rule | undefined>>>();
  readonly replace = output<string | null>();
  readonly lock = output<boolean>();
  /** What stands in the slot that is marked for a swap; null where none is. */
  readonly swapTitle = input<string | null>(null);
  readonly swap = output<void>();
  readonly move = output<1 | -1>();
  readonly remove = output<void>();
  /** The spots of a break, in another order or fewer. */
  readonly booked = output<{ readonly entryId: string; readonly spots: readonly Spot[] }>();
  readonly noted = output<{ readonly entryId: string; readonly note: string }>();
  /** A field was left by a key: the list is to have the focus again. */
  readonly left = output<void>();
  /** Every row of the log, for what is said of other entries. */
  readonly rows = input.required<readonly LogRow[]>();
  /** The attended run over the log: what it waits at; null where there is none. */
  readonly run = input<AttendedRun | null>(null);
  /** Whether the run waits at this slot. */
  protected readonly waits = computed(() => this.run()?.stop?.entryId === this.row().id);
  /** What the run would take here. */
  protected readonly suggested = computed(() => (this.waits() ? (this.run()?.stop?.suggested ?? null) : null));
  /** Whether the run has not come to this slot yet. */
  protected readonly isAhead = computed(() => {
    const run = this.run();
    return run?.state === 'open' && !this.waits() && !run.skipped.includes(this.row().id);
  });
  readonly swapWith = output<string>();
  readonly mend = output<LogMend>();
  /** A length of its own, milliseconds; null for its item's. */
  readonly fixLength = output<{ readonly entryId: string; readonly durationMs: number | null }>();
  /** A separation that is to ask less in a run over the open slots. */
  readonly relax = output<{ readonly ruleId: string; readonly seconds: number }>();
  protected readonly listen = inject(Listen);

  protected readonly candidates = signal<readonly CandidateRow[] | null>(null);
  protected readonly failed = signal<string | null>(null);
  protected readonly wanted = signal('');
  protected readonly open = computed(() => isOpen(this.row().entry));
  private readonly matching = computed(() => {
    const words = foldText(this.wanted()).split(' ').filter(Boolean);
    const suggested = this.suggested();
    const candidates = this.candidates() ?? [];
    // What the run would take comes first.
    const first = candidates.filter(({ item }) => item.id === suggested);
    return [...first, ...candidates.filter(({ item }) => item.id !== suggested)].filter(({ item }) => {
      const text = foldText(`${item.title} ${item.artist}`);
      return words.every((word) => text.includes(word));
    });
  });
  protected readonly shown = computed(() => this.matching().slice(0, SHOWN));
  protected readonly more = computed(() => this.matching().length - this.shown().length);
  protected readonly about = computed(() => {
    const { entry, category } = this.row();
    if (entry.kind === 'pick')
      return category ? `${category.name}${isOpen(entry) ? ', open slot' : ''}` : 'Deleted category';
    return { item: 'Fixed item', break: 'Break', tease: 'Tease', sweeper: 'Sweeper over an intro', note: 'Note' }[
      entry.kind
    ];
  });
  /** What the clock or the station has to do with the entry's place. */
  protected readonly placed = computed(() => placeWords(this.row().entry, this.station().timeZone));
  /** What its line asks of player and print, as a sentence. */
  protected readonly flags = computed(() => {
    const words = flagWords(this.row().entry).join(', ');
    return words && `${words.charAt(0).toUpperCase()}${words.slice(1)}.`;
  });
  protected readonly title = computed(() => {
    const { entry, item } = this.row();
    if (entry.kind === 'break') return 'Commercial break';
    if (entry.kind === 'note') return entry.text;
    if (entry.out) return entry.kind === 'pick' && entry.fill ? 'Fill' : 'Left out';
    if (isBound(entry) && entry.itemId === null) return 'Nothing plays here';
    return item?.title ?? (this.open() ? 'Nothing yet' : 'Deleted item');
  });

  constructor() {
    effect(() => {
      const [stationId, log, entry] = [this.station().id, this.log(), this.row().entry];
      untracked(() => void this.calls.run(() => this.load(stationId, log, entry)));
    });
    effect(() => {
      const [waits, shown, log, { startMs }] = [this.waits(), this.shown(), this.log(), this.row()];
      const items = waits ? shown.map(({ item }) => item.id) : [];
      untracked(() => {
        if (items.length > 0) void this.loadAround(this.station().id, log, items, startMs);
        else this.around.set(new Map());
      });
    });
    let last = '';
    effect(() => {
      const id = this.row().id;
      if (id !== last)
        untracked(() => {
          this.wanted.set('');
          this.listen.stop();
        });
      last = id;
    });
  }

  /** Plays of the same artist on either side, by item; read for a choice an attended run waits for. */
  private readonly around = signal<ReadonlyMap<string, PlaysAround>>(new Map());

  private async loadAround(stationId: string, log: DailyLog, items: readonly string[], atMs: number): Promise<void> {
    try {
      const found = await this.engine.playsAround(
        stationId,
        log,
        items.map((itemId) => ({ itemId, atMs })),
      );
      if (this.log() !== log) return;
      this.around.set(new Map(items.map((itemId, n) => [itemId, found[n]!])));
    } catch {
      this.around.set(new Map());
    }
  }

  /** The plays of a candidate’s artist on either side, as links. */
  protected nearPlays({
    item,
  }: CandidateRow): readonly { when: string; link: string[]; query: Record<string, string> }[] {
    const around = this.around().get(item.id);
    if (!around) return [];
    return [around.artist.before, around.artist.after].flatMap((play) => {
      if (!play) return [];
      const when = whenText(play.startMs, this.station().timeZone, this.log().date).replace('today ', '');
      const query: Record<string, string> =
        play.entryId === null ? { at: String(play.startMs) } : { entry: play.entryId };
      return { when, link: ['/', this.station().id, 'logs', play.date], query };
    });
  }

  private async load(stationId: string, log: DailyLog, entry: LogEntry): Promise<void> {
    this.failed.set(null);
    if (entry.kind !== 'pick' || entry.locked || entry.out) return this.candidates.set(null);
    try {
      const candidates = await this.engine.candidates(stationId, log, entry.id);
      if (this.row().id === entry.id && this.log() === log) this.candidates.set(candidates);
    } catch (error) {
      this.failed.set(error instanceof Error ? error.message : String(error));
    }
  }

  /** What is done to an entry as a whole, whatever stands in it. */
  protected readonly placeActs = [
    { right: 'present', icon: 'moveUp', words: 'Move up', keys: 'Alt ↑', run: (): void => this.move.emit(-1) },
    { right: 'present', icon: 'moveDown', words: 'Move down', keys: 'Alt ↓', run: (): void => this.move.emit(1) },
    { right: 'logs', icon: 'delete', words: 'Remove', keys: 'Shift Delete', run: (): void => this.remove.emit() },
  ] as const;

  protected readonly swapWords = computed(() => {
    const title = this.swapTitle();
    if (title === null) return 'Swap';
    return title === this.row().item?.title ? 'Do not swap' : `Swap with “${title}”`;
  });

  protected origin(): string {
    const { entry, strains } = this.row();
    if (entry.kind !== 'pick' || entry.origin === 'hand') return 'Chosen by hand.';
    const by = entry.runMs === undefined ? 'Chosen by generation' : `Chosen by the run of ${this.runTime(entry.runMs)}`;
    if (strains.length > 0) return `${by}; something near it has been changed since.`;
    return entry.why ? `${by}. ${whyWords(entry.why)}` : `${by}.`;
  }

  private runTime(atMs: number): string {
    return whenText(atMs, this.station().timeZone, this.station().today);
  }

  /** The entry after this one that is heard, for the join. */
  protected readonly nextHeard = computed(() => {
    const rows = this.rows();
    const at = rows.findIndex(({ id }) => id === this.row().id);
    const next = rows.slice(at + 1).find((row) => row.kind === 'entry' && row.item !== null && !row.entry.out);
    return next?.kind === 'entry' ? next.item : null;
  });

  playEntry(): void {
    const { item } = this.row();
    if (item) void this.listen.entry({ itemId: item.id, durationMs: item.durationMs, segueMs: item.segueMs ?? 0 });
  }

  playJoin(): void {
    const [{ item }, next] = [this.row(), this.nextHeard()];
    if (!item || !next) return;
    const heard = ({ id, durationMs, segueMs }: NonNullable<typeof item>) => ({
      itemId: id,
      durationMs,
      segueMs: segueMs ?? 0,
    });
    void this.listen.join(heard(item), heard(next));
  }

  /** The length a person fixed; null where the entry has that of its item. */
  protected readonly ownLength = computed(() => ownLengthOf(this.row().entry));
  protected readonly spots = computed(() => {
    const { entry } = this.row();
    return entry.kind === 'break' ? (entry.spots ?? null) : null;
  });
  /** Books the spots of the break with one of them at another place, or without it. */
  protected bookInOrder(spot: Spot, to: number | null): void {
    const others = (this.spots() ?? []).filter(({ id }) => id !== spot.id);
    this.booked.emit({ entryId: this.row().id, spots: to === null ? others : others.toSpliced(to, 0, spot) });
  }

  protected readonly hasLength = computed(() => {
    const { entry } = this.row();
    // A break that traffic has booked takes the time of its spots.
    if (entry.kind === 'break') return !entry.spots;
    return (entry.kind === 'pick' || entry.kind === 'item') && entry.itemId !== null && !entry.out;
  });

  /** Keeps a length that was typed; why not, where it is none. An empty field gives the item’s own back. */
  protected readonly keepLength = async (text: string): Promise<string | null> => {
    const { id: entryId, entry, durationMs } = this.begunFor ?? this.row();
    const own = ownLengthOf(entry);
    if (text === '' && entry.kind !== 'break') {
      if (own !== null) this.fixLength.emit({ entryId, durationMs: null });
      return null;
    }
    const read = parseDuration(text);
    if (read === null) return 'Write a length like 3:20.';
    if (read !== durationMs || own !== null) this.fixLength.emit({ entryId, durationMs: read });
    return null;
  };

  /** Of the items that stood before it in the turn, how many each rule held back. */
  protected readonly heldBack = computed(() => {
    const { entry, strains } = this.row();
    return entry.kind === 'pick' && entry.origin === 'engine' && strains.length === 0
      ? (entry.why?.heldBack ?? [])
      : [];
  });

  protected proofWords(proof: string): string {
    if (proof === 'proven') return 'Proven: no arrangement of the day leaves fewer slots open.';
    if (proof === 'local') return 'Proven for the slots about it: only changes further off might fill it.';
    return 'Not proven: another arrangement of the day might fill it.';
  }

  protected wayOut({ ruleId, seconds }: { ruleId: string; seconds: number }): string {
    const rule = this.rules()[ruleId];
    return rule ? `It could be filled if the same ${rule.tag} were kept ${formatSpan(seconds)} apart.` : '';
  }

  /** The entry a field was begun for: another may be chosen by the time it is left. */
  private begunFor: EntryRow | null = null;

  protected beginField(): void {
    this.begunFor = this.row();
  }

  protected keepNote(note: string): void {
    const { id: entryId, entry } = this.begunFor ?? this.row();
    if (note !== entry.note) this.noted.emit({ entryId, note });
  }

  protected takeFirst(): void {
    const first = this.shown()[0];
    if (first) this.replace.emit(first.item.id);
  }

  protected focusFirst(event: Event): void {
    event.preventDefault();
    document.querySelector<HTMLElement>('.candidates button:not(:disabled)')?.focus();
  }

  protected onListKey(event: KeyboardEvent): void {
    const step = { ArrowDown: 'nextElementSibling', ArrowUp: 'previousElementSibling' }[event.key] as
      'nextElementSibling' | 'previousElementSibling' | undefined;
    const item = (event.target as HTMLElement).closest('li');
    if (!step || !item) return;
    event.preventDefault();
    item[step]?.querySelector('button')?.focus();
  }

  protected airTime(): string {
    return formatAirTime(this.row().startMs, this.station().timeZone);
  }

  protected length(ms: number): string {
    return formatDuration(ms);
  }

  protected items(count: number): string {
    return plural(count, 'item');
  }

  protected sentence(ruleId: string): string {
    return this.words.sentence(ruleId);
  }

  protected strengthOf(ruleId: string): 'must' | 'wish' {
    return this.rules()[ruleId]?.strength === 'soft' ? 'wish' : 'must';
  }

  protected breakWords({ ruleId, by }: { ruleId: string; by: number }): string {
    return strainWords(this.rules()[ruleId], by, this.row().location, this.words.names());
  }

  protected rest(candidate: CandidateRow): string {
    const next = candidate.nextMs;
    const soon = next !== null && next - this.row().startMs < 6 * 3_600_000;
    const rested = candidate.restMs === null ? 'never played' : `rested ${restText(candidate.restMs)}`;
    return soon
      ? `${rested}, again ${whenText(next, this.station().timeZone, this.log().date).replace('today ', '')}`
      : rested;
  }
}

function ownLengthOf(entry: LogEntry): number | null {
  if (entry.kind === 'break') return entry.durationMs;
  return 'lengthMs' in entry ? (entry.lengthMs ?? null) : null;
}
