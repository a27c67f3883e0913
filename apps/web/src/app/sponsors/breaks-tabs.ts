import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { PlaceTabs } from '../shared/ui/place-tabs';

/** The parts of Breaks: the commercials of a day, and sponsors with what was promised to them. */
@Component({
  selector: 'f-breaks-tabs',
  imports: [PlaceTabs],
  template: `<f-place-tabs [stationId]="stationId()" place="breaks" label="Parts of Breaks" [parts]="parts()" />`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class BreaksTabs {
  readonly stationId = input.required<string>();
  /** The commercials of a day have the day in their address. */
  readonly commercials = input(false);
  protected readonly parts = computed(() => [
    { path: '', word: 'Commercials', here: this.commercials() },
    { path: 'sponsors', word: 'Sponsors' },
  ]);
}
