import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import { PlaceTabs } from '../shared/ui/place-tabs';

/** The parts of what is on the air: now, what aired, the proof of it. */
@Component({
  selector: 'f-on-air-tabs',
  imports: [PlaceTabs],
  template: `<f-place-tabs [stationId]="stationId()" place="on-air" label="Parts of On air" [parts]="parts" />`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class OnAirTabs {
  readonly stationId = input.required<string>();
  protected readonly parts = [
    { path: '', word: 'Now' },
    { path: 'requests', word: 'Requests' },
    { path: 'as-run', word: 'What aired' },
    { path: 'proof', word: 'Proof for sponsors' },
  ];
}
