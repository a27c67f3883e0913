import { Directive, ElementRef, inject } from '@angular/core';

/** A field that is kept when it is left: Enter keeps it (with Ctrl where a line can end), Escape gives the old text back. */
@Directive({
  selector: '[fKeepOrCancel]',
  host: { '(focus)': 'begin()', '(keydown.enter)': 'keep($event)', '(keydown.escape)': 'cancel($event)' },
})
export class KeepOrCancel {
  private readonly field = inject<ElementRef<HTMLInputElement | HTMLTextAreaElement>>(ElementRef).nativeElement;
  private before = '';

  protected begin(): void {
    this.before = this.field.value;
  }

  protected keep(event: Event): void {
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
}
