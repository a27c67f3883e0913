import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import type { Spot } from '@fuller/core';
import type { TrafficBreak } from '@fuller/contracts';
import { formatDuration } from '@fuller/core';
import { Choice } from '../shared/ui/choice';
import { Icon } from '../shared/ui/icon';
import { SmallButton } from '../shared/ui/small-button';
import { BreaksStore } from './breaks.store';

const TRAY = 'tray';

/** A break: what is booked in it, in order; its spots are moved up and down, to another break, or to the tray. */
@Component({
  selector: 'f-break-panel',
  imports: [Choice, Icon, SmallButton],
  template: `<dl>
      <dt class="label">Planned</dt>
      <dd class="mono">{{ length(one().plannedMs) }}</dd>
      <dt class="label">Booked</dt>
      <dd class="mono">{{ one().spots ? length(one().bookedMs) : 'Not set' }}</dd>
      @if (one().spots && one().bookedMs !== one().plannedMs) {
        <dt class="label">Differs by</dt>
        <dd class="mono">
          {{ one().bookedMs > one().plannedMs ? '+' : '' }}{{ length(one().bookedMs - one().plannedMs) }}
        </dd>
      }
    </dl>
    @for (mark of one().marks; track mark) {
      <p class="mark"><f-icon name="alert" />{{ mark }}</p>
    }
    @if (one().aired) {
      <p class="quiet">It has aired; its spots stay.</p>
    }
    @if (one().spots === null) {
      <p class="quiet">No traffic log has been imported for this day, so the break keeps its planned length.</p>
    } @else {
      <ol aria-label="Spots">
        @for (spot of one().spots; track spot.id; let n = $index, first = $first, last = $last) {
          <li [class.held]="spot.id === store.heldId()">
            <span class="mono cart">{{ spot.cart }}</span>
            <b>{{ nameOf(spot) }}</b>
            <span class="mono">{{ length(spot.lengthMs) }}</span>
            <span class="quiet title"
              >{{ spot.sponsor ? spot.title : '' }}{{ spot.product ? ' · ' + spot.product : '' }}</span
            >
            @if (!one().aired) {
              <span class="acts">
                <button
                  fButton="text"
                  [disabled]="first || store.isMoving()"
                  (click)="store.move(spot.id, one().entryId, n - 1)"
                  [attr.aria-label]="'Move ' + nameOf(spot) + ' up'">
                  <f-icon name="moveUp" />
                </button>
                <button
                  fButton="text"
                  [disabled]="last || store.isMoving()"
                  (click)="store.move(spot.id, one().entryId, n + 1)"
                  [attr.aria-label]="'Move ' + nameOf(spot) + ' down'">
                  <f-icon name="moveDown" />
                </button>
                <f-choice
                  [label]="'Move ' + nameOf(spot) + ' to'"
                  placeholder="Move to…"
                  [options]="places()"
                  [value]="null"
                  [once]="true"
                  (chosen)="moveTo(spot, $event)" />
              </span>
            }
          </li>
        } @empty {
          <li class="quiet">Nothing is booked; the break takes no time.</li>
        }
      </ol>
    }`,
  styles: `
    dl {
      display: grid;
      grid-template-columns: 84px 1fr;
      gap: 3px 8px;
      margin: 0 0 10px;
      align-items: baseline;
    }
    dd {
      margin: 0;
    }
    .mark {
      display: flex;
      gap: 6px;
      align-items: center;
      margin-bottom: 8px;
      color: var(--madder);
      font-size: 13px;
    }
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
    li.held {
      background: var(--woad-wash);
    }
    li b {
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
export class BreakPanel {
  protected readonly store = inject(BreaksStore);
  readonly one = input.required<TrafficBreak>();
  protected readonly length = formatDuration;
  protected readonly places = computed(() => [
    { value: TRAY, label: 'The tray' },
    ...(this.store.day()?.breaks ?? [])
      .filter(({ aired, entryId }) => !aired && entryId !== this.one().entryId)
      .map(({ entryId, start }) => ({ value: entryId, label: start.slice(0, 5) })),
  ]);

  protected nameOf(spot: Spot): string {
    return spot.sponsor || spot.title || spot.cart;
  }

  protected moveTo(spot: Spot, place: string): void {
    void this.store.move(spot.id, place === TRAY ? null : place);
  }
}
