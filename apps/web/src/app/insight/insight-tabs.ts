import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { PlaceTabs } from '../shared/ui/place-tabs';

/** The parts of Insight: what was, and what would be. */
@Component({
  selector: 'f-insight-tabs',
  imports: [PlaceTabs],
  template: `<f-place-tabs [stationId]="stationId()" place="insight" label="Parts of Insight" [parts]="parts()" />`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class InsightTabs {
  readonly stationId = input.required<string>();
  /** Each report has an address of its own. */
  readonly reports = input(false);
  protected readonly parts = computed(() => [
    { path: '', word: 'Reports', here: this.reports() },
    { path: 'forecast', word: 'Forecast' },
  ]);
}
