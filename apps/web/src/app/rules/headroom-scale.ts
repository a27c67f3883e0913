import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import type { Headroom } from '@fuller/core';
import { STATE_WORDS } from './headroom-words';

const WIDTH = 60;

/** How much room a rule leaves, as a bar up to what is possible and a word. */
@Component({
  selector: 'f-headroom-scale',
  template: `<svg [attr.width]="width" height="10" [attr.viewBox]="'0 0 ' + width + ' 10'" aria-hidden="true">
      <rect x="0" y="3" [attr.width]="width - 10" height="4" class="room" />
      <rect x="0" y="3" [attr.width]="used()" height="4" class="used" [class]="headroom().state" />
      <line [attr.x1]="width - 10" [attr.x2]="width - 10" y1="0" y2="10" class="limit" />
    </svg>
    <span>{{ words() }}</span>`,
  styles: `
    :host {
      display: inline-flex;
      align-items: center;
      gap: 6px;
      font-size: 13px;
      white-space: nowrap;
    }
    .room {
      fill: var(--line);
    }
    .limit {
      stroke: var(--ink);
      stroke-width: 1.5;
    }
    .easy,
    .idle {
      fill: var(--moss);
    }
    .tight {
      fill: var(--weld);
    }
    .impossible {
      fill: var(--madder);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class HeadroomScale {
  readonly headroom = input.required<Headroom>();
  protected readonly width = WIDTH;
  protected readonly words = computed(() => STATE_WORDS[this.headroom().state]);
  /** Up to the line what is possible, beyond it what is too much. */
  protected readonly used = computed(() => {
    const { state, demand, capacity, measure } = this.headroom();
    if (state === 'idle') return 0;
    // Of what is asked for at least, more supply is more room.
    const share = measure === 'supply of a value' && capacity === 0 ? 2 : demand / Math.max(capacity, 1e-9);
    return Math.min(WIDTH, Math.max(3, share * (WIDTH - 10)));
  });
}
