import type { Dialect } from '../shape.js';
import { searchExpression } from './search-index.js';

export const SQLITE: Dialect = {
  listed: 'select value from json_each(?)',
  elements: 'json_each(?)',
  tagsOfItems: 'json_each(i.tags) f, json_each(f.value) v',
  entriesOfLogs: `json_each(l.hours) h, json_each(h.value, '$.entries') e`,
  valuesOfFamily: 'json_each(i.tags, ?)',
  familyOf: (name) => `$."${name.replaceAll('"', '')}"`,
  hasFamily: 'json_type(tags, ?) is not null',
  member: (document, key) => `json_extract(${document}, '$.${key}')`,
  holds: (text) => `instr(${text}, ?) > 0`,
  ending: (text) => `substr(${text}, -1 * ?)`,
  dateMs: (date) => `unixepoch(${date}) * 1000`,
  rowOf: (alias) => `${alias}.rowid`,
  writtenAt: (alias) => `${alias}.rowid`,
  place: 'rowid',
  atPlace: 'rowid = ?',
  unreadable: (column, type, members) =>
    `case when ${column} is null then 0 when not json_valid(${column}) then 1 when json_type(${column}) <> '${type}' then 1
       ${members ? `when exists (select 1 from json_each(${column}) one where one.type <> '${members}') then 1` : ''} else 0 end`,
  never: '0',
  words: (columns, words) => ({
    sql: 'i.rowid in (select rowid from item_search where item_search match ?)',
    parameters: [searchExpression(columns, words)],
  }),
};
