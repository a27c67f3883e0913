import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import type { RollingQueueRow } from '@fuller/contracts';
import { formatAirTime, formatDuration } from '@fuller/core';
import { Store } from '@ngrx/store';
import { TableModule } from 'primeng/table';
import { Icon } from '../shared/ui/icon';
import { KeptRows } from '../shared/ui/kept-rows';
import { SmallButton } from '../shared/ui/small-button';
import { catalogueFeature } from '../state/catalogue.feature';
import { OnAirStore } from './on-air.store';
import { May } from '../shared/session/may';

const BY_WORDS: Readonly<Record<RollingQueueRow['by'], string>> = { line: '', request: 'request', hand: 'by hand' };

/** The live queue of a station, to be changed while it runs. */
@Component({
  selector: 'f-live-queue',
  imports: [May, Icon, SmallButton, KeptRows, TableModule],
  templateUrl: './live-queue.html',
  styleUrl: './live-queue.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class LiveQueue {
  protected readonly air = inject(OnAirStore);
  private readonly station = inject(Store).selectSignal(catalogueFeature.selectStation);
  /** What the player has begun is gone from the queue at once. */
  protected readonly rows = computed(() => {
    const playing = this.air.view()?.playing?.id;
    return (this.air.rolling()?.rows ?? []).filter(({ id }) => id !== playing);
  });

  protected clock(ms: number): string {
    return formatAirTime(ms, this.station()?.timeZone ?? 'UTC');
  }

  protected length(ms: number): string {
    return formatDuration(Math.round(ms / 1000) * 1000);
  }

  protected by(row: RollingQueueRow): string {
    return BY_WORDS[row.by];
  }
}
