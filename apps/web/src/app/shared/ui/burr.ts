import { ChangeDetectionStrategy, Component, input } from '@angular/core';

/** A strain: a solid notch for a must, a hollow one for a wish, with the amount in words. */
@Component({
  selector: 'f-burr',
  template: `<svg width="9" height="16" viewBox="0 0 9 16" aria-hidden="true">
      <path d="M0.75 1.5 L8 8 L0.75 14.5 Z" />
    </svg>
    @if (words()) {
      <span>{{ words() }}</span>
    }`,
  styles: `
    :host {
      display: inline-flex;
      align-items: center;
      gap: 6px;
      font-size: 12px;
      white-space: nowrap;
    }
    path {
      stroke-width: 1.5;
      stroke-linejoin: round;
    }
    :host(.must) path {
      fill: var(--madder);
      stroke: var(--madder);
    }
    :host(.must) span {
      color: var(--madder);
    }
    :host(.wish) path {
      fill: none;
      stroke: var(--weld);
    }
    :host(.wish) span {
      color: var(--weld-text);
    }
  `,
  host: { '[class]': 'strength()' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Burr {
  readonly strength = input.required<'must' | 'wish'>();
  readonly words = input('');
}
