import { computed, inject, Injectable } from '@angular/core';
import {
  amountInCategory,
  slotsOfWeek,
  usageOfClocks,
  type Draw,
  type Framing,
  type Usage,
  type WeekSlot,
} from '@fuller/core';
import { Store } from '@ngrx/store';
import { plural } from '../shared/text/plural';
import { catalogueFeature } from '../state/catalogue.feature';
import { ClockNames } from './clock-names';
import { weekTimes } from './line-words';

const FRAMES: Readonly<Record<keyof Framing, string>> = {
  hourOpenerId: 'It opens every hour.',
  hourCloserId: 'It closes every hour.',
  showOpenerId: 'It opens every show.',
  showCloserId: 'It closes every show.',
  momentsId: 'Its moments stand in every hour.',
};

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

  /** How much of the week a clock is on the air. */
  hoursWords(clockId: string): string {
    const hours = this.usageOf(clockId).reduce((sum, { from, to }) => sum + (to - from) / 60, 0);
    if (hours) return `${plural(Math.round(hours * 10) / 10, 'hour')} a week`;
    return this.framesWords(clockId) ? 'opener or closer' : 'not in the week';
  }

  /** Where a clock is used: in the week, in shows, on dates, or round the hours of others. */
  whereWords(clockId: string): string {
    const { shows = [], dates = [] } = this.plan() ?? {};
    const times = weekTimes(this.usageOf(clockId));
    const inShows = shows.filter(({ clockIds }) => clockIds.includes(clockId)).map(({ name }) => name);
    const onDates = dates
      .filter(({ blocks }) => blocks.some(({ runs, id }) => runs === 'clock' && id === clockId))
      .map(({ name }) => name);
    return [
      times ? `It runs ${times}.` : (this.framesWords(clockId) ?? 'It is not in the week.'),
      inShows.length ? `It belongs to ${inShows.join(', ')}.` : '',
      onDates.length ? `Dates have it: ${onDates.join(', ')}.` : '',
    ]
      .filter((words) => words !== '')
      .join(' ');
  }

  /** What a clock frames; null where it frames nothing. */
  private framesWords(id: string): string | null {
    const framing = this.plan()?.framing;
    const found = Object.entries(FRAMES).find(([field]) => framing?.[field as keyof Framing] === id);
    return found?.[1] ?? null;
  }

  /** Slots a week that draw from the same. */
  slotsOf(draw: Draw): number {
    return this.byDraw().get(keyOf(draw)) ?? 0;
  }

  /** How long titles of a category rest, seconds. */
  titleSeconds(categoryId: string): number {
    const asked = this.rules()
      .filter((rule) => rule.shape === 'apart' && rule.tag === 'title' && !rule.resting)
      .map((rule) => amountInCategory(rule, categoryId) ?? 0);
    const music = this.store.selectSignal(catalogueFeature.selectCategoryMap)()[categoryId]?.music;
    return music ? Math.max(0, ...asked) : 0;
  }
}

function keyOf({ categoryId, filter }: Draw): string {
  return `${categoryId}\u001f${filter}`;
}
