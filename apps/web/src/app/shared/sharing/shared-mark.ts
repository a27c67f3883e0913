import { booleanAttribute, ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import type { Scope } from '@fuller/core';
import { Store } from '@ngrx/store';
import { Icon } from '../ui/icon';
import { catalogueFeature } from '../../state/catalogue.feature';

/** Marks what all stations see, where there are several; what is not marked is the station’s own. */
@Component({
  selector: 'f-shared-mark',
  imports: [Icon],
  template: `@if (shown()) {
    @if (compact()) {
      <f-icon name="shared" [size]="13" role="img" aria-label="shared" [title]="words" />
    } @else {
      <span [title]="words">shared</span>
    }
  }`,
  styles: `
    :host:not(:empty) {
      margin-left: 6px;
    }
    f-icon {
      margin: 0 -4px 0 -6px;
      color: var(--quiet);
    }
    span {
      padding: 0 5px;
      border: 1px solid var(--line-strong);
      border-radius: 3px;
      color: var(--quiet);
      font-weight: 400;
      font-size: 11.5px;
      white-space: nowrap;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SharedMark {
  private readonly stations = inject(Store).selectSignal(catalogueFeature.selectStations);
  /** A sign in place of the word, where there is little room. */
  readonly compact = input(false, { transform: booleanAttribute });
  protected readonly words = 'Shared: every station sees it and can use it';
  readonly scope = input.required<Scope | string>();
  protected readonly shown = computed(() => this.scope() === 'group' && this.stations().length > 1);
}
