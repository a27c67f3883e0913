import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import type { AiredPlay } from '@fuller/contracts';
import { formatAirTime } from '@fuller/core';

/** What aired on a day that has no log. */
@Component({
  selector: 'f-aired-day',
  template: `<div class="what-aired scroll" tabindex="0" role="region" aria-label="What aired on this day">
    <h2>What aired on this day</h2>
    <ol>
      @for (play of plays(); track play.startMs) {
        <li>
          <span class="mono">{{ clock(play.startMs, timeZone()) }}</span><b>{{ play.title }}</b
          ><span class="quiet">{{ play.artist }}</span>
        </li>
      }
    </ol>
  </div>`,
  styles: `
    :host {
      display: contents;
    }
    .what-aired {
      flex: 1;
      min-height: 0;
      padding: 0 24px 24px;

      ol {
        margin: 8px 0 0;
        padding: 0;
        list-style: none;
      }

      li {
        display: grid;
        grid-template-columns: 80px minmax(0, 1fr) minmax(0, 1fr);
        gap: 12px;
        padding: 4px 0;
        border-bottom: 1px solid var(--line);
        font-size: 13.5px;
      }
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class AiredDay {
  readonly plays = input.required<readonly AiredPlay[]>();
  readonly timeZone = input.required<string>();
  protected readonly clock = formatAirTime;
}
