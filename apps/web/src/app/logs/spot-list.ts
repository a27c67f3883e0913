import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import { formatDuration, type Spot } from '@fuller/core';

/** The commercials of a break, in the order they play. */
@Component({
  selector: 'f-spot-list',
  template: `<h3 class="label" id="spot-head">Spots</h3>
    @if (spots().length) {
      <ol aria-labelledby="spot-head">
        @for (spot of spots(); track spot.id) {
          <li>
            <span class="mono cart">{{ spot.cart }}</span>
            <b>{{ spot.sponsor || spot.title || 'No sponsor' }}</b>
            <span class="mono length">{{ length(spot.lengthMs) }}</span>
            @if (spot.sponsor) {
              <span class="quiet title">{{ spot.title }}</span>
            }
          </li>
        }
      </ol>
    } @else {
      <p class="quiet">Nothing is booked in this break.</p>
    }`,
  styles: `
    ol {
      margin: 6px 0 0;
      padding: 0;
      list-style: none;
    }
    li {
      display: grid;
      grid-template-columns: 84px minmax(0, 1fr) auto;
      gap: 0 8px;
      padding: 5px 0;
      border-bottom: 1px solid var(--line);
      font-size: 13px;
    }
    .cart {
      color: var(--quiet);
      font-size: 12px;
      overflow: hidden;
      text-overflow: ellipsis;
    }
    .title {
      grid-column: 2 / -1;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SpotList {
  readonly spots = input.required<readonly Spot[]>();
  protected readonly length = formatDuration;
}
