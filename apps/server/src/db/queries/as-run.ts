import { dialectOf } from '../dialect/dialect.js';
import type { KnownRow, StationPlay } from '@fuller/core';
import { foldText } from '@fuller/core';
import { PlayEntity, type AsRunRecord } from '../entities/index.js';
import type { Em } from '../orm.js';
import { list, listed, rowsOf } from './query.js';
import { visibleSql } from './visible-sql.js';

/** An aired row with what the library and the log know of it. */
export type StoredAired = KnownRow & Pick<AsRunRecord, 'sponsor' | 'date'>;

const COLUMNS = `key, "date", start_ms as "startMs", end_ms as "endMs", kind, artist, title, cart, file,
  entry_id as "entryId", ended, "by", item_id as "itemId", sponsor`;

/** What aired on the dates between two, both included, in order. */
export function airedBetween(em: Em, stationId: string, from: string, to: string): Promise<StoredAired[]> {
  return rowsOf(
    em,
    `select ${COLUMNS} from as_run_row where station_id = ? and "date" between ? and ? order by start_ms, id`,
    [stationId, from, to],
  );
}

/** The spots that aired between two dates, both included. */
export function airedSpots(em: Em, stationId: string, from: string, to: string): Promise<StoredAired[]> {
  return rowsOf(
    em,
    `select ${COLUMNS} from as_run_row where station_id = ? and "date" between ? and ? and kind = 'spot'
     order by start_ms, id`,
    [stationId, from, to],
  );
}

/** Items a station sees by carts, by the last part of a file's path (lower case), or by folded titles; teases, which may have the title of a song, first. */
export async function itemsNamed(
  em: Em,
  stationId: string,
  { carts, files, titles }: Record<'carts' | 'files' | 'titles', Iterable<string>>,
): Promise<{ id: string; cart: string | null; file: string | null; title: string; artist: string }[]> {
  return rowsOf(
    em,
    `select i.id, i.cart, i.file, i.title, i.artist from item i
     where ${visibleSql('i')} and (i.cart in (${listed(em)})
       or i.title_fold in (${listed(em)})
       or (i.file is not null and lower(replace(i.file, rtrim(i.file, replace(i.file, '/', '')), ''))
         in (${listed(em)})))
     order by i.kind <> 'tease'`,
    [stationId, list(new Set(carts)), list(new Set([...titles].map(foldText))), list(new Set(files))],
  );
}

/** Deletes the plays without a log of a date that begin in a span; returns them. */
export async function takePlaysWithoutLog(
  em: Em,
  stationId: string,
  date: string,
  { fromMs, untilMs }: { readonly fromMs: number; readonly untilMs: number },
): Promise<StationPlay[]> {
  const found = await rowsOf<StationPlay & { id: number }>(
    em,
    `select id, item_id as "itemId", start_ms as "startMs" from play
     where station_id = ? and "date" = ? and log_id is null and start_ms >= ? and start_ms < ?`,
    [stationId, date, fromMs, untilMs],
  );
  await em.nativeDelete(PlayEntity, { id: { $in: found.map(({ id }) => id) } } as never);
  return found.map(({ itemId, startMs }) => ({ itemId, startMs }));
}

/**
 * Songs a station sees whose folded title is one, or begins or ends as it does by a third: those a listener may mean by it.
 * One slip of the keys leaves one of the two thirds as it is.
 */
export function songsForRequests(
  em: Em,
  stationId: string,
  titleFold: string,
): Promise<{ id: string; title: string; artist: string }[]> {
  const third = Math.max(1, Math.floor(titleFold.length / 3));
  return rowsOf(
    em,
    `select i.id, i.title, i.artist from item i where ${visibleSql('i')} and i.kind = 'song'
       and (i.title_fold = ? or substr(i.title_fold, 1, ?) = ? or ${dialectOf(em).ending('i.title_fold')} = ?)
     order by i.title_fold = ? desc limit 500`,
    [stationId, titleFold, third, titleFold.slice(0, third), third, titleFold.slice(-third), titleFold],
  );
}

/** How often each song was asked for since an instant, UTC epoch milliseconds. */
export async function votesSince(em: Em, stationId: string, sinceMs: number): Promise<Map<string, number>> {
  const rows = await rowsOf<{ itemId: string; votes: number }>(
    em,
    `select item_id as "itemId", count(*) as votes from song_request
     where station_id = ? and at_ms > ? and item_id is not null group by item_id`,
    [stationId, sinceMs],
  );
  return new Map(rows.map(({ itemId, votes }) => [itemId, votes]));
}
