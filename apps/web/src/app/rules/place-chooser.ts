import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import type { RulePlace } from '@fuller/core';
import { Store } from '@ngrx/store';
import { catalogueFeature } from '../state/catalogue.feature';
import { Choice } from '../shared/ui/choice';

const KIND_WORDS: Readonly<Record<RulePlace['kind'], string>> = {
  category: 'Category',
  daypart: 'Daypart',
  show: 'Show',
  clock: 'Clock',
};

/** Adds a category, daypart, show or clock. */
@Component({
  selector: 'f-place-chooser',
  imports: [Choice],
  template: `<f-choice
    [options]="options()"
    [value]="null"
    [placeholder]="placeholder()"
    [label]="placeholder()"
    [once]="true"
    (chosen)="choose($event)" />`,
  styles: `
    :host,
    f-choice {
      display: block;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PlaceChooser {
  private readonly store = inject(Store);
  private readonly categories = this.store.selectSignal(catalogueFeature.selectAllCategories);
  private readonly clocks = this.store.selectSignal(catalogueFeature.selectAllClocks);
  private readonly shows = this.store.selectSignal(catalogueFeature.selectShows);
  private readonly dayparts = this.store.selectSignal(catalogueFeature.selectDayparts);
  readonly placeholder = input.required<string>();
  /** Places that are not offered. */
  readonly without = input<readonly RulePlace[]>([]);
  /** Offer places of this kind alone. */
  readonly kind = input<RulePlace['kind'] | null>(null);
  readonly chosen = output<RulePlace>();

  protected readonly options = computed(() => {
    const taken = new Set(this.without().map(({ kind, id }) => `${kind} ${id}`));
    const of = (kind: RulePlace['kind'], rows: readonly { readonly id: string; readonly name: string }[]) =>
      this.kind() === null || this.kind() === kind
        ? rows.map(({ id, name }) => ({ value: `${kind} ${id}`, label: `${KIND_WORDS[kind]} ${name}` }))
        : [];
    return [
      ...of('daypart', this.dayparts()),
      ...of(
        'category',
        this.categories().filter(({ music }) => music),
      ),
      ...of('show', this.shows()),
      ...of('clock', this.clocks()),
    ].filter(({ value }) => !taken.has(value));
  });

  protected choose(value: string): void {
    const space = value.indexOf(' ');
    this.chosen.emit({ kind: value.slice(0, space) as RulePlace['kind'], id: value.slice(space + 1) });
  }
}
