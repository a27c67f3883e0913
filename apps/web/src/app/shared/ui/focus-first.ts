import { afterNextRender, Directive, ElementRef, inject } from '@angular/core';

/** Puts the focus into a field that has just appeared, its text selected. */
@Directive({ selector: '[fFocusFirst]' })
export class FocusFirst {
  constructor() {
    const field = inject<ElementRef<HTMLInputElement>>(ElementRef).nativeElement;
    afterNextRender(() => {
      field.focus();
      field.select?.();
    });
  }
}
