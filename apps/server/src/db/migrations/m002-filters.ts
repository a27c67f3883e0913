import { foldText } from '@fuller/core';
import { Migration } from '@mikro-orm/migrations';
import { SEARCH_INDEX_NOTES } from '../dialect/sqlite/search-index.js';

const BEFORE = [
  `alter table "item" add column "notes_fold" text not null default ''`,
  `alter table "item" add column "label_fold" text not null default ''`,
  `create table "pool" ("id" text primary key, "revision" integer not null default 1,
    "scope" text not null check ("scope" in ('group', 'station')),
    "station_id" text null references "station" ("id") on delete cascade,
    "name" text not null, "name_key" text not null, "filter" text not null, "position" integer not null)`,
  `create unique index "pool_name" on "pool" (coalesce("station_id", ''), "name_key")`,
];

/** Filters reach notes and labels too; saved filters are pools. */
export class Filters extends Migration {
  override async up(): Promise<void> {
    // What follows reads the columns, so these come first and not with the others at the end.
    for (const statement of BEFORE) await this.execute(statement);
    const rows = (await this.execute(
      `select id, notes, label from item where notes <> '' or coalesce(label, '') <> ''`,
    )) as { id: string; notes: string; label: string | null }[];
    for (const { id, notes, label } of rows) {
      await this.execute(`update item set notes_fold = ?, label_fold = ? where id = ?`, [
        foldText(notes),
        foldText(label ?? ''),
        id,
      ]);
    }
    for (const statement of SEARCH_INDEX_NOTES) await this.execute(statement);
  }
}
