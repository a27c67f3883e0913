import { computed, inject, Injectable } from '@angular/core';
import { slotsOfWeek, usageOfClocks, type Draw, type Usage, type WeekSlot } from '@fuller/core';
import { Store } from '@ngrx/store';
import { catalogueFeature } from '../state/catalogue.feature';
import { ClockNames } from './clock-names';

/** What the week makes of clocks: when each is on, and what their lines ask of categories. */
@Injectable({ providedIn: 'root' })
export class WeekUse {
  private readonly store = inject(Store);
  private readonly clockNames = inject(ClockNames);
  private readonly plan = this.store.selectSignal(catalogueFeature.selectAirPlan);
  private readonly rules = this.store.selectSignal(catalogueFeature.selectAllRules);
  private readonly slots = computed<WeekSlot[]>(() => {
    const plan = this.plan();
    return plan ? slotsOfWeek(plan, this.clockNames.lengths()) : [];
  });
  private readonly byDraw = computed(() => {
    const counts = new Map<string, number>();
    for (const slot of this.slots()) counts.set(keyOf(slot), (counts.get(keyOf(slot)) ?? 0) + 1);
    return counts;
  });
  private readonly usage = computed<ReadonlyMap<string, readonly Usage[]>>(() => {
    const plan = this.plan();
    return plan ? usageOfClocks(plan) : new Map<string, readonly Usage[]>();
  });

  /** When a clock is on the air in the week. */
  usageOf(clockId: string): readonly Usage[] {
    return this.usage().get(clockId) ?? [];
  }

  /** Slots a week that draw from the same. */
  slotsOf(draw: Draw): number {
    return this.byDraw().get(keyOf(draw)) ?? 0;
  }

  /** How long titles of a category rest, seconds. */
  titleSeconds(categoryId: string): number {
    const asked = this.rules()
      .filter((rule) => rule.tag === 'title' && !rule.resting)
      .map((rule) => rule.secondsByCategory[categoryId] ?? rule.seconds);
    const music = this.store.selectSignal(catalogueFeature.selectCategoryMap)()[categoryId]?.music;
    return music ? Math.max(0, ...asked) : 0;
  }
}

function keyOf({ categoryId, filter }: Draw): string {
  return `${categoryId}\u001f${filter}`;
}
