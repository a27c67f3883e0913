import { ChangeDetectionStrategy, Component } from '@angular/core';
import { EmptyState } from '../shared/ui/empty-state';

@Component({
  selector: 'f-not-there',
  imports: [EmptyState],
  template: `<f-empty title="There is nothing at this address" text="Choose a place on the left." />`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class NotThere {}
