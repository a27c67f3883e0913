import type { BeginSong } from '@fuller/core';
import type { Em } from '../../orm.js';
import { rowsOf } from './query.js';
import { visibleSql } from './visible-sql.js';

interface Row extends Omit<BeginSong, 'artistIds' | 'tags'> {
  readonly artists: string | null;
  /** JSON. */
  readonly tags: string;
}

/** The songs of a station, or those alone that stand in no category it sees, in the order of their ids. */
export async function songsToBegin(em: Em, stationId: string, withoutCategory: boolean): Promise<BeginSong[]> {
  const rows = await rowsOf<Row>(
    em,
    `select i.id, i.year, i.start_date as startDate, i.file, i.duration_ms as durationMs, i.tags,
       (select count(*) from play where play.item_id = i.id and play.station_id = ?) as plays,
       (select group_concat(artist_id) from credit where item_id = i.id) as artists
     from item i where i.kind = 'song' and ${visibleSql('i')} and (not ? or not exists
       (select 1 from placement p join category c on c.id = p.category_id where p.item_id = i.id and ${visibleSql('c')}))
     order by i.id`,
    [stationId, stationId, withoutCategory ? 1 : 0, stationId],
  );
  return rows.map(({ artists, tags, ...row }) => ({
    ...row,
    artistIds: artists?.split(',') ?? [],
    tags: JSON.parse(tags) as BeginSong['tags'],
  }));
}
