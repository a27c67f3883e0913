import { booleanAttribute, computed, Directive, inject, input } from '@angular/core';
import { GROUP_RIGHTS, type Right } from '@fuller/contracts';
import { Store } from '@ngrx/store';
import { catalogueFeature } from '../../state/catalogue.feature';
import { Session } from './session.store';

/** Rights that change nothing of a station. */
const BESIDES_STATION: readonly Right[] = ['anybody', 'own', 'look', ...GROUP_RIGHTS];

/**
 * What a role cannot do is not on the screen: `fMay="rules"` hides its host from whoever lacks the right at the station;
 * with `fMayRead` it stays to be read, and nothing in it can be used.
 */
@Directive({
  selector: '[fMay]',
  host: { '[hidden]': '!may() && !fMayRead()', '[attr.inert]': "!may() && fMayRead() ? '' : null" },
})
export class May {
  private readonly session = inject(Session);
  private readonly stationId = inject(Store).selectSignal(catalogueFeature.selectStationId);
  readonly fMay = input.required<Right>();
  readonly fMayRead = input(false, { transform: booleanAttribute });
  private readonly station = inject(Store).selectSignal(catalogueFeature.selectStation);
  protected readonly may = computed(
    () =>
      this.session.may(this.fMay(), this.stationId()) &&
      // An archived station is there to be looked at.
      (!this.station()?.archived || BESIDES_STATION.includes(this.fMay())),
  );
}
