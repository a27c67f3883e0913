import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import { formatDuration, type Spot } from '@fuller/core';
import { Choice, type ChoiceOption } from './choice';
import { Icon } from './icon';
import { SmallButton } from './small-button';
import { May } from '../session/may';

/** What a person calls a spot. */
export function nameOfSpot({ sponsor, title, cart }: Spot): string {
  return sponsor || title || cart;
}

/** The commercials of a break, in the order they play; moved up and down, elsewhere, or removed, as far as the place lets them. */
@Component({
  selector: 'f-spot-list',
  imports: [May, Choice, Icon, SmallButton],
  template: `<ol aria-label="Spots">
    @for (spot of spots(); track spot.id; let n = $index, first = $first, last = $last) {
      <li>
        <span class="mono cart">{{ spot.cart }}</span>
        <b>{{ name(spot) || 'No sponsor' }}</b>
        <span class="mono">{{ length(spot.lengthMs) }}</span>
        <span class="quiet title"
          >{{ spot.sponsor ? spot.title : '' }}{{ spot.product ? ' · ' + spot.product : '' }}</span
        >
        @if (!fixed()) {
          <span class="acts">
            <button
              fMay="traffic"
              fButton="text"
              [disabled]="first || busy()"
              (click)="moved.emit({ spot, to: n - 1 })"
              [attr.aria-label]="'Move ' + name(spot) + ' up'">
              <f-icon name="moveUp" />
            </button>
            <button
              fMay="traffic"
              fButton="text"
              [disabled]="last || busy()"
              (click)="moved.emit({ spot, to: n + 1 })"
              [attr.aria-label]="'Move ' + name(spot) + ' down'">
              <f-icon name="moveDown" />
            </button>
            @if (places(); as elsewhere) {
              <f-choice
                [label]="'Move ' + name(spot) + ' to'"
                placeholder="Move to…"
                [options]="elsewhere"
                [value]="null"
                [once]="true"
                (chosen)="sent.emit({ spot, place: $event })" />
            } @else {
              <button
                fMay="traffic"
                fButton="text"
                (click)="removed.emit(spot)"
                [attr.aria-label]="'Remove ' + name(spot)">
                <f-icon name="close" />
              </button>
            }
          </span>
        }
      </li>
    } @empty {
      <li class="quiet">Nothing is booked; the break takes no time.</li>
    }
  </ol>`,
  styles: `
    ol {
      margin: 8px 0 0;
      padding: 0;
      list-style: none;
      font-size: 13px;
    }
    li {
      display: grid;
      grid-template-columns: 66px minmax(0, 1fr) auto;
      gap: 1px 8px;
      padding: 6px 0;
      border-top: 1px solid var(--line);
    }
    li.quiet {
      display: block;
    }
    b {
      overflow-wrap: anywhere;
    }
    .cart {
      color: var(--quiet);
      overflow: hidden;
      text-overflow: ellipsis;
    }
    .title,
    .acts {
      grid-column: 2 / -1;
      overflow-wrap: anywhere;
    }
    .acts {
      display: flex;
      gap: 2px;
      align-items: center;
    }
    .acts button {
      min-height: 28px;
      padding-block: 0;
    }
    f-choice {
      margin-left: auto;
      width: 130px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SpotList {
  readonly spots = input.required<readonly Spot[]>();
  /** Nothing can be moved: the break has aired. */
  readonly fixed = input(false);
  readonly busy = input(false);
  /** Where else a spot may go; without any it can be removed. */
  readonly places = input<readonly ChoiceOption[] | null>(null);
  readonly moved = output<{ readonly spot: Spot; readonly to: number }>();
  readonly sent = output<{ readonly spot: Spot; readonly place: string }>();
  readonly removed = output<Spot>();
  protected readonly length = formatDuration;
  protected readonly name = nameOfSpot;
}
