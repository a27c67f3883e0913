import { dialectOf } from '../dialect/dialect.js';
import type { ReportItem } from '@fuller/core';
import type { Em } from '../orm.js';
import { list, listed, rowsOf } from './query.js';

export interface StationDate {
  readonly stationId: string;
  readonly date: string;
}

/** The stored figures of the dates between two, both included, as text. */
export function storedFigures(
  em: Em,
  stationId: string,
  from: string,
  to: string,
): Promise<{ date: string; figures: string }[]> {
  return rowsOf(
    em,
    `select "date", figures from day_figures where station_id = ? and "date" between ? and ? order by "date"`,
    [stationId, from, to],
  );
}

/** The dates between two whose figures are to be worked out again. */
export async function staleDates(em: Em, stationId: string, from: string, to: string): Promise<string[]> {
  const rows = await rowsOf<{ date: string }>(
    em,
    `select "date" from stale_figures where station_id = ? and "date" between ? and ? order by "date"`,
    [stationId, from, to],
  );
  return rows.map(({ date }) => date);
}

/** Some days whose figures are to be worked out again, the latest first. */
export function someStale(em: Em, most: number): Promise<(StationDate & { mark: number })[]> {
  return rowsOf(
    em,
    'select station_id as "stationId", "date", mark from stale_figures order by "date" desc, station_id limit ?',
    [most],
  );
}

/** Notes that the figures of some days no longer hold. */
export async function markStale(em: Em, days: readonly StationDate[]): Promise<void> {
  if (days.length === 0) return;
  await rowsOf(
    em,
    `insert into stale_figures (id, station_id, "date", mark)
     select distinct value ->> 0 || ' ' || (value ->> 1), value ->> 0, value ->> 1, 1 from ${dialectOf(em).elements} where true
     on conflict (id) do update set mark = stale_figures.mark + 1`,
    [JSON.stringify(days.map(({ stationId, date }) => [stationId, date]))],
  );
}

/** Notes the same of every day there is anything of. */
export async function markAllStale(em: Em): Promise<void> {
  await rowsOf(
    em,
    `insert into stale_figures (id, station_id, "date", mark)
     select station_id || ' ' || "date", station_id, "date", 1 from (
       select station_id, "date" from play union select station_id, "date" from daily_log
       union select station_id, "date" from as_run_day) days where true
     on conflict (id) do update set mark = stale_figures.mark + 1`,
  );
}

/** Keeps the figures of a day; it stays stale where it has changed since they were worked out. */
export async function saveFigures(
  em: Em,
  { stationId, date, mark }: StationDate & { readonly mark: number },
  figures: string,
): Promise<void> {
  const id = `${stationId} ${date}`;
  await rowsOf(
    em,
    `insert into day_figures (id, station_id, "date", figures) values (?, ?, ?, ?)
     on conflict (id) do update set figures = excluded.figures`,
    [id, stationId, date, figures],
  );
  await rowsOf(em, 'delete from stale_figures where id = ? and mark = ?', [id, mark]);
}

/** When listeners asked in a span of UTC epoch milliseconds, its end not included, and what became of it. */
export function requestsBetween(
  em: Em,
  stationId: string,
  fromMs: number,
  untilMs: number,
): Promise<{ atMs: number; state: string }[]> {
  return rowsOf(
    em,
    'select at_ms as "atMs", state from song_request where station_id = ? and at_ms >= ? and at_ms < ?',
    [stationId, fromMs, untilMs],
  );
}

/** Items by id, as reports name them. */
export async function itemsForReports(em: Em, ids: readonly string[]): Promise<Map<string, ReportItem>> {
  const wanted = list(ids);
  const items = await rowsOf<Omit<ReportItem, 'tags' | 'artists'> & { id: string; tags: string }>(
    em,
    `select id, title, artist, kind, cast(tags as text) as tags from item where id in (${listed(em)})`,
    [wanted],
  );
  const credits = await rowsOf<{ itemId: string; id: string; name: string }>(
    em,
    `select c.item_id as "itemId", a.id, a.name from credit c join artist a on a.id = c.artist_id
     where c.item_id in (${listed(em)}) order by c.position`,
    [wanted],
  );
  const artists = new Map<string, { id: string; name: string }[]>();
  for (const { itemId, id, name } of credits) {
    const own = artists.get(itemId);
    if (!own) artists.set(itemId, [{ id, name }]);
    else if (!own.some((one) => one.id === id)) own.push({ id, name });
  }
  return new Map(
    items.map(({ id, tags, ...item }) => [
      id,
      { ...item, tags: JSON.parse(tags) as ReportItem['tags'], artists: artists.get(id) ?? [] },
    ]),
  );
}
