import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { Store } from '@ngrx/store';
import { Api } from '../shared/api/api';
import { May } from '../shared/session/may';
import { SmallButton } from '../shared/ui/small-button';
import { catalogueActions, catalogueFeature } from '../state/catalogue.feature';
import { Changes } from '../state/changes';

/** Says that the open station is archived, and brings it back. */
@Component({
  selector: 'f-archived-note',
  imports: [May, SmallButton],
  template: `@if (station(); as one) {
    <p role="status">
      {{ one.name }} is archived. You can look at it; nothing can be changed.
      <button fMay="stations" fButton (click)="bringBack()">Bring back</button>
    </p>
  }`,
  styles: `
    p {
      display: flex;
      align-items: center;
      gap: 12px;
      margin: 0;
      padding: 6px 14px;
      border-bottom: 1px solid var(--line);
      background: var(--woad-wash);
      font-size: 14px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ArchivedNote {
  private readonly api = inject(Api);
  private readonly changes = inject(Changes);
  private readonly store = inject(Store);
  private readonly open = this.store.selectSignal(catalogueFeature.selectStation);
  protected readonly station = computed(() => (this.open()?.archived ? this.open() : null));

  protected async bringBack(): Promise<void> {
    const station = this.station();
    if (!station) return;
    const { id, revision } = station;
    await this.changes.run(this.api.updateStation({ id }, { revision, archived: false }));
    this.store.dispatch(catalogueActions.loadStations());
  }
}
