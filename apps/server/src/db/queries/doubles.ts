import type { Em } from '../orm.js';
import { rowsOf } from './query.js';
import { visibleSql } from './visible-sql.js';

const MAIN_ARTIST = `(select artist_id from credit where item_id = i.id order by position limit 1)`;

/** An album by what its songs print, under the artist they credit first. */
export interface AlbumName {
  readonly album: string;
  readonly artistId: string;
  readonly artist: string;
  readonly songs: number;
}

/** A song that is scheduled: a double that is in no category does no harm. */
export interface ScheduledSong {
  readonly id: string;
  readonly title: string;
  readonly artist: string;
  readonly durationMs: number;
  readonly year: number | null;
  readonly categoryId: string;
  readonly mainArtist: string;
  readonly plays: number;
}

/** Artists who are credited, with how many items. */
export function creditedArtists(em: Em): Promise<{ id: string; name: string; songs: number }[]> {
  return rowsOf(
    em,
    `select a.id, a.name, count(distinct c.item_id) as songs from artist a join credit c on c.artist_id = a.id
     group by a.id order by a.name_key`,
  );
}

/** The songs in a station's categories, with how often it has played them. */
export function scheduledSongs(em: Em, stationId: string): Promise<ScheduledSong[]> {
  return rowsOf(
    em,
    `select i.id, i.title, i.artist, i.duration_ms as "durationMs", i.year, min(c.id) as "categoryId",
       coalesce((select a.name from credit r join artist a on a.id = r.artist_id where r.item_id = i.id
         order by r.position limit 1), '') as "mainArtist",
       (select count(*) from play where station_id = ? and item_id = i.id) as plays
     from item i join placement p on p.item_id = i.id join category c on c.id = p.category_id
     where i.kind = 'song' and ${visibleSql('c')} group by i.id order by i.title_fold, i.id`,
    [stationId, stationId],
  );
}

/** Every album name that is printed. */
export function albumNames(em: Em): Promise<AlbumName[]> {
  return rowsOf(
    em,
    `select i.album, a.id as "artistId", a.name as artist, count(*) as songs from item i join artist a on a.id = ${MAIN_ARTIST}
     where i.album <> '' group by a.id, i.album order by a.name_key, count(*) desc, i.album`,
  );
}

/** The items of an artist that print an album name. */
export async function itemsOfAlbum(em: Em, album: string, artistId: string): Promise<string[]> {
  const rows = await rowsOf<{ id: string }>(em, `select i.id from item i where i.album = ? and ${MAIN_ARTIST} = ?`, [
    album,
    artistId,
  ]);
  return rows.map(({ id }) => id);
}
