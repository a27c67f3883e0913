import type { HandOverChanges } from '@fuller/contracts';
import { allEntries, compareLogs, itemOf, type DailyLog, type LogEntry } from '@fuller/core';
import { itemsToHandOver } from '../db/queries/items.js';
import type { Em } from '../db/orm.js';

const MOST_ROWS = 200;

/** The rows of a log that play something else than in an earlier state of it. */
export async function changedRows(em: Em, before: DailyLog, after: DailyLog): Promise<HandOverChanges> {
  const ids = [before, after].flatMap((log) => allEntries(log).flatMap((entry) => itemOf(entry) ?? []));
  const items = new Map((await itemsToHandOver(em, new Set(ids))).map((item) => [item.id, item]));
  const wordsOf = (entry: LogEntry | null): string | null => {
    if (!entry || entry.kind === 'note' || entry.out) return null;
    if (entry.kind === 'break') {
      const spots = (entry.spots ?? []).map(({ cart, sponsor }) => sponsor || cart);
      return spots.length > 0 ? `Break: ${spots.join(', ')}` : 'Break';
    }
    const itemId = itemOf(entry);
    if (itemId === null) return 'Open slot';
    const item = items.get(itemId);
    return item ? [item.artist, item.title].filter(Boolean).join(' - ') : 'A deleted item';
  };
  const rows = compareLogs(before, after)
    .rows.filter(({ differs }) => differs)
    .map((row) => ({ hourIndex: row.hourIndex, before: wordsOf(row.before), after: wordsOf(row.after) }))
    // A lock or a note is nothing to the player.
    .filter((row) => row.before !== row.after);
  return { known: true, total: rows.length, rows: rows.slice(0, MOST_ROWS) };
}
