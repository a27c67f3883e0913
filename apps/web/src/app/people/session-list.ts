import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import type { SessionRow } from '@fuller/contracts';
import { SmallButton } from '../shared/ui/small-button';
import { browserWords, whenWords } from './session-words';

/** Browsers in which somebody is signed in. */
@Component({
  selector: 'f-session-list',
  imports: [SmallButton],
  template: `<ul>
    @for (one of sessions(); track one.id) {
      <li>
        <span>
          {{ browser(one) }}<span class="quiet">{{ one.address }}, {{ when(one.seenMs) }}</span>
        </span>
        @if (one.own) {
          <span class="quiet">here</span>
        } @else if (ends()) {
          <button fButton="text" (click)="end.emit(one.id)" [attr.aria-label]="'Sign out of ' + browser(one)">
            Sign out
          </button>
        }
      </li>
    } @empty {
      <li class="quiet">Nowhere</li>
    }
  </ul>`,
  styles: `
    ul {
      display: grid;
      gap: 6px;
      max-height: 220px;
      margin: 0;
      padding: 0;
      overflow: auto;
      list-style: none;
      font-size: 13.5px;
    }
    li {
      display: flex;
      justify-content: space-between;
      gap: 8px;
    }
    li > span:first-child > .quiet {
      display: block;
      font-size: 12.5px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SessionList {
  readonly sessions = input.required<readonly SessionRow[]>();
  /** Whether each can be ended on its own. */
  readonly ends = input(true);
  readonly end = output<string>();
  protected readonly browser = browserWords;
  protected readonly when = whenWords;
}
