import { booleanAttribute, computed, Directive, inject, input } from '@angular/core';
import type { Right } from '@fuller/contracts';
import { Store } from '@ngrx/store';
import { catalogueFeature } from '../../state/catalogue.feature';
import { Session } from './session.store';

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
  protected readonly may = computed(() => this.session.may(this.fMay(), this.stationId()));
}
