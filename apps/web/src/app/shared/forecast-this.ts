import { ChangeDetectionStrategy, Component, inject, input } from '@angular/core';
import type { ForecastChangeAsked } from '@fuller/contracts';
import { ForecastDraft } from '../state/forecast-draft';
import { May } from './session/may';
import { Icon } from './ui/icon';
import { SmallButton } from './ui/small-button';

/** Leads to the forecast with what somebody has in mind here. */
@Component({
  selector: 'f-forecast-this',
  imports: [Icon, May, SmallButton],
  template: `<button
    fMay="logs"
    fButton
    title="Generate weeks in memory to see what follows"
    (click)="$event.stopPropagation(); draft.forecastThis(stationId(), change())">
    <f-icon name="insight" [size]="14" />Forecast this
  </button>`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ForecastThis {
  protected readonly draft = inject(ForecastDraft);
  readonly stationId = input.required<string>();
  readonly change = input.required<ForecastChangeAsked>();
}
