/** How many of the hours of the day a number of plays reach, against what chance would reach. */
export interface HourSpread {
  readonly plays: number;
  readonly hours: number;
  /** Hours reached by as many plays thrown among the category's slots by chance. */
  readonly byChance: number;
  /** hours / byChance: 1 is chance, more is better spread, less returns to the same hours. */
  readonly index: number;
}

/**
 * The hour spread of an item. The hours reached by chance are the boxes filled in the occupancy problem with unequal boxes,
 * Σ 1 - (1 - p)ⁿ (Feller, An Introduction to Probability Theory I, 1968, IV.2), p being the share of the category's slots in an hour.
 * Null with fewer than two plays, of which nothing can be said.
 */
export function hourSpread(hoursOfPlays: readonly number[], slotsByHour: readonly number[]): HourSpread | null {
  const n = hoursOfPlays.length;
  const total = slotsByHour.reduce((sum, one) => sum + one, 0);
  if (n < 2 || total === 0) return null;
  const byChance = slotsByHour.reduce((sum, slots) => sum + 1 - (1 - slots / total) ** n, 0);
  const hours = new Set(hoursOfPlays).size;
  return { plays: n, hours, byChance, index: hours / byChance };
}

/** The spread of a category: of its items together, each weighing as many hours as chance would reach; null where there is none. */
export function categorySpread(items: readonly (HourSpread | null)[]): number | null {
  const known = items.filter((one) => one !== null);
  const byChance = known.reduce((sum, one) => sum + one.byChance, 0);
  return byChance > 0 ? known.reduce((sum, one) => sum + one.hours, 0) / byChance : null;
}
