import { dialectOf } from '../dialect/dialect.js';
import type { Em } from '../orm.js';
import { rowOf, rowsOf } from './query.js';
import { visibleSql } from './visible-sql.js';

/** How many items a category holds, and how often a station has played them. */
export function itemsAndPlaysOfCategory(
  em: Em,
  stationId: string,
  categoryId: string,
): Promise<{ items: number; plays: number }> {
  return rowOf(
    em,
    `select count(*) as items, (select count(*) from play where station_id = ? and item_id in
         (select item_id from placement where category_id = ?)) as plays
     from placement where category_id = ?`,
    [stationId, categoryId, categoryId],
  );
}

/** How many items a station sees, and how many of them are in none of its categories. */
export async function countItemsSeen(em: Em, stationId: string): Promise<{ items: number; withoutCategory: number }> {
  const row = await rowOf<{ items: number; bare: number }>(
    em,
    `select count(*) as items, count(*) filter (where not exists (select 1 from placement p join category c on c.id = p.category_id
       where p.item_id = i.id and ${visibleSql('c')})) as bare
     from item i where ${visibleSql('i')}`,
    [stationId, stationId],
  );
  return { items: row.items, withoutCategory: row.bare };
}

/** The place after the last row of a table. */
export async function nextPosition(
  em: Em,
  table: 'category' | 'clock' | 'rule' | 'show' | 'date_plan' | 'daypart' | 'sponsor' | 'set_list' | 'kept_report',
): Promise<number> {
  const { next } = await rowOf<{ next: number }>(em, `select coalesce(max(position), 0) + 1 as next from ${table}`);
  return next;
}

/** How many items have each value of each tag family. */
export function countTagValues(em: Em): Promise<{ family: string; value: string; items: number }[]> {
  return rowsOf(
    em,
    `select f.key as family, v.value as value, count(*) as items
     from item i, ${dialectOf(em).tagsOfItems} group by f.key, v.value`,
  );
}

/** The items that have a tag family, with all their tags. */
export async function itemsWithFamily(
  em: Em,
  family: string,
): Promise<{ itemId: string; tags: Record<string, string[]> }[]> {
  const dialect = dialectOf(em);
  const rows = await rowsOf<{ id: string; tags: string }>(
    em,
    `select id, cast(tags as text) as tags from item where ${dialect.hasFamily}`,
    [dialect.familyOf(family)],
  );
  return rows.map(({ id, tags }) => ({ itemId: id, tags: JSON.parse(tags) as Record<string, string[]> }));
}
