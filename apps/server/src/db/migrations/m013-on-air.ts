import { Migration } from '@mikro-orm/migrations';

const STATEMENTS = [
  `update "player_output" set files = json_set(files, '$.cues', json('false'))`,
  `alter table "show" add column "presenter" text not null default ''`,
  `create table "show_secret" ("id" text primary key references "show" ("id") on delete cascade,
    "password_hash" text not null)`,
  `create table "on_air_settings" ("id" text primary key references "station" ("id") on delete cascade,
    "revision" integer not null, "player_url" text null, "late_ms" integer not null, "accept_all" integer not null)`,
  `create table "on_air_secret" ("id" text primary key references "station" ("id") on delete cascade,
    "player_token" text not null)`,
  `create table "as_run_row" ("id" integer primary key autoincrement,
    "station_id" text not null references "station" ("id") on delete cascade, "date" text not null, "key" text not null,
    "start_ms" integer not null, "end_ms" integer not null, "kind" text not null, "artist" text not null,
    "title" text not null, "cart" text not null, "file" text not null, "entry_id" text not null, "ended" text not null,
    "by" text not null, "item_id" text null, "sponsor" text not null)`,
  `create unique index "as_run_row_key" on "as_run_row" ("station_id", "key")`,
  `create index "as_run_row_of_date" on "as_run_row" ("station_id", "date", "start_ms")`,
  `create table "as_run_day" ("id" text primary key,
    "station_id" text not null references "station" ("id") on delete cascade, "date" text not null,
    "revision" integer not null, "covered_from_ms" integer not null, "covered_until_ms" integer not null,
    "source" text not null, "accepted" integer not null, "decisions" json not null, "missed" json not null)`,
  `create unique index "as_run_day_of_station" on "as_run_day" ("station_id", "date")`,
];

/** What aired, and the devices it comes from. */
export class OnAir extends Migration {
  override async up(): Promise<void> {
    for (const statement of STATEMENTS) await this.execute(statement);
  }
}
