import type { Draw } from '@fuller/core';
import type { Em } from '../orm.js';
import { list, listed, rowOf, rowsOf } from './query.js';
import { visibleSql } from './visible-sql.js';

/** How many items there are, the mean of their lengths and of the squares of these; null means of no items. */
export interface LengthMoments {
  readonly items: number;
  readonly average: number | null;
  readonly squares: number | null;
}

const MOMENTS = `count(*) as items, avg(duration_ms) as average, avg(1.0 * duration_ms * duration_ms) as squares`;

/** Lengths of some items. */
export function momentsOfItems(em: Em, ids: Iterable<string>): Promise<LengthMoments> {
  return rowOf(em, `select ${MOMENTS} from item where id in (${listed(em)})`, [list(ids)]);
}

/** Lengths of what every category holds. */
export function momentsByCategory(em: Em): Promise<(LengthMoments & { categoryId: string })[]> {
  return rowsOf(
    em,
    `select p.category_id as "categoryId", ${MOMENTS} from placement p join item i on i.id = p.item_id group by p.category_id`,
  );
}

/** What a draw finds: the items of a category or of a pool, those a filter lets through; null filters nothing. */
interface DrawnFrom {
  readonly draw: Draw;
  readonly pool: readonly string[] | undefined;
  readonly fitting: readonly string[] | null;
}

/** Lengths of what a line draws from. */
export function momentsOfDraw(em: Em, { draw, pool, fitting }: DrawnFrom): Promise<LengthMoments> {
  return rowOf(
    em,
    `select ${MOMENTS} from item where (? or id in (${listed(em)}))
       and (id in (${listed(em)}) or exists
         (select 1 from placement p where p.item_id = item.id and p.category_id = ?))`,
    [fitting === null, list(fitting ?? []), list(pool ?? []), draw.categoryId],
  );
}

/** How long an item of a draw plays until the next one begins, on average, milliseconds; 0 where it finds none. */
export async function averageOfDraw(em: Em, stationId: string, { draw, pool, fitting }: DrawnFrom): Promise<number> {
  const { ms } = await rowOf<{ ms: number | null }>(
    em,
    `select avg(duration_ms - coalesce(segue_ms, 0)) as ms from item
     where id in (select item_id from placement where category_id = ? union ${listed(em)})
       and (? or id in (${listed(em)})) and ${visibleSql('item')}`,
    [draw.categoryId, list(pool ?? []), fitting === null, list(fitting ?? []), stationId],
  );
  return Math.round(ms ?? 0);
}
