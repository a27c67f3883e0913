import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal, untracked } from '@angular/core';
import { RouterLink } from '@angular/router';
import type { HandOverRecord } from '@fuller/contracts';
import { formatAirTime } from '@fuller/core';
import { Store } from '@ngrx/store';
import { Api } from '../shared/api/api';
import { Newest } from '../shared/api/newest';
import { reloadOn } from '../shared/api/reload-on';
import { Icon } from '../shared/ui/icon';
import { catalogueFeature } from '../state/catalogue.feature';

/** Whether the player has this log: as it is, or as it was before it was edited. */
@Component({
  selector: 'f-handed-over',
  imports: [Icon, RouterLink],
  template: `@if (last(); as record) {
    @if (record.stale) {
      <a class="stale" [routerLink]="['/', stationId(), 'hand-over', date()]" role="status"
        ><f-icon name="warning" [size]="14" />Changed since the hand-over at {{ at() }}</a
      >
    } @else {
      <span class="quiet">Handed over {{ at() }}</span>
    }
  }`,
  styles: `
    :host {
      font-size: 13px;
      white-space: nowrap;
    }
    .stale {
      display: inline-flex;
      gap: 5px;
      align-items: center;
      color: var(--weld-text);
      font-weight: 600;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class HandedOver {
  private readonly api = inject(Api);
  private readonly newest = new Newest();
  private readonly station = inject(Store).selectSignal(catalogueFeature.selectStation);
  readonly stationId = input.required<string>();
  readonly date = input.required<string>();
  protected readonly last = signal<HandOverRecord | null>(null);
  protected readonly at = computed(() => {
    const [record, station] = [this.last(), this.station()];
    return record && station ? formatAirTime(record.atMs, station.timeZone).slice(0, 5) : '';
  });

  constructor() {
    effect(() => {
      const [stationId, date] = [this.stationId(), this.date()];
      untracked(() => void this.read(stationId, date));
    });
    reloadOn(['logs', 'log edits', 'hand-over'], () => this.read(this.stationId(), this.date()), { burstMs: 300 });
  }

  private async read(stationId: string, date: string): Promise<void> {
    const isNewest = this.newest.begin();
    // The desk works without knowing it.
    const state = await this.api.handOver({ stationId, date }).catch(() => null);
    if (isNewest()) this.last.set(state?.records[0] ?? null);
  }
}
