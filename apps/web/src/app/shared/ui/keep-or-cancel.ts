import { Directive, ElementRef, inject, input, signal } from '@angular/core';

/** Keeps a text; why it was refused, null when it was kept. */
export type KeepText = (text: string) => Promise<string | null>;

/**
 * A field that is kept when it is left: Enter keeps it (with Ctrl where a line can end), Escape gives the old text back.
 * With a function that keeps it, what is refused stays in the field, marked, and `refused` says why.
 */
@Directive({
  selector: '[fKeepOrCancel]',
  exportAs: 'kept',
  host: {
    '(focus)': 'begin()',
    '(input)': 'refused.set(null)',
    '(keydown.enter)': 'leave($event)',
    '(keydown.control.enter)': 'leave($event)',
    '(keydown.escape)': 'cancel($event)',
    '(blur)': 'keep()',
    '[attr.aria-invalid]': 'refused() ? true : null',
  },
})
export class KeepOrCancel {
  private readonly field = inject<ElementRef<HTMLInputElement | HTMLTextAreaElement>>(ElementRef).nativeElement;
  private before = '';

  readonly fKeepOrCancel = input<KeepText | ''>('');
  readonly refused = signal<string | null>(null);

  protected begin(): void {
    if (this.refused() === null) this.before = this.field.value;
  }

  protected leave(event: Event): void {
    if (this.field.tagName === 'TEXTAREA' && !(event as KeyboardEvent).ctrlKey) return;
    event.preventDefault();
    this.field.blur();
  }

  protected cancel(event: Event): void {
    event.stopPropagation();
    this.field.value = this.before;
    this.field.dispatchEvent(new Event('input'));
    this.field.blur();
  }

  protected async keep(): Promise<void> {
    const keep = this.fKeepOrCancel();
    const text = this.field.value.trim();
    if (keep !== '' && text !== this.before.trim()) this.refused.set(await keep(text));
  }
}
