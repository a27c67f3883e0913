import type { BeginSong } from '@fuller/core';
import type { Em } from '../orm.js';
import { rowsOf } from './query.js';
import { visibleSql } from './visible-sql.js';

/** A song, and whether it stands in a category the station sees. */
export interface SongToBegin extends BeginSong {
  readonly placed: boolean;
}

interface Row extends Omit<SongToBegin, 'artistIds' | 'tags' | 'placed'> {
  readonly placed: number | boolean;
  readonly artists: string | null;
  /** JSON. */
  readonly tags: string;
}

/** The songs of a station, in the order of their ids. */
export async function songsToBegin(em: Em, stationId: string): Promise<SongToBegin[]> {
  const rows = await rowsOf<Row>(
    em,
    `select i.id, i.year, i.start_date as "startDate", i.file, i.duration_ms as "durationMs", cast(i.tags as text) as tags,
       (select count(*) from play where play.item_id = i.id and play.station_id = ?) as plays,
       (select string_agg(artist_id, ',') from credit where item_id = i.id) as artists,
       exists (select 1 from placement p join category c on c.id = p.category_id where p.item_id = i.id and ${visibleSql('c')}) as placed
     from item i where i.kind = 'song' and ${visibleSql('i')} order by i.id`,
    [stationId, stationId, stationId],
  );
  return rows.map(({ artists, tags, placed, ...row }) => ({
    ...row,
    placed: Boolean(placed),
    artistIds: artists?.split(',') ?? [],
    tags: JSON.parse(tags) as BeginSong['tags'],
  }));
}
