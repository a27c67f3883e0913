import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import { PlaceTabs } from '../shared/ui/place-tabs';

/** The parts of the rotation: the turnover sheet, and the songs that are due to move on. */
@Component({
  selector: 'f-rotation-tabs',
  imports: [PlaceTabs],
  template: `<f-place-tabs [stationId]="stationId()" place="rotation" label="Parts of the rotation" [parts]="parts" />`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class RotationTabs {
  readonly stationId = input.required<string>();
  protected readonly parts = [
    { path: '', word: 'Turnover' },
    { path: 'moves', word: 'Moves' },
  ];
}
