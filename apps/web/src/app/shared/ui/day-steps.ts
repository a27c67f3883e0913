import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import { Icon } from './icon';
import { SmallButton } from './small-button';

/** The day, or days, a place is about, with the ways to those beside it. */
@Component({
  selector: 'f-day-steps',
  imports: [Icon, SmallButton],
  template: `<button fButton="text" (click)="step.emit(-1)" [attr.aria-label]="before()">
      <f-icon name="down" class="left" />
    </button>
    <h1 [id]="headId()">{{ day() }}</h1>
    <button fButton="text" (click)="step.emit(1)" [attr.aria-label]="after()">
      <f-icon name="down" class="right" />
    </button>`,
  styles: `
    :host {
      display: flex;
      gap: 8px;
      align-items: center;
    }
    h1 {
      white-space: nowrap;
    }
    .left {
      transform: rotate(90deg);
    }
    .right {
      transform: rotate(-90deg);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class DaySteps {
  readonly day = input.required<string>();
  /** Names the head for the part of the page it stands over. */
  readonly headId = input.required<string>();
  readonly before = input('The day before');
  readonly after = input('The day after');
  readonly step = output<1 | -1>();
}
