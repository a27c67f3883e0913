import { Migration } from '@mikro-orm/migrations';

const STATEMENTS = [
  `create table "rolling_settings" ("id" text primary key references "station" ("id") on delete cascade,
    "revision" integer not null, "mode" text not null, "loop_clock_id" text null, "depth_unit" text not null,
    "depth" integer not null, "per_listener" integer not null, "per_hour" integer not null,
    "requests_url" text null)`,
  `create table "rolling_queue" ("id" text primary key references "station" ("id") on delete cascade,
    "rows" json not null, "cursor" json not null, "passed_over" json not null)`,
  `create table "song_request" ("id" text primary key,
    "station_id" text not null references "station" ("id") on delete cascade, "key" text not null,
    "listener" text not null, "title" text not null, "artist" text not null, "item_id" text null,
    "at_ms" integer not null, "state" text not null, "told" json not null, "row_id" text null, "date" text null,
    "aired_ms" integer null)`,
  `create unique index "song_request_key" on "song_request" ("station_id", "key")`,
  `create index "song_request_of_station" on "song_request" ("station_id", "at_ms")`,
  `create index "song_request_of_item" on "song_request" ("item_id", "at_ms")`,
];

/** Live queues, and what listeners ask for. */
export class Rolling extends Migration {
  override async up(): Promise<void> {
    for (const statement of STATEMENTS) await this.execute(statement);
  }
}
