import { dialectOf } from '../dialect/dialect.js';
import type { Catalogue, ItemCard } from '@fuller/contracts';
import type { ExistingItem, HandOverItem } from '@fuller/core';
import type { Em } from '../orm.js';
import { list, listed, rowOf, rowsOf } from './query.js';
import { visibleSql } from './visible-sql.js';

/** The artists an item credits, in order, each with how many songs they have. */
export function creditsOfItem(em: Em, itemId: string): Promise<ItemCard['credits']> {
  return rowsOf(
    em,
    `select a.id as "artistId", a.name, c.role, (select count(distinct item_id) from credit where artist_id = a.id) as songs
     from credit c join artist a on a.id = c.artist_id where c.item_id = ? order by c.position`,
    [itemId],
  );
}

/** When an item played last and plays next on a station, UTC epoch milliseconds, and how often it has played. */
export function playsAround(
  em: Em,
  stationId: string,
  itemId: string,
  nowMs: number,
): Promise<{ last: number | null; next: number | null; count: number }> {
  return rowOf(
    em,
    `select max(case when start_ms <= ? then start_ms end) as last, min(case when start_ms > ? then start_ms end) as next,
       count(case when start_ms <= ? then 1 end) as count from play where station_id = ? and item_id = ?`,
    [nowMs, nowMs, nowMs, stationId, itemId],
  );
}

/** Where an item stands among the categories a station sees; music categories first. */
export function placementsOfItem(
  em: Em,
  stationId: string,
  itemId: string,
): Promise<{ id: string; categoryId: string }[]> {
  return rowsOf(
    em,
    `select p.id, p.category_id as "categoryId" from placement p join category c on c.id = p.category_id
     where p.item_id = ? and ${visibleSql('c')} order by c.music desc, c.position`,
    [itemId, stationId],
  );
}

/** Items whose printed artist holds a name; the name is folded. */
export function itemsPrinting(em: Em, nameFold: string): Promise<{ id: string; artist: string }[]> {
  return rowsOf(em, `select id, artist from item where ${dialectOf(em).holds('artist_fold')}`, [nameFold]);
}

/** The items an artist is credited with, in order of their titles. */
export function itemsCrediting(em: Em, artistId: string): Promise<{ id: string; title: string; artist: string }[]> {
  return rowsOf(
    em,
    `select i.id, i.title, i.artist from item i where i.id in (select item_id from credit where artist_id = ?)
     order by i.title_fold, i.id`,
    [artistId],
  );
}

/** How many items an artist is credited with. */
export async function countItemsCrediting(em: Em, artistId: string): Promise<number> {
  const { songs } = await rowOf<{ songs: number }>(
    em,
    'select count(distinct item_id) as songs from credit where artist_id = ?',
    [artistId],
  );
  return songs;
}

/** The artists some name keys stand for, as a name or as another name. */
export function artistsByKey(em: Em, keys: Iterable<string>): Promise<{ id: string; nameKey: string }[]> {
  return rowsOf(
    em,
    `with wanted (key) as (${listed(em)})
     select id, name_key as "nameKey" from artist where name_key in (select key from wanted)
     union all select artist_id, name_key from artist_alias where name_key in (select key from wanted)`,
    [list(keys)],
  );
}

/** The library as an import compares with it. */
export async function existingItems(em: Em): Promise<ExistingItem[]> {
  const rows = await rowsOf<Omit<ExistingItem, 'tags'> & { tags: string }>(
    em,
    `select id, kind, title, artist, album, year, duration_ms as "durationMs", intro_ms as "introMs",
       outro_ms as "outroMs", cart, file, isrc, label, notes, start_date as "startDate", end_date as "endDate",
       cast(tags as text) as tags from item`,
  );
  return rows.map((row) => ({ ...row, tags: JSON.parse(row.tags) as ExistingItem['tags'] }));
}

/** Every audio file an item plays. */
export async function filesOfItems(em: Em): Promise<string[]> {
  const rows = await rowsOf<{ file: string }>(em, 'select file from item where file is not null');
  return rows.map(({ file }) => file);
}

/** What a player's file says of items. */
export function itemsToHandOver(em: Em, ids: Iterable<string>): Promise<(HandOverItem & { id: string })[]> {
  return rowsOf(
    em,
    `select id, kind, title, artist, album, cart, duration_ms as "durationMs", segue_ms as "segueMs",
       intro_ms as "introMs", file from item
     where id in (${listed(em)})`,
    [list(ids)],
  );
}

/** The files of items by their carts. */
export function filesOfCarts(em: Em, carts: Iterable<string>): Promise<{ cart: string; file: string }[]> {
  return rowsOf(em, `select cart, file from item where file is not null and cart in (${listed(em)}) order by id desc`, [
    list(carts),
  ]);
}

/** The title of one of some items that may not air on a date or is gone; null where all may. */
export async function titleOffAir(em: Em, ids: Iterable<string>, date: string): Promise<string | null> {
  const [row] = await rowsOf<{ title: string }>(
    em,
    `with wanted (id) as (${listed(em)})
     select coalesce(i.title, 'A deleted item') as title from wanted left join item i on i.id = wanted.id
     where i.id is null or i.end_date < ? or i.start_date > ? or i.paused_until >= ? or i.duration_ms <= 0 limit 1`,
    [list(ids), date, date, date],
  );
  return row?.title ?? null;
}

/** What an editor of clocks shows of items. */
export function itemsOfClocks(em: Em, ids: Iterable<string>): Promise<Catalogue['clockItems']> {
  return rowsOf(em, `select id, title, kind, duration_ms as "durationMs" from item where id in (${listed(em)})`, [
    list(ids),
  ]);
}

/** How long items play until the next one begins, milliseconds. */
export function lengthsOfItems(em: Em, ids: Iterable<string>): Promise<{ id: string; ms: number }[]> {
  return rowsOf(em, `select id, duration_ms - coalesce(segue_ms, 0) as ms from item where id in (${listed(em)})`, [
    list(ids),
  ]);
}
