import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import { PlaceTabs } from '../shared/ui/place-tabs';

/** Who and what is let in: people, and other programs. */
@Component({
  selector: 'f-people-tabs',
  imports: [PlaceTabs],
  template: `<f-place-tabs [stationId]="stationId()" place="people" label="Who is let in" [parts]="parts" />`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PeopleTabs {
  readonly stationId = input.required<string>();
  protected readonly parts = [
    { path: '', word: 'People' },
    { path: 'tokens', word: 'Other programs' },
  ];
}
