import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import { PlaceTabs } from '../shared/ui/place-tabs';

/** The parts of Insight: what was, and what would be. */
@Component({
  selector: 'f-insight-tabs',
  imports: [PlaceTabs],
  template: `<f-place-tabs [stationId]="stationId()" place="insight" label="Parts of Insight" [parts]="parts" />`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class InsightTabs {
  readonly stationId = input.required<string>();
  protected readonly parts = [
    { path: '', word: 'Reports' },
    { path: 'forecast', word: 'Forecast' },
  ];
}
