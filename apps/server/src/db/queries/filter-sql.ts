import type { Filter, FilterTest, Range } from '@fuller/core';
import { visibleSql } from './visible-sql.js';
import type { Condition, Dialect } from '../dialect/dialect.js';

const WORDS_COLUMNS = {
  any: ['title', 'artist', 'album'],
  title: ['title'],
  artist: ['artist'],
  album: ['album'],
  notes: ['notes'],
  label: ['label'],
};
const LENGTH_COLUMNS = { length: 'i.duration_ms', intro: 'i.intro_ms', outro: 'i.outro_ms' };
export const VISIBLE_CATEGORIES = `from placement p join category c on c.id = p.category_id
  where p.item_id = i.id and ${visibleSql('c')}`;

/** What a filter asks for as conditions of a query; it means what `matchesFilter` means. */
export function filterConditions(dialect: Dialect, filter: Filter, stationId: string, nowMs: number): Condition[] {
  return filter.map(({ not, test }) => {
    const { sql, parameters } = testSql(dialect, test, stationId, nowMs);
    return { sql: not ? `not coalesce((${sql}), ${dialect.never})` : `(${sql})`, parameters };
  });
}

function testSql(dialect: Dialect, test: FilterTest, stationId: string, nowMs: number): Condition {
  const { never, familyOf, valuesOfFamily } = dialect;
  switch (test.on) {
    case 'words': {
      const columns = WORDS_COLUMNS[test.field];
      const none = columns.map((column) => `i.${column}_fold = ''`).join(' and ');
      return either(
        test.any.map((words) => dialect.words(columns, words)),
        test.none ? none : null,
        never,
      );
    }
    case 'cart':
      return either(
        test.any.map((start) => ({ sql: 'substr(lower(i.cart), 1, ?) = ?', parameters: [[...start].length, start] })),
        test.none ? 'i.cart is null' : null,
        never,
      );
    case 'year':
      return ranges('i.year', test, never);
    case 'length':
      return ranges(LENGTH_COLUMNS[test.field], test, never);
    case 'rested':
      return restedSql(test, stationId, nowMs, never);
    case 'kind':
      return oneOf('i.kind', test.any, never);
    case 'category': {
      const some = test.any.map((id) => ({
        sql: `exists (select 1 ${VISIBLE_CATEGORIES} and c.id = ?)`,
        parameters: [stationId, id],
      }));
      const none = { sql: `not exists (select 1 ${VISIBLE_CATEGORIES})`, parameters: [stationId] };
      return either(test.none ? [...some, none] : some, null, never);
    }
    case 'tag': {
      const family = familyOf(test.family);
      const some = test.any.map((value) => ({
        sql: `exists (select 1 from ${valuesOfFamily} where value = ?)`,
        parameters: [family, value],
      }));
      const none = { sql: `not exists (select 1 from ${valuesOfFamily})`, parameters: [family] };
      return either(test.none ? [...some, none] : some, null, never);
    }
    case 'file':
      return { sql: `i.file is ${test.none ? '' : 'not '}null`, parameters: [] };
    case 'approved':
      return { sql: `i.approved_at_ms is ${test.none ? '' : 'not '}null`, parameters: [] };
  }
}

function restedSql(
  { any, none }: Extract<FilterTest, { on: 'rested' }>,
  stationId: string,
  nowMs: number,
  never: string,
): Condition {
  const last = `(select max(start_ms) from play where station_id = ? and item_id = i.id and start_ms <= ?)`;
  const without = none || any.some(({ to }) => to === null);
  const within = ranges('rest', { any, none: without }, never);
  return {
    sql: `select ${within.sql} from (select (? - ${last}) / 1000.0 as rest) rested`,
    parameters: [nowMs, stationId, nowMs],
  };
}

function ranges(
  column: string,
  { any, none }: { readonly any: readonly Range[]; readonly none: boolean },
  never: string,
): Condition {
  const limits = any.map(({ from, to }) =>
    [from === null ? [] : `${column} >= ${from}`, to === null ? [] : `${column} <= ${to}`].flat().join(' and '),
  );
  const all = [...limits, ...(none ? [`${column} is null`] : [])];
  return { sql: all.length > 0 ? all.map((one) => `(${one})`).join(' or ') : never, parameters: [] };
}

function oneOf(column: string, values: readonly string[], never: string): Condition {
  return { sql: values.length > 0 ? `${column} in (${values.map(() => '?').join(',')})` : never, parameters: values };
}

function either(conditions: readonly Condition[], more: string | null, never: string): Condition {
  const sql = [...conditions.map((condition) => condition.sql), ...(more ? [more] : [])];
  return {
    sql: sql.length > 0 ? sql.map((one) => `(${one})`).join(' or ') : never,
    parameters: conditions.flatMap((condition) => condition.parameters),
  };
}
