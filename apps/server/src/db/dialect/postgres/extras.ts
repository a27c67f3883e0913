/** Columns of an item in which a search finds words. */
const SEARCHED = ['title', 'artist', 'album', 'notes', 'label'] as const;
const WORDS = (column: string): string =>
  `' ' || regexp_replace("${column}_fold" collate "und-x-icu", '[^[:alnum:]]+', ' ', 'g')`;

/** Tables whose rows have an order of writing, which SQLite knows by itself. */
export const IN_WRITTEN_ORDER: readonly string[] = ['placement', 'activity'];

/**
 * What PostgreSQL needs besides the tables: the words of an item with a space before each, searched by trigrams, and the order
 * in which rows were written.
 */
export const EXTRAS: readonly string[] = [
  'create extension if not exists pg_trgm',
  ...SEARCHED.flatMap((column) => [
    `alter table "item" add column "${column}_words" text generated always as (${WORDS(column)}) stored`,
    `create index "item_${column}_words" on "item" using gin ("${column}_words" gin_trgm_ops)`,
  ]),
  ...IN_WRITTEN_ORDER.map(
    (table) => `alter table "${table}" add column "written_at" bigint generated always as identity`,
  ),
];
