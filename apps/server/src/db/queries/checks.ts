import { dialectOf, isPostgres } from '../dialect/dialect.js';
import { SEARCH_INDEX_NOTES } from '../dialect/sqlite/search-index.js';
import { rowOf, rowsOf } from './query.js';
import type { Em } from '../orm.js';

/** Rows that point at a row that is gone; the first names of each kind. */
export interface Orphans {
  readonly what: string;
  readonly count: number;
  readonly examples: readonly string[];
}

/** Tables whose rows belong to a row of another, by which column; rows without it are of no use. */
const BELONGING = [
  ['credit', 'item_id', 'item', 'credits of items that are gone'],
  ['placement', 'item_id', 'item', 'places in categories of items that are gone'],
  ['placement', 'category_id', 'category', 'places in categories that are gone'],
  ['activity_change', 'activity_id', 'activity', 'details of changes that are forgotten'],
  ['session', 'person_id', 'person', 'sessions of accounts that are gone'],
] as const;

/** What a table holds that belongs to nothing. */
export async function orphans(em: Em): Promise<Orphans[]> {
  const found: Orphans[] = [];
  for (const [table, column, parent, what] of BELONGING) {
    const { n } = await rowOf<{ n: number }>(
      em,
      `select count(*) as n from "${table}" where "${column}" not in (select id from "${parent}")`,
    );
    if (n > 0) found.push({ what, count: n, examples: [] });
  }
  return found;
}

/** Deletes what belongs to nothing. */
export async function removeOrphans(em: Em): Promise<void> {
  for (const [table, column, parent] of BELONGING)
    await rowsOf(em, `delete from "${table}" where "${column}" not in (select id from "${parent}")`);
}

/** How many items the search does not know, or knows though they are gone. */
export async function searchGap(em: Em): Promise<number> {
  // PostgreSQL keeps the words of an item in the item itself.
  if (isPostgres(em)) return 0;
  const { n } = await rowOf<{ n: number }>(
    em,
    `select (select count(*) from item where rowid not in (select rowid from item_search))
      + (select count(*) from item_search where rowid not in (select rowid from item)) as n`,
  );
  return n;
}

/** Makes the full-text index from the items again. */
export async function rebuildSearch(em: Em): Promise<void> {
  if (isPostgres(em)) return;
  for (const statement of SEARCH_INDEX_NOTES) await rowsOf(em, statement);
}

/** Entries of logs that name an item there is none of, by log, from a date on. */
export function lostItems(
  em: Em,
  from: string,
): Promise<{ stationId: string; station: string; date: string; entryId: string }[]> {
  const { member, entriesOfLogs } = dialectOf(em);
  return rowsOf(
    em,
    `select l.station_id as "stationId", s.name as station, l.date as date, ${member('e.value', 'id')} as "entryId"
     from daily_log l join station s on s.id = l.station_id, ${entriesOfLogs}
     where l.date >= ? and ${member('e.value', 'itemId')} is not null
       and ${member('e.value', 'itemId')} not in (select id from item)
     order by l.date`,
    [from],
  );
}

/** Items with a file, by where it is. */
export function filesOfItems(em: Em): Promise<{ title: string; file: string }[]> {
  return rowsOf(em, `select title, file from item where file is not null and file <> '' order by title`);
}
