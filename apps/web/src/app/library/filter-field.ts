import {
  ChangeDetectionStrategy,
  Component,
  computed,
  type ElementRef,
  input,
  output,
  signal,
  viewChild,
} from '@angular/core';
import { InputText } from 'primeng/inputtext';
import { elementAt, completionsOf, type Completion, type FilterVocabulary } from '@fuller/core';
import { Icon } from '../shared/ui/icon';
import { RecentFilters } from './recent-filters';

/** Where a filter is written: completes fields and values, and offers the last filters while it is empty. */
@Component({
  selector: 'f-filter-field',
  imports: [InputText, Icon],
  template: `<label class="find">
      <span class="visually-hidden">{{ label() }}</span>
      <f-icon name="search" />
      <input
        pInputText
        pSize="small"
        #box
        class="field"
        type="search"
        role="combobox"
        aria-autocomplete="list"
        aria-controls="filter-offers"
        placeholder="Words, or year:1990..1999"
        autocomplete="off"
        spellcheck="false"
        [attr.aria-expanded]="offers().length > 0"
        [attr.aria-activedescendant]="at() >= 0 ? 'filter-offer-' + at() : null"
        [attr.aria-invalid]="wrong()"
        [value]="text()"
        (input)="typed()"
        (focus)="opened.set(true)"
        (click)="opened.set(true)"
        (blur)="leave()"
        (keydown)="key($event)" />
    </label>
    <ul id="filter-offers" role="listbox" aria-label="Ways to go on" [hidden]="offers().length === 0">
      @for (offer of offers(); track offer.text; let i = $index) {
        <li
          role="option"
          [id]="'filter-offer-' + i"
          [class.at]="i === at()"
          [attr.aria-selected]="i === at()"
          (mousedown)="$event.preventDefault()"
          (click)="take(offer)">
          <span class="mono">{{ offer.label }}</span><span class="quiet">{{ offer.says }}</span>
        </li>
      }
    </ul>`,
  styles: `
    :host {
      position: relative;
      display: block;
    }
    f-icon {
      position: absolute;
      left: 9px;
      top: 8px;
      color: var(--quiet);
    }
    .field {
      width: 100%;
      padding-left: 30px;
      font-size: 14px;
    }
    .field[aria-invalid='true'] {
      border-color: var(--madder);
    }
    ul {
      position: absolute;
      z-index: 20;
      top: 100%;
      left: 0;
      min-width: 100%;
      width: max-content;
      max-width: 420px;
      margin: 2px 0 0;
      padding: 4px 0;
      list-style: none;
      background: var(--paper);
      border: 1px solid var(--line);
      border-radius: 6px;
      box-shadow: 0 6px 18px rgb(0 0 0 / 14%);
    }
    li {
      display: flex;
      gap: 16px;
      justify-content: space-between;
      padding: 5px 12px;
      font-size: 13.5px;
      cursor: pointer;
    }
    li .quiet {
      overflow: hidden;
      text-overflow: ellipsis;
      white-space: nowrap;
      font-size: 12.5px;
    }
    li.at,
    li:hover {
      background: var(--woad-wash);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class FilterField {
  readonly stationId = input.required<string>();
  readonly label = input.required<string>();
  readonly text = input.required<string>();
  readonly wrong = input(false);
  readonly vocabulary = input.required<FilterVocabulary | null>();
  readonly changed = output<string>();
  /** Go to what was found. */
  readonly done = output();

  private readonly box = viewChild.required<ElementRef<HTMLInputElement>>('box');
  protected readonly opened = signal(false);
  private readonly caret = signal(0);
  protected readonly at = signal(-1);
  protected readonly offers = computed<Completion[]>(() => {
    const vocabulary = this.vocabulary();
    if (!this.opened() || !vocabulary) return [];
    if (this.text() !== '') return completionsOf(this.text(), this.caret(), vocabulary);
    return new RecentFilters(this.stationId())
      .all()
      .map((text) => ({ label: text, says: '', text, caret: text.length }));
  });

  focus(): void {
    this.box().nativeElement.focus();
    this.box().nativeElement.select();
  }

  protected typed(): void {
    const { value, selectionStart } = this.box().nativeElement;
    this.caret.set(selectionStart ?? value.length);
    this.at.set(-1);
    this.opened.set(true);
    this.changed.emit(value);
  }

  protected take({ text, caret }: Completion): void {
    const box = this.box().nativeElement;
    box.value = text;
    box.setSelectionRange(caret, caret);
    this.typed();
    // A whole filter is finished; after a field its value comes next.
    if (!text.slice(0, caret).endsWith(':')) this.opened.set(false);
  }

  protected leave(): void {
    this.opened.set(false);
    this.at.set(-1);
    if (!this.wrong()) new RecentFilters(this.stationId()).remember(this.text());
  }

  protected key(event: KeyboardEvent): void {
    const offers = this.offers();
    const step = { ArrowDown: 1, ArrowUp: -1 }[event.key];
    if (step !== undefined && offers.length > 0) {
      event.preventDefault();
      this.at.update((at) => (at + step + offers.length + 1) % (offers.length + 1));
      if (this.at() === offers.length) this.at.set(step > 0 ? 0 : offers.length - 1);
    } else if (event.key === 'Escape' && offers.length > 0) {
      event.preventDefault();
      this.opened.set(false);
    } else if ((event.key === 'Enter' || event.key === 'Tab') && offers[this.at()]) {
      event.preventDefault();
      this.take(elementAt(offers, this.at()));
      this.at.set(-1);
    } else if (event.key === 'Enter' || event.key === 'ArrowDown') {
      event.preventDefault();
      this.done.emit();
    }
  }
}
