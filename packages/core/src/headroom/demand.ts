import type { Rule, RuleLocation } from '../rules/rule.js';
import { amountAt } from '../rules/rule.js';
import { daypartsAt } from '../rules/daypart.js';
import type { StationModel } from '../station/station-model.js';
import { elementAt } from '../values/look-up.js';
import { slotsOfWeek } from '../week/week-slots.js';

/** A slot of music that the week asks for. */
export interface DemandSlot {
  /** From Monday 00:00. */
  readonly second: number;
  /** Of the week. */
  readonly hour: number;
  /** Names what it draws from: a category, or a category with a filter. */
  readonly source: string;
  /** What its line shares with others of its clock; null for nothing. */
  readonly themeBy: string | null;
  readonly location: RuleLocation;
}

/** What slots draw from: the values of each of its items under a tag. */
export interface Source {
  readonly categoryId: string;
  readonly items: readonly string[];
  /** The shortest of its items, seconds. */
  readonly shortestSeconds: number;
}

/** What the week asks of the library: its slots of music in order, and what they draw from. */
export interface WeekDemand {
  readonly slots: readonly DemandSlot[];
  readonly sources: ReadonlyMap<string, Source>;
}

/** Lays the week out once; rules are held against it one by one. Speech and imaging, which rules leave alone, are not in it. */
export function weekDemand(model: StationModel): WeekDemand {
  const { data, known } = model;
  const music = new Set(data.musicCategories);
  const sources = new Map<string, Source>();
  const slots = slotsOfWeek(data.plan, model)
    .filter(({ categoryId }) => music.has(categoryId))
    .map(({ categoryId, clockId, showId, filter, themeBy, second }): DemandSlot => {
      const source = filter === '' ? categoryId : `${categoryId} ${filter}`;
      if (!sources.has(source)) {
        const items = model
          .itemsFor(categoryId, filter !== '' && data.filters[filter] ? [filter] : [])
          .filter((id) => known.has(id));
        const lengths = items.map((id) => Math.round((known.get(id)?.durationMs ?? 0) / 1000)).filter(Boolean);
        sources.set(source, { categoryId, items, shortestSeconds: lengths.length ? Math.min(...lengths) : 0 });
      }
      const hour = Math.floor(second / 3600) % 168;
      return {
        second,
        hour,
        source,
        themeBy,
        location: {
          categoryId,
          clockId,
          showId,
          daypartIds: daypartsAt(data.dayparts, Math.floor(hour / 24), hour % 24),
        },
      };
    })
    .sort((a, b) => a.second - b.second);
  return { slots, sources };
}

/** The slots a rule charges, each with the amount it asks there. */
export function chargedSlots(
  { slots }: WeekDemand,
  rule: Pick<Rule, 'tag' | 'amount' | 'exceptions' | 'places'>,
): { readonly slot: DemandSlot; readonly amount: number }[] {
  return slots.flatMap((slot) => {
    // The rule is lifted there.
    if (slot.themeBy !== null && liftsTag(slot.themeBy, rule.tag)) return [];
    const amount = amountAt(rule, slot.location);
    return amount === null ? [] : [{ slot, amount }];
  });
}

/** Whether lines that share something share the values of a tag too, so that its rules are lifted for them. */
function liftsTag(by: string, tag: string): boolean {
  if (by === 'artist') return tag === 'artist' || tag === 'main artist';
  if (by === 'album') return tag === 'album' || tag === 'artist' || tag === 'main artist';
  return by === tag;
}

/** How a source's items bear a value, or the values of a tag. */
export interface ValueShares {
  readonly items: number;
  /** Of its items, how many have each value. */
  readonly byValue: ReadonlyMap<string, number>;
  /** Different first values: so many plays can be without two that share one. */
  readonly distinct: number;
  /** Items without any value, which nothing separates. */
  readonly without: number;
}

/** The values of a tag over each source. */
export function sharesOf(model: StationModel, { sources }: WeekDemand, tag: string): ReadonlyMap<string, ValueShares> {
  return new Map(
    [...sources].map(([name, { items }]) => {
      const byValue = new Map<string, number>();
      const first = new Set<string>();
      let without = 0;
      for (const id of items) {
        const values = model.tagsOfItem.get(id)?.[tag] ?? [];
        if (values.length === 0) without++;
        else first.add(elementAt(values, 0));
        for (const value of values) byValue.set(value, (byValue.get(value) ?? 0) + 1);
      }
      return [name, { items: items.length, byValue, distinct: first.size, without }];
    }),
  );
}

/** The first values of the items of several sources together. */
export function distinctValues(
  model: StationModel,
  { sources }: WeekDemand,
  names: Iterable<string>,
  tag: string,
): { readonly distinct: number; readonly without: boolean } {
  const first = new Set<string>();
  let without = false;
  for (const name of names)
    for (const id of sources.get(name)?.items ?? []) {
      const [value] = model.tagsOfItem.get(id)?.[tag] ?? [];
      if (value === undefined) without = true;
      else first.add(value);
    }
  return { distinct: first.size, without };
}
