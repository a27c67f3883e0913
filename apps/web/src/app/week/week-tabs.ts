import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import { PlaceTabs } from '../shared/ui/place-tabs';

/** The parts of the week: as it repeats, dates that differ, shows and what frames them. */
@Component({
  selector: 'f-week-tabs',
  imports: [PlaceTabs],
  template: `<f-place-tabs [stationId]="stationId()" place="week" label="Parts of the week" [parts]="parts" />`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class WeekTabs {
  readonly stationId = input.required<string>();
  protected readonly parts = [
    { path: '', word: 'Every week' },
    { path: 'dates', word: 'Dates that differ' },
    { path: 'shows', word: 'Shows and openers' },
  ];
}
