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

/** An FTS5 query that finds rows holding every folded word, the words standing for their beginnings. */
export function searchExpression(foldedWords: readonly string[]): string {
  return foldedWords.map((word) => `"${word.replaceAll('"', '""')}"*`).join(' ');
}
