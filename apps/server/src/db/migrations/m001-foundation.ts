import { Migration } from '@mikro-orm/migrations';
import { SEARCH_INDEX } from '../dialect/sqlite/search-index.js';

const SCOPED = `"scope" text not null check ("scope" in ('group', 'station')),
  "station_id" text null references "station" ("id") on delete cascade`;
const VERSIONED = `"id" text primary key, "revision" integer not null default 1`;

const TABLES = [
  `create table "station_group" ("id" text primary key, "name" text not null)`,
  `create table "station" ("id" text primary key, "group_id" text not null references "station_group" ("id"),
    "name" text not null, "frequency" text not null, "time_zone" text not null, "position" integer not null)`,
  `create table "setting" ("id" text primary key, "value" json not null)`,
  `create table "item" (${VERSIONED}, ${SCOPED}, "kind" text not null, "title" text not null, "artist" text not null,
    "album" text not null, "year" integer null, "duration_ms" integer not null, "intro_ms" integer null,
    "outro_ms" integer null, "cart" text null, "file" text null, "isrc" text null, "label" text null,
    "notes" text not null, "start_date" text null, "end_date" text null, "tags" json not null,
    "title_fold" text not null, "artist_fold" text not null, "album_fold" text not null)`,
  `create unique index "item_cart" on "item" ("cart")`,
  `create index "item_file" on "item" ("file")`,
  `create index "item_title" on "item" ("title_fold", "id")`,
  `create index "item_artist" on "item" ("artist_fold", "id")`,
  `create index "item_album" on "item" ("album_fold", "id")`,
  `create table "artist" ("id" text primary key, "name" text not null, "name_key" text not null unique)`,
  `create table "credit" ("id" text primary key, "item_id" text not null references "item" ("id") on delete cascade,
    "artist_id" text not null references "artist" ("id"), "role" text not null, "position" integer not null)`,
  `create index "credit_item" on "credit" ("item_id")`,
  `create index "credit_artist" on "credit" ("artist_id")`,
  `create table "category_group" ("id" text primary key, "name" text not null, "position" integer not null)`,
  `create table "category" (${VERSIONED}, ${SCOPED}, "group_id" text null references "category_group" ("id"),
    "name" text not null, "name_key" text not null, "code" text not null, "code_key" text not null,
    "colour" text not null, "music" integer not null, "position" integer not null)`,
  `create unique index "category_name" on "category" (coalesce("station_id", ''), "name_key")`,
  `create unique index "category_code" on "category" (coalesce("station_id", ''), "code_key")`,
  `create table "placement" ("id" text primary key, "item_id" text not null references "item" ("id") on delete cascade,
    "category_id" text not null references "category" ("id"), unique ("item_id", "category_id"))`,
  `create index "placement_category" on "placement" ("category_id")`,
  `create table "clock" (${VERSIONED}, ${SCOPED}, "name" text not null, "name_key" text not null,
    "colour" text not null, "lines" json not null, "position" integer not null)`,
  `create unique index "clock_name" on "clock" (coalesce("station_id", ''), "name_key")`,
  `create table "week_plan" ("id" text primary key references "station" ("id") on delete cascade,
    "revision" integer not null default 1, "cells" json not null, "default_clock_id" text null references "clock" ("id"))`,
  `create table "rule" (${VERSIONED}, ${SCOPED}, "shape" text not null, "tag" text not null, "seconds" integer not null,
    "seconds_by_category" json not null, "resting" integer not null, "position" integer not null)`,
  `create table "daily_log" (${VERSIONED}, "station_id" text not null references "station" ("id") on delete cascade,
    "date" text not null, "time_zone" text not null, "hours" json not null, "slots" integer not null,
    "open" integer not null, "strains" integer not null, unique ("station_id", "date"))`,
  `create table "play" ("id" integer primary key, "station_id" text not null references "station" ("id") on delete cascade,
    "item_id" text not null, "start_ms" integer not null, "date" text not null,
    "log_id" text null references "daily_log" ("id") on delete cascade)`,
  `create index "play_item" on "play" ("station_id", "item_id", "start_ms")`,
  `create index "play_start" on "play" ("station_id", "start_ms")`,
  `create index "play_log" on "play" ("log_id")`,
  `create table "hand_over" ("id" text primary key, "station_id" text not null references "station" ("id") on delete cascade,
    "date" text not null, "at_ms" integer not null, "folder" text not null, "files" json not null,
    "entries" integer not null, "held_back" integer not null, "log_revision" integer not null)`,
  `create index "hand_over_date" on "hand_over" ("station_id", "date")`,
  `create table "activity" ("id" text primary key, "at_ms" integer not null, "client_id" text not null,
    "station_id" text null, "label" text not null, "undoes" text null, "undone_by" text null)`,
  `create index "activity_at" on "activity" ("at_ms")`,
  `create table "activity_change" ("id" integer primary key, "activity_id" text not null references "activity" ("id") on delete cascade,
    "thing" text not null, "thing_id" text not null, "before" json null, "after" json null)`,
  `create index "activity_change_activity" on "activity_change" ("activity_id")`,
];

export class Foundation extends Migration {
  override up(): void {
    for (const statement of [...TABLES, ...SEARCH_INDEX]) this.addSql(statement);
  }
}
