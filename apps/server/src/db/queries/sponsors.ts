import type { Em } from '../orm.js';
import { list, listed, rowsOf } from './query.js';
import { visibleSql } from './visible-sql.js';

/** The sponsor messages a station sees, each with its sponsor as its artist. */
export function messagesOfStation(em: Em, stationId: string): Promise<{ id: string; artist: string }[]> {
  return rowsOf(
    em,
    `select i.id, i.artist from item i where ${visibleSql('i')} and i.kind = 'sponsor message' order by i.id`,
    [stationId],
  );
}

/** The sponsor messages that aired on some dates. */
export function airedMessages(
  em: Em,
  stationId: string,
  dates: readonly string[],
): Promise<{ date: string; artist: string }[]> {
  return rowsOf(
    em,
    `select "date", artist from as_run_row
     where station_id = ? and kind = 'sponsor message' and "date" in (${listed(em)})`,
    [stationId, list(dates)],
  );
}
