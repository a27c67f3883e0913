import { dialectOf, type Dialect } from '../dialect/dialect.js';
import type { ItemQuery, ItemRow } from '@fuller/contracts';
import type { Filter, ItemKind } from '@fuller/core';
import type { Em } from '../orm.js';
import { filterConditions, VISIBLE_CATEGORIES } from './filter-sql.js';
import { rowOf, rowsOf } from './query.js';
import { visibleSql } from './visible-sql.js';

interface ItemListRow {
  readonly id: string;
  readonly kind: ItemKind;
  readonly title: string;
  readonly artist: string;
  readonly album: string;
  readonly year: number | null;
  readonly durationMs: number;
  readonly introMs: number | null;
  readonly categories: string | null;
  readonly file: string | null;
  readonly lastPlayedMs: number | null;
}

const SORT_COLUMNS: Readonly<Record<ItemQuery['sort'], string>> = {
  title: 'i.title_fold',
  artist: 'i.artist_fold',
  album: 'i.album_fold',
  year: 'i.year',
  duration: 'i.duration_ms',
  category: `(select min(c.name_key) ${VISIBLE_CATEGORIES})`,
  lastPlayed: 'l.last',
};

const LAST_PLAYS = `left join (select item_id, max(start_ms) as last from play where station_id = ? and start_ms <= ?
  group by item_id) l on l.item_id = i.id`;

/** Stands in place of a category id for the items on a station's worklist. */
const WORKLIST = 'worklist';

/** The items a station sees that a query asks for: how many, and one page of them. */
export async function itemPage(
  em: Em,
  stationId: string,
  query: ItemQuery,
  filter: Filter,
  nowMs: number,
): Promise<{ total: number; rows: ItemRow[] }> {
  const dialect = dialectOf(em);
  const { where, parameters } = itemConditions(dialect, stationId, query, filter, nowMs);
  const needsName = query.sort === 'category';
  const byLast = query.sort === 'lastPlayed';
  const order = `sort_key ${query.dir} nulls last, id`;
  // Which rows are on the page is found first; what they show besides is worked out for these alone.
  const page = `with page as (
      select i.id, ${dialect.rowOf('i')} as place, ${SORT_COLUMNS[query.sort]} as sort_key from item i ${byLast ? LAST_PLAYS : ''}
      where ${where} order by ${order} limit ? offset ?)
    select i.id, i.kind, i.title, i.artist, i.album, i.year, i.duration_ms as "durationMs", i.intro_ms as "introMs", i.file,
      (select string_agg(p.category_id, ',') ${VISIBLE_CATEGORIES}) as categories,
      (select max(start_ms) from play where station_id = ? and item_id = i.id and start_ms <= ?) as "lastPlayedMs"
    from page join item i on ${dialect.rowOf('i')} = page.place order by page.sort_key ${query.dir} nulls last, i.id`;
  const sorted = needsName ? [stationId] : byLast ? [stationId, nowMs] : [];
  const { total } = await rowOf<{ total: number }>(
    em,
    `select count(*) as total from item i where ${where}`,
    parameters,
  );
  const shown = [query.limit, query.offset, stationId, stationId, nowMs];
  const rows = await rowsOf<ItemListRow>(em, page, [...sorted, ...parameters, ...shown]);
  return {
    total,
    rows: rows.map(({ categories, file, ...row }) => ({
      ...row,
      categoryIds: categories ? categories.split(',') : [],
      hasFile: file !== null,
    })),
  };
}

function itemConditions(
  dialect: Dialect,
  stationId: string,
  query: ItemQuery,
  filter: Filter,
  nowMs: number,
): { where: string; parameters: unknown[] } {
  const conditions = [`${visibleSql('i')}`];
  const parameters: unknown[] = [stationId];
  for (const condition of filterConditions(dialect, filter, stationId, nowMs)) {
    conditions.push(condition.sql);
    parameters.push(...condition.parameters);
  }
  if (query.category === 'none') {
    conditions.push(`not exists (select 1 ${VISIBLE_CATEGORIES})`);
    parameters.push(stationId);
  } else if (query.category === WORKLIST) {
    conditions.push(`i.id in (${dialect.listed.replace('?', '(select item_ids from worklist where id = ?)')})`);
    parameters.push(stationId);
  } else if (query.category) {
    conditions.push('i.id in (select item_id from placement where category_id = ?)');
    parameters.push(query.category);
  }
  if (query.artist) {
    conditions.push('i.id in (select item_id from credit where artist_id = ?)');
    parameters.push(query.artist);
  }
  return { where: conditions.join(' and '), parameters };
}

/** How many items a station sees that a filter asks for. */
export async function countFound(em: Em, stationId: string, filter: Filter, nowMs: number): Promise<number> {
  const { where, parameters } = filterQuery(dialectOf(em), stationId, filter, nowMs);
  const { total } = await rowOf<{ total: number }>(
    em,
    `select count(*) as total from item i where ${where}`,
    parameters,
  );
  return total;
}

/** The ids of the items a station sees that a filter asks for. */
export async function idsFound(em: Em, stationId: string, filter: Filter, nowMs: number): Promise<string[]> {
  const { where, parameters } = filterQuery(dialectOf(em), stationId, filter, nowMs);
  const rows = await rowsOf<{ id: string }>(em, `select i.id from item i where ${where} order by i.id`, parameters);
  return rows.map(({ id }) => id);
}

function filterQuery(
  dialect: Dialect,
  stationId: string,
  filter: Filter,
  nowMs: number,
): { where: string; parameters: unknown[] } {
  const conditions = filterConditions(dialect, filter, stationId, nowMs);
  return {
    where: [visibleSql('i'), ...conditions.map(({ sql }) => sql)].join(' and '),
    parameters: [stationId, ...conditions.flatMap(({ parameters }) => parameters)],
  };
}
