import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import { Icon, type IconName } from './icon';

/** Says that there is nothing yet and what to do next. */
@Component({
  selector: 'f-empty',
  imports: [Icon],
  template: `@if (picture(); as name) {
      <f-icon [name]="name" [size]="56" />
    }
    <h2>{{ title() }}</h2>
    <p class="quiet">{{ text() }}</p>
    <div><ng-content /></div>`,
  styles: `
    :host {
      display: grid;
      gap: 8px;
      justify-items: center;
      align-content: center;
      text-align: center;
      padding: 48px 24px;
      min-height: 220px;
    }
    f-icon {
      margin-bottom: 4px;
      color: var(--line-strong);
    }
    p {
      max-width: 46ch;
    }
    div {
      display: flex;
      gap: 8px;
      margin-top: 6px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class EmptyState {
  /** What the place is about. */
  readonly picture = input<IconName | null>(null);
  readonly title = input.required<string>();
  readonly text = input('');
}
