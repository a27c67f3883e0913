import { computed, inject, Injectable, signal } from '@angular/core';
import type { LengthLookup } from '@fuller/core';
import { Store } from '@ngrx/store';
import { catalogueFeature } from '../state/catalogue.feature';
import type { HourNames } from '../shared/ui/hour-shape';

/** Names and lengths of what clocks are made of. */
@Injectable({ providedIn: 'root' })
export class ClockNames {
  private readonly store = inject(Store);
  private readonly categories = this.store.selectSignal(catalogueFeature.selectCategoryMap);
  private readonly stored = this.store.selectSignal(catalogueFeature.selectClockItems);
  /** Items just put into a clock, before the server has told of them. */
  private readonly added = signal<ReadonlyMap<string, { title: string; durationMs: number }>>(new Map());
  private readonly items = computed(() => new Map([...this.added(), ...this.stored().map((item) => [item.id, item] as const)]));

  readonly names = computed<HourNames>(() => {
    const [categories, items] = [this.categories(), this.items()];
    return { category: (id) => categories[id], itemTitle: (id) => items.get(id)?.title ?? 'Deleted item' };
  });
  readonly lengths = computed<LengthLookup>(() => {
    const [categories, items] = [this.categories(), this.items()];
    return { averageOf: (id) => categories[id]?.averageMs ?? 0, lengthOf: (id) => items.get(id)?.durationMs ?? 0 };
  });

  remember(id: string, title: string, durationMs: number): void {
    this.added.update((items) => new Map(items).set(id, { title, durationMs }));
  }
}
