import { ChangeDetectionStrategy, Component, computed, effect, inject, input, output, signal, untracked } from '@angular/core';
import { Textarea } from 'primeng/textarea';
import { InputText } from 'primeng/inputtext';
import { ButtonDirective } from 'primeng/button';
import type { RuleRow, Station } from '@fuller/contracts';
import { foldText, formatAirTime, formatDuration, formatSpan, type DailyLog, type LogEntry } from '@fuller/core';
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
  template: `@let it = row();
    <f-inspector [about]="about()" [title]="title()">
      <p class="place">
        <span class="mono">{{ airTime() }}</span>
        @if (it.item?.artist) {
          <span>, {{ it.item!.artist }}</span>
        }
        @if (it.durationMs) {
          <span>, </span><span class="mono">{{ length(it.durationMs) }}</span>
        }
      </p>
      @if (placed(); as words) {
        <p class="quiet chosen">{{ words }}</p>
      }
      @for (strain of it.strains; track strain.words) {
        <f-burr [strength]="strain.strength" [words]="strain.words" />
      }
      @if (it.entry.kind === 'pick' && !it.entry.out) {
        @if (open()) {
          <div class="why">
            <h3 class="label">Why it is open</h3>
            @if (it.entry.open; as reason) {
              <ul>
                @for (held of reason.heldBackBy; track held.ruleId) {
                  <li>{{ items(held.items) }} held back by “{{ sentence(held.ruleId) }}”</li>
                } @empty {
                  <li>The category has no item that may air on this day.</li>
                }
              </ul>
              @for (way of reason.relax ?? []; track way.ruleId) {
                <p class="way">{{ wayOut(way) }}</p>
              }
              <p class="quiet">{{ proofWords(reason.proof) }}</p>
            } @else {
              <p class="quiet">Opened by hand.</p>
            }
          </div>
        } @else {
          <p class="quiet chosen">{{ origin() }}</p>
          @for (held of heldBack(); track held.ruleId) {
            <p class="quiet chosen">{{ items(held.items) }} before it held back by “{{ sentence(held.ruleId) }}”.</p>
          }
        }
        <div class="acts">
          <button pButton size="small" severity="secondary" type="button" [disabled]="open()" (click)="lock.emit(!it.entry.locked)">
            <f-icon [name]="it.entry.locked ? 'unlock' : 'lock'" />{{ it.entry.locked ? 'Unlock' : 'Lock' }}
          </button>
          <button pButton size="small" severity="secondary" type="button" [disabled]="open() || it.entry.locked" (click)="replace.emit(null)">
            <f-icon name="close" />Open the slot
          </button>
        </div>
      }
      <label class="label note" for="entry-note">Note</label>
      <textarea
        pTextarea
        #note
        fKeepOrCancel
        id="entry-note"
        rows="2"
        [value]="it.entry.note"
        (blur)="keepNote(note.value)"
        placeholder="for whoever reads this log; Ctrl Enter keeps it, Escape cancels"></textarea>
      @if (it.entry.kind === 'pick' && !it.entry.out) {
        <div class="head">
          <h3 class="label">{{ open() ? 'Candidates' : 'Instead' }}</h3>
          <input
            pInputText
            pSize="small"
            #find
            class="find"
            type="search"
            placeholder="Find"
            aria-label="Find among the candidates"
            [value]="wanted()"
            (input)="wanted.set(find.value)"
            (keydown.enter)="takeFirst()"
            (keydown.arrowdown)="focusFirst($event)" />
        </div>
        @if (it.entry.locked) {
          <p class="quiet">Locked: unlock it to put something else here.</p>
        } @else if (failed()) {
          <p class="error-text">{{ failed() }}</p>
        } @else {
          <ol class="candidates" (keydown)="onListKey($event)">
            @for (candidate of shown(); track candidate.item.id) {
              <li>
                <button
                  pButton
                  [pButtonUnstyled]="true"
                  type="button"
                  (click)="replace.emit(candidate.item.id)"
                  [class.now]="candidate.item.id === it.item?.id"
                  [disabled]="candidate.item.id === it.item?.id">
                  <span class="title">{{ candidate.item.title }}</span><span class="rest">{{ rest(candidate) }}</span>
                  <span class="artist quiet">{{ candidate.item.artist || candidate.item.kind }}</span>
                  @if (candidate.breaks[0]; as broken) {
                    <f-burr strength="must" [words]="breakWords(broken)" />
                  } @else {
                    <span class="free">breaks nothing</span>
                  }
                </button>
              </li>
            } @empty {
              <li class="quiet none">
                {{ candidates() === null ? 'Checking every item' : wanted() ? 'No candidate of that name.' : 'The category has no items.' }}
              </li>
            }
          </ol>
          @if (more() > 0) {
            <p class="quiet">{{ items(more()) }} more; type a name to find one.</p>
          }
        }
      }
    </f-inspector>`,
  styles: `
    :host {
      display: grid;
      min-height: 0;
    }
    .place {
      font-size: 14px;
      margin-bottom: 6px;
    }
    .chosen {
      font-size: 13.5px;
    }
    f-burr {
      margin-bottom: 4px;
    }
    .why {
      margin: 8px 0;
      padding: 8px 10px;
      border-radius: 4px;
      background: var(--weld-wash);
      font-size: 13.5px;
    }
    .way {
      margin: 4px 0;
    }
    .why ul {
      margin: 4px 0;
      padding-left: 18px;
    }
    .acts {
      display: flex;
      gap: 8px;
      margin: 10px 0 4px;
    }
    .note {
      display: block;
      margin: 12px 0 4px;
    }
    textarea {
      width: 100%;
      resize: vertical;
      font-size: 14px;
    }
    .head {
      display: flex;
      align-items: center;
      justify-content: space-between;
      margin: 14px 0 6px;
    }
    .find {
      height: 26px;
      width: 130px;
      font-size: 13px;
    }
    .candidates {
      list-style: none;
      margin: 0 -8px;
      padding: 0;
    }
    .candidates button {
      display: grid;
      grid-template-columns: minmax(0, 1fr) auto;
      gap: 0 10px;
      width: 100%;
      padding: 5px 8px;
      border: 0;
      border-bottom: 1px solid var(--line);
      background: none;
      text-align: left;
      font-size: 13.5px;
      cursor: pointer;
    }
    .candidates button:hover:not(:disabled),
    .candidates button:focus-visible {
      background: var(--woad-wash);
    }
    .candidates button:disabled {
      cursor: default;
    }
    .candidates .now {
      background: var(--chalk);
    }
    .title {
      overflow: hidden;
      text-overflow: ellipsis;
      white-space: nowrap;
      font-weight: 500;
    }
    .artist {
      overflow: hidden;
      text-overflow: ellipsis;
      white-space: nowrap;
      font-size: 12.5px;
    }
    .rest,
    .free {
      font-size: 12px;
      text-align: right;
    }
    .free {
      color: var(--moss);
    }
    .candidates f-burr {
      margin: 0;
      justify-content: flex-end;
    }
    .none {
      padding: 10px 8px;
    }
  `,
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
  readonly rules = input.required<Readonly<Record<string, RuleRow | undefined>>>();
  readonly replace = output<string | null>();
  readonly lock = output<boolean>();
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
    if (entry.kind === 'pick') return category ? `${category.name}${isOpen(entry) ? ', open slot' : ''}` : 'Deleted category';
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

  protected origin(): string {
    const { entry, strains } = this.row();
    if (entry.kind !== 'pick' || entry.origin === 'hand') return 'Chosen by hand.';
    if (strains.length > 0) return 'Chosen by generation; something near it has been changed since.';
    return entry.why ? whyWords(entry.why) : 'Chosen by generation.';
  }

  /** Of the items that stood before it in the turn, how many each rule held back. */
  protected readonly heldBack = computed(() => {
    const { entry, strains } = this.row();
    return entry.kind === 'pick' && entry.origin === 'engine' && strains.length === 0 ? (entry.why?.heldBack ?? []) : [];
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
    return soon ? `${rested}, again ${whenText(next, this.station().timeZone, this.log().date).replace('today ', '')}` : rested;
  }
}
