import { dialectOf } from '../dialect/dialect.js';
import type { Placed, PlannedMove } from '@fuller/core';
import type { Em } from '../orm.js';
import { rowsOf } from './query.js';
import { visibleSql } from './visible-sql.js';

/** A song’s place that has, or may have, an end. */
export interface PlacedRow extends Placed {
  readonly placementId: string;
  readonly itemId: string;
}

interface Row extends Omit<PlacedRow, 'planned'> {
  /** JSON. */
  readonly planned: string | null;
}

/**
 * The places a station sees whose songs may leave by themselves: those of categories with a life and those with a plan of
 * their own. Plays are counted from the date they came, before an instant, UTC epoch milliseconds; of shared categories at every station.
 */
export async function placedSongs(em: Em, stationId: string, beforeMs: number): Promise<PlacedRow[]> {
  const { member, dateMs, writtenAt } = dialectOf(em);
  const rows = await rowsOf<Row>(
    em,
    `select p.id as "placementId", p.item_id as "itemId", p.category_id as "categoryId", p.since, cast(p.planned as text) as planned,
       case when ${member('c.life', 'unit')} = 'plays' or ${member('p.planned', 'kind')} = 'plays' then
         (select count(*) from play where play.item_id = p.item_id and (c.scope = 'group' or play.station_id = c.station_id)
           and play.start_ms < ? and play.start_ms >= coalesce(${dateMs('p.since')}, 0))
       else 0 end as plays
     from placement p join category c on c.id = p.category_id
     where ${visibleSql('c')} and (c.life is not null or p.planned is not null) order by ${writtenAt('p')}`,
    [beforeMs, stationId],
  );
  return rows.map(({ planned, ...row }) => ({
    ...row,
    planned: planned ? (JSON.parse(planned) as PlannedMove) : null,
  }));
}
