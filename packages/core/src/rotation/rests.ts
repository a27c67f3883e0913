import { elementAt } from '../values/look-up.js';
/** How one item of a category has really turned over. */
export interface ItemRest {
  readonly itemId: string;
  /** Since its last play, milliseconds; null when it has not played in the time looked at. */
  readonly sinceMs: number | null;
  /** Mean and least of the rests between its plays, milliseconds; null with fewer than two plays. */
  readonly averageMs: number | null;
  readonly shortestMs: number | null;
  readonly plays: number;
  readonly state: 'even' | 'left behind' | 'worn';
}

/** This much longer than the longest expected rest, and an item counts as left behind. */
const BEHIND = 1.25;
/** So many plays more than its share, and an item counts as worn. */
const WORN_SHARE = 1.25;
const WORN_PLAYS = 2;

/**
 * The real rests of items from their plays (UTC epoch milliseconds, oldest first) up to now; `expected` is what strict rotation gives,
 * in milliseconds, null where nothing rotates.
 */
export function itemRests(
  plays: ReadonlyMap<string, readonly number[]>,
  itemIds: readonly string[],
  nowMs: number,
  expected: { readonly averageMs: number; readonly longestMs: number } | null,
): ItemRest[] {
  const share = itemIds.reduce((sum, id) => sum + (plays.get(id)?.length ?? 0), 0) / Math.max(1, itemIds.length);
  return itemIds.map((itemId): ItemRest => {
    const own = plays.get(itemId) ?? [];
    const gaps = own.slice(1).map((at, i) => at - elementAt(own, i));
    const last = own.at(-1);
    const sinceMs = last === undefined ? null : nowMs - last;
    const behind = expected !== null && (sinceMs === null || sinceMs > expected.longestMs * BEHIND);
    const worn = own.length > share * WORN_SHARE && own.length >= share + WORN_PLAYS;
    return {
      itemId,
      sinceMs,
      averageMs: gaps.length > 0 ? gaps.reduce((sum, gap) => sum + gap, 0) / gaps.length : null,
      shortestMs: gaps.length > 0 ? Math.min(...gaps) : null,
      plays: own.length,
      state: behind ? 'left behind' : worn ? 'worn' : 'even',
    };
  });
}
