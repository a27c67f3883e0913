import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import { catalogueFeature } from '../state/catalogue.feature';
import { May } from './session/may';
import { SmallButton } from './ui/small-button';

/** Leads from an empty place of a station without clocks to its beginning: songs, categories, clocks and rules in three steps. */
@Component({
  selector: 'f-begin-here',
  imports: [May, RouterLink, SmallButton],
  template: `@if (clocks().length === 0) {
    <a fMay="library" fButton [routerLink]="['/', stationId(), 'begin']">Begin with your own songs</a>
  }`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class BeginHere {
  private readonly store = inject(Store);
  protected readonly stationId = this.store.selectSignal(catalogueFeature.selectStationId);
  protected readonly clocks = this.store.selectSignal(catalogueFeature.selectAllClocks);
}
