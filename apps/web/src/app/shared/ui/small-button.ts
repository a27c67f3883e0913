import { Directive, ElementRef, inject, input, type OnInit } from '@angular/core';
import { ButtonDirective } from 'primeng/button';

/**
 * A small button of a panel, a bar or a head, or a link that looks like one: `fButton` beside others, `fButton="text"` without
 * a frame, `fButton="primary"` for what the place is about.
 */
@Directive({
  selector: 'button[fButton], a[fButton]',
  hostDirectives: [ButtonDirective],
})
export class SmallButton implements OnInit {
  readonly fButton = input<'' | 'text' | 'primary'>('');
  private readonly button = inject(ButtonDirective);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;

  ngOnInit(): void {
    this.button.size = 'small';
    this.button.text = this.fButton() === 'text';
    if (this.fButton() !== 'primary') this.button.severity = 'secondary';
    // A button in a form sends it only where it says so.
    if (this.host.tagName === 'BUTTON' && !this.host.hasAttribute('type')) this.host.setAttribute('type', 'button');
  }
}
