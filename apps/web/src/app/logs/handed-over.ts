import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal, untracked } from '@angular/core';
import { RouterLink } from '@angular/router';
import type { HandOverRecord } from '@fuller/contracts';
import { formatAirTime } from '@fuller/core';
import { Store } from '@ngrx/store';
import { Api } from '../shared/api/api';
import { Newest } from '../shared/api/newest';
import { reloadOn } from '../shared/api/reload-on';
import { Notices } from '../shared/notices';
import { Icon } from '../shared/ui/icon';
import { SmallButton } from '../shared/ui/small-button';
import { catalogueFeature } from '../state/catalogue.feature';

/** The way to the hand-over; says whether the player has this log as it is, and warns when it is edited after that. */
@Component({
  selector: 'f-handed-over',
  imports: [Icon, RouterLink, SmallButton],
  template: `@let record = last();
    <a
      fButton
      [class.stale]="record?.stale"
      [routerLink]="['/', stationId(), 'hand-over', date()]"
      [title]="
        record ? (record.stale ? 'Changed since the hand-over at ' : 'As it is since ') + at() : 'To the hand-over'
      "
      ><f-icon [name]="record?.stale ? 'warning' : record ? 'check' : 'handOver'" />{{
        record ? (record.stale ? 'Hand over again' : 'Handed over') : 'Hand over'
      }}</a
    >`,
  styles: `
    .stale {
      border-color: var(--weld);
      color: var(--weld-text);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class HandedOver {
  private readonly api = inject(Api);
  private readonly newest = new Newest();
  private readonly notices = inject(Notices);
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
    if (!isNewest()) return;
    const [before, now] = [this.last(), state?.records[0] ?? null];
    this.last.set(now);
    if (now?.stale && before?.id === now.id && !before.stale)
      this.notices.say(`The player has this log as it was at ${this.at()}. Hand it over again.`);
  }
}
