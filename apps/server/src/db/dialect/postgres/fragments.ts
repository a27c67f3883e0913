import type { Dialect } from '../shape.js';

const NOT_A_WORD = /[^\p{L}\p{N}]+/u;

export const POSTGRES: Dialect = {
  listed: 'select json_array_elements_text(?::json)',
  elements: 'json_array_elements(?::json) one(value)',
  tagsOfItems: 'json_each(i.tags) f, json_array_elements_text(f.value) v(value)',
  entriesOfLogs: `json_array_elements(l.hours) h(value), json_array_elements(h.value -> 'entries') e(value)`,
  valuesOfFamily: `json_array_elements_text(coalesce(i.tags -> ?, '[]')) one(value)`,
  familyOf: (name) => name,
  hasFamily: 'tags -> ? is not null',
  member: (document, key) => `(${document} ->> '${key}')`,
  holds: (text) => `strpos(${text}, ?) > 0`,
  ending: (text) => `right(${text}, ?)`,
  dateMs: (date) => `extract(epoch from (${date})::timestamp at time zone 'UTC') * 1000`,
  rowOf: (alias) => `${alias}.id`,
  writtenAt: (alias) => `${alias}.written_at`,
  place: 'ctid::text',
  atPlace: 'ctid = ?::tid',
  unreadable: (column, type, members) => {
    const expand = type === 'array' ? 'json_array_elements' : 'json_each';
    const one = type === 'array' ? 'one(value)' : 'one';
    const wrong = `exists (select 1 from ${expand}(${column}) ${one} where json_typeof(one.value) <> '${members === 'text' ? 'string' : members}')`;
    return `case when ${column} is null then false when json_typeof(${column}) <> '${type}' then true
       ${members ? `when ${wrong} then true` : ''} else false end`;
  },
  never: 'false',
  // The beginning of a word follows a space in the words of a column, so one pattern finds what a full-text phrase would.
  words: (columns, words) => {
    const patterns = words.map((word) => word.split(NOT_A_WORD).filter(Boolean).join(' '));
    if (patterns.some((pattern) => pattern === '')) return { sql: 'false', parameters: [] };
    const inOne = columns.map((column) => `i.${column}_words like ?`).join(' or ');
    return {
      sql: patterns.map(() => `(${inOne})`).join(' and '),
      parameters: patterns.flatMap((pattern) => columns.map(() => `% ${pattern}%`)),
    };
  },
};
