import {
  ChangeDetectionStrategy,
  Component,
  type ElementRef,
  input,
  linkedSignal,
  output,
  signal,
  viewChild,
} from '@angular/core';
import { InputText } from 'primeng/inputtext';

let count = 0;

/** A labelled value edited in place: Enter or leaving it keeps the text, Escape gives the old one back. */
@Component({
  selector: 'f-inline-edit',
  imports: [InputText],
  template: `<label [attr.for]="id" class="label">{{ label() }}</label>
    <input
      pInputText
      pSize="small"
      #field
      [id]="id"
      [value]="text()"
      [class.mono]="mono()"
      [attr.aria-invalid]="why() ? true : null"
      [attr.aria-describedby]="why() ? id + '-why' : null"
      [placeholder]="placeholder()"
      (input)="typed()"
      (keydown.enter)="field.blur()"
      (keydown.escape)="giveBack($event)"
      (blur)="keep()"
      autocomplete="off" />
    @if (why()) {
      <span class="error-text" [id]="id + '-why'" role="alert">{{ why() }}</span>
    }`,
  styles: `
    :host {
      display: grid;
      grid-template-columns: 84px minmax(0, 1fr);
      align-items: center;
      gap: 2px 8px;
    }
    input {
      height: 28px;
      padding: 0 6px;
      margin-left: -6px;
      border: 1px solid transparent;
      border-radius: 3px;
      background: none;
      min-width: 0;
      width: 100%;
      font-size: 14px;
    }
    input::placeholder {
      color: var(--quiet);
      font-family: var(--sans);
      opacity: 1;
    }
    input:hover {
      border-color: var(--line-strong);
    }
    input:focus {
      border-color: var(--woad);
      background: var(--paper);
      outline: none;
      box-shadow: 0 0 0 1px var(--woad);
    }
    input[aria-invalid='true'] {
      border-color: var(--madder);
    }
    .error-text {
      grid-column: 2;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class InlineEdit {
  readonly label = input.required<string>();
  readonly value = input.required<string>();
  readonly placeholder = input('Not set');
  readonly mono = input(false);
  /** Says why a text cannot be taken; null when it can. */
  readonly check = input<(text: string) => string | null>(() => null);
  /** Keeps the text and answers why it was refused, null when it was kept; in place of `changed`. */
  readonly save = input<((text: string) => Promise<string | null>) | null>(null);
  readonly changed = output<string>();

  protected readonly id = `edit-${++count}`;
  private readonly field = viewChild.required<ElementRef<HTMLInputElement>>('field');
  protected readonly text = linkedSignal(() => this.value());
  protected readonly why = signal<string | null>(null);

  protected typed(): void {
    this.why.set(null);
  }

  protected async keep(): Promise<void> {
    const text = this.field().nativeElement.value.trim();
    if (text === this.value()) return;
    const why = this.check()(text);
    this.why.set(why);
    if (why !== null) return;
    const save = this.save();
    // What is refused stays in its field, marked, with the reason.
    if (save) this.why.set(await save(text));
    else this.changed.emit(text);
  }

  protected giveBack(event: Event): void {
    event.stopPropagation();
    this.field().nativeElement.value = this.value();
    this.why.set(null);
    this.field().nativeElement.blur();
  }
}
