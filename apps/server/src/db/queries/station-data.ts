import { dialectOf } from '../dialect/dialect.js';
import type { LogItem } from '@fuller/contracts';
import type { StationData } from '@fuller/core';
import type { Em } from '../orm.js';
import { list, listed, rowsOf } from './query.js';
import { visibleSql } from './visible-sql.js';

const SCHEDULED = `
  select i.id, i.kind, i.title, i.artist, i.album, i.duration_ms as "durationMs", i.segue_ms as "segueMs",
    i.intro_ms as "introMs", cast(i.announces as text) as announces, i.year, i.start_date as "startDate", i.end_date as "endDate",
    i.hours, i.paused_until as "pausedUntil", i.approved_at_ms is not null as approved, i.weight, cast(i.tags as text) as tags,
    (select string_agg(artist_id, ',' order by position) from credit where item_id = i.id) as artists,
    (select string_agg(artist_id, ',' order by position) from credit where item_id = i.id and role = 'main') as "mainArtists"
  from item i where ${visibleSql('i')}`;

const IS_SCHEDULED = `i.id in (select item_id from placement union select item_id from play where station_id = ?
  union select id from item where kind = 'tease')`;

type ScheduledItem = StationData['items'][number];

interface ScheduledRow extends Omit<ScheduledItem, 'approved' | 'artistIds' | 'mainArtistIds' | 'tags' | 'announces'> {
  readonly artists: string | null;
  readonly mainArtists: string | null;
  readonly approved: number | boolean;
  /** JSON. */
  readonly announces: string | null;
  /** JSON. */
  readonly tags: string;
}

/**
 * Items of a station that stand in a category or have been played, and all teases, with what generation looks at, main artist first;
 * of tag families only those named, or all.
 */
export async function scheduledItems(
  em: Em,
  stationId: string,
  families: ReadonlySet<string> | null,
): Promise<ScheduledItem[]> {
  const rows = await rowsOf<ScheduledRow>(em, `${SCHEDULED} and ${IS_SCHEDULED} order by i.id`, [stationId, stationId]);
  return rows.map((row) => itemOfRow(row, families));
}

/** The same items by their ids and the revisions of their rows, in the same order. */
export function scheduledRevisions(em: Em, stationId: string): Promise<{ id: string; revision: number }[]> {
  return rowsOf(em, `select i.id, i.revision from item i where ${visibleSql('i')} and ${IS_SCHEDULED} order by i.id`, [
    stationId,
    stationId,
  ]);
}

/** The teases a station sees, in the order of their ids. */
export async function teaseItems(em: Em, stationId: string): Promise<ScheduledItem[]> {
  const rows = await rowsOf<ScheduledRow>(em, `${SCHEDULED} and i.kind = 'tease' order by i.id`, [stationId]);
  return rows.map((row) => itemOfRow(row, new Set()));
}

/** Average time the teases a station sees take until the next item begins, milliseconds; 0 without any. */
export async function averageTeaseMs(em: Em, stationId: string): Promise<number> {
  const [row] = await rowsOf<{ ms: number | null }>(
    em,
    `select avg(i.duration_ms - coalesce(i.segue_ms, 0)) as ms from item i where ${visibleSql('i')} and i.kind = 'tease'`,
    [stationId],
  );
  return Math.round(row?.ms ?? 0);
}

/** The same of items with some ids, with the tags of some families, or all. */
export async function itemsWithIds(
  em: Em,
  stationId: string,
  ids: Iterable<string>,
  families: ReadonlySet<string> | null = null,
): Promise<ScheduledItem[]> {
  const rows = await rowsOf<ScheduledRow>(em, `${SCHEDULED} and i.id in (${listed(em)}) order by i.id`, [
    stationId,
    list(ids),
  ]);
  return rows.map((row) => itemOfRow(row, families));
}

/** What stands in each category a station sees, in the order it was put there. */
export async function itemsByCategory(em: Em, stationId: string): Promise<Record<string, string[]>> {
  const rows = await rowsOf<{ categoryId: string; itemId: string }>(
    em,
    `select p.category_id as "categoryId", p.item_id as "itemId" from placement p join category c on c.id = p.category_id
     where ${visibleSql('c')} order by p.category_id, ${dialectOf(em).writtenAt('p')}`,
    [stationId],
  );
  const categories: Record<string, string[]> = {};
  for (const { categoryId, itemId } of rows) (categories[categoryId] ??= []).push(itemId);
  return categories;
}

/** What a log shows of items with some ids. */
export async function logItems(em: Em, ids: Iterable<string>): Promise<LogItem[]> {
  const rows = await rowsOf<Omit<LogItem, 'tags' | 'hasFile'> & { tags: string; hasFile: number | boolean }>(
    em,
    `select id, title, artist, album, kind, duration_ms as "durationMs", intro_ms as "introMs", segue_ms as "segueMs",
       file is not null as "hasFile", cast(tags as text) as tags
     from item where id in (${listed(em)})`,
    [list(ids)],
  );
  return rows.map(({ tags, hasFile, ...row }) => ({
    ...row,
    tags: JSON.parse(tags) as LogItem['tags'],
    hasFile: Boolean(hasFile),
  }));
}

/** Of tag families only those named are kept; null keeps all. */
function itemOfRow(
  { artists, mainArtists, approved, tags, announces, introMs, year, ...item }: ScheduledRow,
  families: ReadonlySet<string> | null,
): ScheduledItem {
  const asked = families?.size === 0 ? null : pick(JSON.parse(tags) as Record<string, string[]>, families);
  return {
    ...item,
    ...(asked && { tags: asked }),
    ...(introMs === null ? {} : { introMs }),
    ...(year === null ? {} : { year }),
    ...(announces === null ? {} : { announces: JSON.parse(announces) as ScheduledItem['announces'] }),
    approved: Boolean(approved),
    artistIds: artists ? artists.split(',') : [],
    // Told only where it is not all of them.
    ...(artists === mainArtists ? {} : { mainArtistIds: mainArtists ? mainArtists.split(',') : [] }),
  };
}

function pick(tags: Record<string, string[]>, families: ReadonlySet<string> | null): Record<string, string[]> {
  return families ? Object.fromEntries(Object.entries(tags).filter(([family]) => families.has(family))) : tags;
}
