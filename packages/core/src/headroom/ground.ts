import type { Rule } from '../rules/rule.js';
import type { StationModel } from '../station/station-model.js';
import { elementAt } from '../values/look-up.js';
import type { DemandSlot, ValueShares, WeekDemand } from './demand.js';

/** What the numbers of a headroom count. */
export type HeadroomMeasure =
  /** Slots in the busiest stretch of the length of the rule, against values that differ. */
  | 'different values'
  /** Plays of a value that its share of the library asks for, against what the rule allows. */
  | 'share of a value'
  /** Slots that can hold nothing but the value, against what the rule allows. */
  | 'forced plays'
  /** Plays an hour the rule asks for, against slots that can give them. */
  | 'supply of a value';

/** One comparison of what is asked with what there can be. */
export interface Bound {
  readonly demand: number;
  readonly capacity: number;
  readonly measure: HeadroomMeasure;
  readonly value: string | null;
  readonly categoryId: string | null;
  readonly at: number | null;
  /** Whether no log at all can meet it, as against one that lets items fall behind. */
  readonly proven: boolean;
}

/** A rule with the slots it charges and the values of what they draw from. */
export interface Ground {
  readonly model: StationModel;
  readonly demand: WeekDemand;
  readonly rule: Rule;
  readonly charged: readonly { readonly slot: DemandSlot; readonly amount: number }[];
  readonly shares: ReadonlyMap<string, ValueShares>;
}

/** Whether a source has nothing but a value. */
export function isForced(share: ValueShares | undefined, value: string): boolean {
  return share !== undefined && share.items > 0 && share.byValue.get(value) === share.items;
}

/** The category of the one source there is; null of several. */
export function categoryOf({ sources }: WeekDemand, names: readonly string[]): string | null {
  return names.length === 1 ? (sources.get(elementAt(names, 0))?.categoryId ?? null) : null;
}

/** The values that can matter: the rule's own, or those of which there is more than one item in some source. */
export function valuesOf(rule: Rule, slots: Ground['charged'], shares: ReadonlyMap<string, ValueShares>): string[] {
  if (rule.value !== null) return [rule.value];
  const most = new Map<string, number>();
  for (const name of new Set(slots.map(({ slot }) => slot.source)))
    for (const [value, count] of shares.get(name)?.byValue ?? []) most.set(value, (most.get(value) ?? 0) + count);
  return [...most]
    .sort((a, b) => b[1] - a[1])
    .slice(0, 40)
    .map(([value]) => value);
}

/** The share of a source's items that have a value. */
export function shareOf(share: ValueShares | undefined, value: string): number {
  return share && share.items > 0 ? (share.byValue.get(value) ?? 0) / share.items : 0;
}
