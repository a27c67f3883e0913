import type { Filter, FilterTest, Range } from '@fuller/core';
import { visibleSql } from './visible-sql.js';
import { searchExpression } from './search-index.js';

/** A condition on `item i`, with what is bound to its question marks. */
export interface Condition {
  readonly sql: string;
  readonly parameters: readonly unknown[];
}

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
export function filterConditions(filter: Filter, stationId: string, nowMs: number): Condition[] {
  return filter.map(({ not, test }) => {
    const { sql, parameters } = testSql(test, stationId, nowMs);
    return { sql: not ? `not coalesce((${sql}), 0)` : `(${sql})`, parameters };
  });
}

function testSql(test: FilterTest, stationId: string, nowMs: number): Condition {
  switch (test.on) {
    case 'words': {
      const columns = WORDS_COLUMNS[test.field];
      const none = columns.map((column) => `i.${column}_fold = ''`).join(' and ');
      return either(
        test.any.map((words) => ({
          sql: 'i.rowid in (select rowid from item_search where item_search match ?)',
          parameters: [searchExpression(columns, words)],
        })),
        test.none ? none : null,
      );
    }
    case 'cart':
      return either(
        test.any.map((start) => ({ sql: 'substr(lower(i.cart), 1, ?) = ?', parameters: [[...start].length, start] })),
        test.none ? 'i.cart is null' : null,
      );
    case 'year':
      return ranges('i.year', test);
    case 'length':
      return ranges(LENGTH_COLUMNS[test.field], test);
    case 'rested':
      return restedSql(test, stationId, nowMs);
    case 'kind':
      return oneOf('i.kind', test.any);
    case 'category': {
      const some = test.any.map((id) => ({
        sql: `exists (select 1 ${VISIBLE_CATEGORIES} and c.id = ?)`,
        parameters: [stationId, id],
      }));
      const none = { sql: `not exists (select 1 ${VISIBLE_CATEGORIES})`, parameters: [stationId] };
      return either(test.none ? [...some, none] : some, null);
    }
    case 'tag': {
      const path = `$."${test.family.replaceAll('"', '')}"`;
      const some = test.any.map((value) => ({
        sql: 'exists (select 1 from json_each(i.tags, ?) where value = ?)',
        parameters: [path, value],
      }));
      const none = { sql: 'not exists (select 1 from json_each(i.tags, ?))', parameters: [path] };
      return either(test.none ? [...some, none] : some, null);
    }
    case 'file':
      return { sql: `i.file is ${test.none ? '' : 'not '}null`, parameters: [] };
    case 'approved':
      return { sql: `i.approved_at_ms is ${test.none ? '' : 'not '}null`, parameters: [] };
  }
}

function restedSql({ any, none }: Extract<FilterTest, { on: 'rested' }>, stationId: string, nowMs: number): Condition {
  const last = `(select max(start_ms) from play where station_id = ? and item_id = i.id and start_ms <= ?)`;
  const never = none || any.some(({ to }) => to === null);
  const within = ranges('rest', { any, none: never });
  return {
    sql: `select ${within.sql} from (select (? - ${last}) / 1000.0 as rest)`,
    parameters: [nowMs, stationId, nowMs],
  };
}

function ranges(column: string, { any, none }: { readonly any: readonly Range[]; readonly none: boolean }): Condition {
  const limits = any.map(({ from, to }) =>
    [from === null ? [] : `${column} >= ${from}`, to === null ? [] : `${column} <= ${to}`].flat().join(' and '),
  );
  const all = [...limits, ...(none ? [`${column} is null`] : [])];
  return { sql: all.length > 0 ? all.map((one) => `(${one})`).join(' or ') : '0', parameters: [] };
}

function oneOf(column: string, values: readonly string[]): Condition {
  return { sql: values.length > 0 ? `${column} in (${values.map(() => '?').join(',')})` : '0', parameters: values };
}

function either(conditions: readonly Condition[], more: string | null): Condition {
  const sql = [...conditions.map((condition) => condition.sql), ...(more ? [more] : [])];
  return {
    sql: sql.length > 0 ? sql.map((one) => `(${one})`).join(' or ') : '0',
    parameters: conditions.flatMap((condition) => condition.parameters),
  };
}
