import { computed, inject, Injectable, signal } from '@angular/core';
import type { DrawCount } from '@fuller/contracts';
import type { Draw, LengthLookup } from '@fuller/core';
import { Store } from '@ngrx/store';
import { catalogueFeature } from '../state/catalogue.feature';
import type { HourNames } from '../shared/ui/hour-shape';

/** Names and lengths of what clocks are made of. */
@Injectable({ providedIn: 'root' })
export class ClockNames {
  private readonly store = inject(Store);
  private readonly categories = this.store.selectSignal(catalogueFeature.selectCategoryMap);
  private readonly draws = this.store.selectSignal(catalogueFeature.selectDraws);
  readonly setLists = this.store.selectSignal(catalogueFeature.selectSetLists);
  private readonly families = this.store.selectSignal(catalogueFeature.selectFamilies);
  private readonly teaseMs = this.store.selectSignal(catalogueFeature.selectTeaseMs);
  private readonly stored = this.store.selectSignal(catalogueFeature.selectClockItems);
  /** Items just put into a clock, before the server has told of them. */
  private readonly added = signal<ReadonlyMap<string, { title: string; durationMs: number }>>(new Map());
  private readonly items = computed(
    () => new Map([...this.added(), ...this.stored().map((item) => [item.id, item] as const)]),
  );

  readonly names = computed<HourNames>(() => {
    const [categories, items] = [this.categories(), this.items()];
    const lists = new Map(this.setLists().map((list) => [list.id, list]));
    return {
      category: (id) => categories[id],
      itemTitle: (id) => items.get(id)?.title ?? 'Deleted item',
      line: () => 'a line',
      setList: (id) => lists.get(id)?.name ?? 'Deleted set list',
    };
  });
  readonly lengths = computed<LengthLookup>(() => {
    const [categories, items] = [this.categories(), this.items()];
    const lists = new Map(this.setLists().map((list) => [list.id, list]));
    const count = (draw: Draw): { averageMs: number; standardDeviationMs: number } | undefined =>
      this.counted(draw) ?? categories[draw.categoryId];
    return {
      teaseMs: this.teaseMs(),
      setListMs: (id, take) => {
        const list = lists.get(id);
        if (!list?.rows) return 0;
        return Math.round(take === 'all' ? list.totalMs : (list.totalMs / list.rows) * take);
      },
      averageOf: (draw) => count(draw)?.averageMs ?? 0,
      standardDeviationOf: (draw) => count(draw)?.standardDeviationMs ?? 0,
      lengthOf: (id) => items.get(id)?.durationMs ?? 0,
    };
  });

  /** How many items a line can draw from; null while a filter has not been counted. */
  itemsFor(draw: Draw): number | null {
    if (draw.filter === '') return this.categories()[draw.categoryId]?.items ?? 0;
    return this.counted(draw)?.items ?? null;
  }

  /** What the server has counted for a draw with a filter. */
  counted({ categoryId, filter }: Draw): DrawCount | undefined {
    return filter === ''
      ? undefined
      : this.draws().find((draw) => draw.categoryId === categoryId && draw.filter === filter);
  }

  /** What clock text can name. */
  readonly book = computed(() => ({
    sources: Object.values(this.categories()).flatMap((category) =>
      category ? [{ id: category.id, name: category.name }] : [],
    ),
    items: [...this.items()].map(([id, { title }]) => ({ id, name: title })),
    setLists: this.setLists().map(({ id, name }) => ({ id, name })),
    families: this.families().map(({ name }) => name),
  }));

  remember(id: string, title: string, durationMs: number): void {
    this.added.update((items) => new Map(items).set(id, { title, durationMs }));
  }
}
