import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { CategoryRow } from '@fuller/contracts';
import { Store } from '@ngrx/store';
import { Select } from 'primeng/select';
import { catalogueFeature } from '../../state/catalogue.feature';
import { Band } from './band';

/** Chooses a category by typing its name or code. */
@Component({
  selector: 'f-category-chooser',
  imports: [Select, FormsModule, Band],
  template: `<p-select
    #select
    [options]="options()"
    [ngModel]="value()"
    (ngModelChange)="choose.emit($event)"
    optionValue="id"
    optionLabel="search"
    [filter]="true"
    filterBy="search"
    [autofocus]="false"
    [autofocusFilter]="true"
    [placeholder]="placeholder()"
    [ariaLabel]="label()"
    [inputId]="fieldId()"
    appendTo="body"
    scrollHeight="360px"
    [resetFilterOnHide]="true"
    [style]="{ width: '100%' }">
    <ng-template #selectedItem let-one
      ><span class="one"><f-band [colour]="one.colour" [code]="one.code" />{{ one.name }}</span></ng-template
    >
    <ng-template #item let-one
      ><span class="one"
        ><f-band [colour]="one.colour" [code]="one.code" /><span>{{ one.name }}</span
        ><span class="quiet count">{{ one.items }}</span></span
      ></ng-template
    >
  </p-select>`,
  styles: `
    :host {
      display: block;
    }
    .one {
      display: flex;
      align-items: center;
      gap: 8px;
      width: 100%;
      font-size: 14px;
    }
    f-band {
      min-width: 34px;
    }
    .count {
      margin-left: auto;
    }
    :host ::ng-deep .p-select-label {
      padding: 5px 9px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class CategoryChooser {
  private readonly store = inject(Store);
  private readonly categories = this.store.selectSignal(catalogueFeature.selectAllCategories);
  private readonly sources = this.store.selectSignal(catalogueFeature.selectSources);
  /** Offer pools as well. */
  readonly withPools = input(false);
  readonly value = input<string | null>(null);
  readonly placeholder = input('Choose a category');
  readonly label = input('Category');
  readonly fieldId = input('category-chooser');
  readonly choose = output<string>();

  protected readonly options = computed(() =>
    (this.withPools() ? this.sources() : this.categories()).map((category: CategoryRow) => ({
      ...category,
      search: `${category.code} ${category.name}`,
    })),
  );
}
