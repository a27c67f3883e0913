import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import type { TrafficBreak } from '@fuller/contracts';
import { formatDuration } from '@fuller/core';
import { Icon } from '../shared/ui/icon';
import { SpotList } from '../shared/ui/spot-list';
import { BreaksStore } from './breaks.store';

const TRAY = 'tray';

/** A break: what is booked in it, in order; its spots are moved up and down, to another break, or to the tray. */
@Component({
  selector: 'f-break-panel',
  imports: [Icon, SpotList],
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
      <f-spot-list
        [spots]="one().spots ?? []"
        [fixed]="one().aired"
        [busy]="store.isMoving()"
        [places]="places()"
        (moved)="store.move($event.spot.id, one().entryId, $event.to)"
        (sent)="store.move($event.spot.id, $event.place === tray ? null : $event.place)" />
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
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class BreakPanel {
  protected readonly store = inject(BreaksStore);
  readonly one = input.required<TrafficBreak>();
  protected readonly length = formatDuration;
  protected readonly tray = TRAY;
  protected readonly places = computed(() => [
    { value: TRAY, label: 'The tray' },
    ...(this.store.day()?.breaks ?? [])
      .filter(({ aired, entryId }) => !aired && entryId !== this.one().entryId)
      .map(({ entryId, start }) => ({ value: entryId, label: start.slice(0, 5) })),
  ]);
}
