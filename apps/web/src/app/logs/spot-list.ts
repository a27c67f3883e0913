import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import { formatDuration, type Spot } from '@fuller/core';
import { Icon } from '../shared/ui/icon';
import { SmallButton } from '../shared/ui/small-button';

/** The commercials of a break, in the order they play; moved by a press. */
@Component({
  selector: 'f-spot-list',
  imports: [Icon, SmallButton],
  template: `<h3 class="label" id="spot-head">Spots</h3>
    @if (spots().length) {
      <ol aria-labelledby="spot-head">
        @for (spot of spots(); track spot.id; let n = $index, first = $first, last = $last) {
          <li>
            <span class="mono cart">{{ spot.cart }}</span>
            <b>{{ spot.sponsor || spot.title || 'No sponsor' }}</b>
            <span class="mono length">{{ length(spot.lengthMs) }}</span>
            @if (spot.sponsor) {
              <span class="quiet title">{{ spot.title }}</span>
            }
            <span class="acts">
              <button
                fButton="text"
                [disabled]="first"
                (click)="move(n, n - 1)"
                [attr.aria-label]="'Move ' + nameOf(spot) + ' up'">
                <f-icon name="moveUp" />
              </button>
              <button
                fButton="text"
                [disabled]="last"
                (click)="move(n, n + 1)"
                [attr.aria-label]="'Move ' + nameOf(spot) + ' down'">
                <f-icon name="moveDown" />
              </button>
              <button fButton="text" (click)="remove(n)" [attr.aria-label]="'Remove ' + nameOf(spot)">
                <f-icon name="close" />
              </button>
            </span>
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
    .acts {
      grid-column: 2 / -1;
      display: flex;
    }
    .acts button {
      min-height: 26px;
      padding-block: 0;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SpotList {
  readonly spots = input.required<readonly Spot[]>();
  readonly changed = output<readonly Spot[]>();
  protected readonly length = formatDuration;

  protected nameOf(spot: Spot): string {
    return spot.sponsor || spot.title || spot.cart;
  }

  protected move(from: number, to: number): void {
    const spot = this.spots()[from];
    if (spot) this.changed.emit(this.spots().toSpliced(from, 1).toSpliced(to, 0, spot));
  }

  protected remove(at: number): void {
    this.changed.emit(this.spots().toSpliced(at, 1));
  }
}
