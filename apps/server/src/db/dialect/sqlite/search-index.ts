/** Full-text index over the folded title, artist and album, kept by triggers. */
export const SEARCH_INDEX = [
  `create virtual table "item_search" using fts5 ("title", "artist", "album", content='', contentless_delete=1, prefix='1 2 3')`,
  `create trigger "item_search_insert" after insert on "item" begin
    insert into "item_search" (rowid, "title", "artist", "album")
    values (new.rowid, new."title_fold", new."artist_fold", new."album_fold"); end`,
  `create trigger "item_search_delete" after delete on "item" begin
    delete from "item_search" where rowid = old.rowid; end`,
  `create trigger "item_search_update" after update of "title_fold", "artist_fold", "album_fold" on "item" begin
    delete from "item_search" where rowid = old.rowid;
    insert into "item_search" (rowid, "title", "artist", "album")
    values (new.rowid, new."title_fold", new."artist_fold", new."album_fold"); end`,
];

/** The same with notes and label, in place of the one before. */
export const SEARCH_INDEX_NOTES = [
  ...['insert', 'delete', 'update'].map((when) => `drop trigger "item_search_${when}"`),
  `drop table "item_search"`,
  `create virtual table "item_search" using fts5 ("title", "artist", "album", "notes", "label", content='', contentless_delete=1,
    prefix='1 2 3')`,
  `create trigger "item_search_insert" after insert on "item" begin
    insert into "item_search" (rowid, "title", "artist", "album", "notes", "label")
    values (new.rowid, new."title_fold", new."artist_fold", new."album_fold", new."notes_fold", new."label_fold"); end`,
  `create trigger "item_search_delete" after delete on "item" begin
    delete from "item_search" where rowid = old.rowid; end`,
  `create trigger "item_search_update" after update of "title_fold", "artist_fold", "album_fold", "notes_fold", "label_fold" on "item" begin
    delete from "item_search" where rowid = old.rowid;
    insert into "item_search" (rowid, "title", "artist", "album", "notes", "label")
    values (new.rowid, new."title_fold", new."artist_fold", new."album_fold", new."notes_fold", new."label_fold"); end`,
  `insert into "item_search" (rowid, "title", "artist", "album", "notes", "label")
    select rowid, "title_fold", "artist_fold", "album_fold", "notes_fold", "label_fold" from "item"`,
];

/** An FTS5 query that finds rows whose columns hold every folded word, the words standing for their beginnings. */
export function searchExpression(columns: readonly string[], foldedWords: readonly string[]): string {
  return `{${columns.join(' ')}} : (${foldedWords.map((word) => `"${word.replaceAll('"', '""')}"*`).join(' AND ')})`;
}
