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
import { Textarea } from 'primeng/textarea';
import { InputText } from 'primeng/inputtext';
import { ButtonDirective } from 'primeng/button';
import type { Station } from '@fuller/contracts';
import {
  foldText,
  formatAirTime,
  formatDuration,
  formatSpan,
  type DailyLog,
  type LogEntry,
  type Rule,
} from '@fuller/core';
import { Store } from '@ngrx/store';
import { plural } from '../shared/text/plural';
import { restText, whenText } from '../shared/text/when';
import { Burr } from '../shared/ui/burr';
import { Icon } from '../shared/ui/icon';
import { Inspector } from '../shared/ui/inspector';
import { KeepOrCancel } from '../shared/ui/keep-or-cancel';
import { DeskEngine, type CandidateRow } from './desk-engine';
import { placeWords } from './place-words';
import { RuleNamesOfStation } from '../rules/rule-names';
import { isOpen, strainWords, whyWords, type EntryRow } from './log-model';

const SHOWN = 60;

/** What is to be said of an entry: where it stands, what strains it or keeps it open, and what could stand there instead. */
@Component({
  selector: 'f-entry-panel',
  imports: [ButtonDirective, InputText, Textarea, Inspector, Burr, Icon, KeepOrCancel],
  templateUrl: './entry-panel.html',
  styleUrl: './entry-panel.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class EntryPanel {
  private readonly engine = inject(DeskEngine);
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
  readonly noted = output<string>();

  protected readonly candidates = signal<readonly CandidateRow[] | null>(null);
  protected readonly failed = signal<string | null>(null);
  protected readonly wanted = signal('');
  protected readonly open = computed(() => isOpen(this.row().entry));
  private readonly matching = computed(() => {
    const words = foldText(this.wanted()).split(' ').filter(Boolean);
    return (this.candidates() ?? []).filter(({ item }) => {
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
    return { item: 'Fixed item', break: 'Break', note: 'Note' }[entry.kind];
  });
  /** What the clock or the station has to do with the entry's place. */
  protected readonly placed = computed(() => placeWords(this.row().entry, this.station().timeZone));
  protected readonly title = computed(() => {
    const { entry, item } = this.row();
    if (entry.kind === 'break') return 'Commercial break';
    if (entry.kind === 'note') return entry.text;
    if (entry.out) return entry.kind === 'pick' && entry.fill ? 'Fill' : 'Left out';
    return item?.title ?? (this.open() ? 'Nothing yet' : 'Deleted item');
  });

  constructor() {
    effect(() => {
      const [stationId, log, entry] = [this.station().id, this.log(), this.row().entry];
      untracked(() => void this.load(stationId, log, entry));
    });
    let last = '';
    effect(() => {
      const id = this.row().id;
      if (id !== last) untracked(() => this.wanted.set(''));
      last = id;
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
    { icon: 'moveUp', words: 'Move up', keys: 'Alt ↑', run: (): void => this.move.emit(-1) },
    { icon: 'moveDown', words: 'Move down', keys: 'Alt ↓', run: (): void => this.move.emit(1) },
    { icon: 'delete', words: 'Remove', keys: 'Shift Delete', run: (): void => this.remove.emit() },
  ] as const;

  protected readonly swapWords = computed(() => {
    const title = this.swapTitle();
    if (title === null) return 'Swap';
    return title === this.row().item?.title ? 'Do not swap' : `Swap with “${title}”`;
  });

  protected origin(): string {
    const { entry, strains } = this.row();
    if (entry.kind !== 'pick' || entry.origin === 'hand') return 'Chosen by hand.';
    if (strains.length > 0) return 'Chosen by generation; something near it has been changed since.';
    return entry.why ? whyWords(entry.why) : 'Chosen by generation.';
  }

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

  protected keepNote(note: string): void {
    if (note !== this.row().entry.note) this.noted.emit(note);
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
