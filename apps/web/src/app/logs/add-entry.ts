import {
  ChangeDetectionStrategy,
  Component,
  inject,
  input,
  output,
  signal,
  viewChild,
  type ElementRef,
  afterNextRender,
} from '@angular/core';
import { SmallButton } from '../shared/ui/small-button';
import type { ItemRow } from '@fuller/contracts';
import { formatDuration } from '@fuller/core';
import { ButtonDirective } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { Api } from '../shared/api/api';
import { LatestAnswer } from '../shared/latest-answer';
import { Icon } from '../shared/ui/icon';
import { Inspector } from '../shared/ui/inspector';
import { LogClipboard } from './log-clipboard';
import { DeskEdits } from './desk-edits';
import { LogDesk } from './log-desk.store';

const SHOWN = 30;

/** Puts something in before the chosen entry: an item by its name, a note, or what was copied. */
@Component({
  selector: 'f-add-entry',
  imports: [SmallButton, ButtonDirective, Icon, InputText, Inspector],
  template: `<f-inspector about="Log" title="Add an entry">
    <p class="quiet">{{ where() }}</p>
    @if (clipboard.held(); as held) {
      <button fButton class="paste" (click)="paste()">
        <f-icon name="copy" />Paste what was copied ({{ held.entries.length }})
      </button>
    }
    <label class="label" for="add-name">Title or artist</label>
    <input
      pInputText
      pSize="small"
      #name
      id="add-name"
      type="search"
      autocomplete="off"
      placeholder="Type a name, or words of a note"
      [value]="words()"
      (input)="search(name.value)"
      (keydown)="latest.key($event)"
      (keydown.enter)="takeFirst(name.value)"
      (keydown.arrowdown)="focusFirst($event)" />
    @if (words().trim()) {
      <button fButton="text" class="as-note" (click)="asNote()">
        <f-icon name="note" />Add “{{ words().trim() }}” as a note
      </button>
    }
    <ol class="found" (keydown)="onKey($event)">
      @for (item of found(); track item.id) {
        <li>
          <button pButton [pButtonUnstyled]="true" type="button" (click)="add(item)">
            <span class="title">{{ item.title }}</span><span class="mono length">{{ length(item) }}</span>
            <span class="artist quiet">{{ item.artist || item.kind }}</span>
          </button>
        </li>
      } @empty {
        @if (words().trim() && !asking()) {
          <li class="quiet none">Nothing in the library has that name.</li>
        }
      }
    </ol>
  </f-inspector>`,
  styles: `
    :host {
      display: grid;
      min-height: 0;
    }
    .label {
      display: block;
      margin: 14px 0 4px;
    }
    input {
      width: 100%;
    }
    .paste {
      margin-top: 12px;
    }
    .as-note {
      margin: 6px 0 0 -8px;
      max-width: 100%;
      overflow: hidden;
      text-overflow: ellipsis;
    }
    .found {
      margin: 8px -8px 0;
      padding: 0;
      list-style: none;
    }
    .found button {
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
    .found button:hover,
    .found button:focus-visible {
      background: var(--woad-wash);
    }
    .title,
    .artist {
      overflow: hidden;
      text-overflow: ellipsis;
      white-space: nowrap;
    }
    .title {
      font-weight: 500;
    }
    .artist,
    .length {
      font-size: 12.5px;
    }
    .none {
      padding: 8px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class AddEntry {
  private readonly api = inject(Api);
  private readonly desk = inject(LogDesk);
  protected readonly edits = inject(DeskEdits);
  protected readonly clipboard = inject(LogClipboard);
  readonly stationId = input.required<string>();
  readonly added = output<void>();
  protected readonly words = signal('');
  protected readonly found = signal<readonly ItemRow[]>([]);
  protected readonly asking = signal(false);
  private readonly field = viewChild.required<ElementRef<HTMLInputElement>>('name');
  protected readonly latest = new LatestAnswer<ItemRow>(
    (words) => this.find(words),
    (found) => this.found.set(found),
    (first) => this.add(first),
  );

  constructor() {
    afterNextRender(() => this.field().nativeElement.focus());
  }

  protected where(): string {
    const row = this.desk.chosen();
    if (!row) return 'Choose the entry it is to stand before.';
    const name = row.item?.title ?? row.category?.name ?? 'the chosen entry';
    return `It is put in before “${name}”. The time after it moves.`;
  }

  protected search(words: string): void {
    this.words.set(words);
    if (words.trim()) void this.latest.ask(words);
    else this.found.set([]);
  }

  private async find(words: string): Promise<readonly ItemRow[]> {
    if (!words.trim()) return [];
    this.asking.set(true);
    try {
      return (await this.api.items({ stationId: this.stationId(), q: words, limit: String(SHOWN) })).rows;
    } catch {
      // Words that are no filter yet find nothing.
      return [];
    } finally {
      this.asking.set(false);
    }
  }

  protected add(row: ItemRow): void {
    const { id, title, artist, album, kind, durationMs, introMs, hasFile } = row;
    // What else is known of it comes with the answer.
    this.edits.insert({ id, title, artist, album, kind, durationMs, introMs, hasFile, segueMs: null, tags: {} });
    this.added.emit();
  }

  protected asNote(): void {
    this.edits.insertNote(this.words().trim());
    this.added.emit();
  }

  protected paste(): void {
    this.edits.paste();
    this.added.emit();
  }

  /** Where the answer is not there yet, it is taken when it comes. */
  protected takeFirst(typed: string): void {
    const [first] = this.found();
    if (first && typed === this.words() && !this.asking()) this.add(first);
  }

  protected focusFirst(event: Event): void {
    event.preventDefault();
    document.querySelector<HTMLElement>('.found button')?.focus();
  }

  protected onKey(event: KeyboardEvent): void {
    const item = (event.target as HTMLElement).closest('li');
    const next = { ArrowDown: item?.nextElementSibling, ArrowUp: item?.previousElementSibling }[event.key];
    if (next === undefined) return;
    event.preventDefault();
    if (next) next.querySelector('button')?.focus();
    else this.field().nativeElement.focus();
  }

  protected length({ durationMs }: ItemRow): string {
    return formatDuration(durationMs);
  }
}
