import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import type { DayState } from '@fuller/contracts';

const WORDS: Readonly<Record<DayState, string>> = {
  none: 'no log',
  open: 'slots open',
  complete: 'complete',
  'handed over': 'handed over',
  aired: 'aired',
};

/** How far a day is, by shape: an empty ring, half a disc, a disc, a disc with an arrow, a flat line. */
@Component({
  selector: 'f-day-mark',
  template: `<svg width="14" height="14" viewBox="0 0 14 14" aria-hidden="true">
    @switch (state()) {
      @case ('none') {
        <circle cx="7" cy="7" r="4.5" class="ring" />
      }
      @case ('open') {
        <circle cx="7" cy="7" r="5" class="edge" />
        <path d="M7 2 A5 5 0 0 0 7 12 Z" class="part" />
      }
      @case ('complete') {
        <circle cx="7" cy="7" r="5" class="full" />
      }
      @case ('handed over') {
        <circle cx="7" cy="7" r="6" class="full" />
        <path d="M4.2 7 H9.4 M7.2 4.6 L9.6 7 L7.2 9.4" class="arrow" />
      }
      @case ('aired') {
        <path d="M2.5 7 H11.5" class="aired" />
      }
    }
  </svg>`,
  styles: `
    :host {
      display: inline-flex;
    }
    .ring {
      fill: none;
      stroke: var(--line-strong);
      stroke-width: 1.5;
      stroke-dasharray: 2 1.6;
    }
    .edge {
      fill: none;
      stroke: var(--weld);
      stroke-width: 1.5;
    }
    .part {
      fill: var(--weld);
    }
    .full {
      fill: var(--moss);
    }
    .arrow {
      fill: none;
      stroke: var(--paper);
      stroke-width: 1.6;
      stroke-linecap: round;
      stroke-linejoin: round;
    }
    .aired {
      stroke: var(--quiet);
      stroke-width: 2.5;
      stroke-linecap: round;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class DayMark {
  readonly state = input.required<DayState>();
}

/** What a day's shape says in words. */
export function dayStateWords(state: DayState, open: number): string {
  return state === 'open' ? `${open} ${open === 1 ? 'slot' : 'slots'} open` : WORDS[state];
}
