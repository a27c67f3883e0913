import { ChangeDetectionStrategy, Component, input } from '@angular/core';

/** A category's narrow band of colour with its short code. */
@Component({
  selector: 'f-band',
  template: `<i [style.background]="colour()"></i><span class="mono">{{ code() }}</span>`,
  styles: `
    :host {
      display: inline-flex;
      align-items: center;
      gap: 6px;
      min-width: 0;
      vertical-align: middle;
    }
    i {
      width: 4px;
      height: 16px;
      border-radius: 1px;
      flex: none;
    }
    span {
      font-size: 12px;
      font-weight: 600;
      line-height: 16px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Band {
  readonly colour = input.required<string>();
  readonly code = input('');
}
