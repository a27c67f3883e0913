import { Migration } from '@mikro-orm/migrations';

const OUTPUT_FILES = `json_object('pattern', pattern, 'hourly', json(case hourly when 1 then 'true' else 'false' end),
  'format', 'm3u8', 'layout', null, 'prefixes', json('[]'), 'slashes', 'as they are', 'encoding', null,
  'missingLetters', 'nearest', 'lineEnds', 'LF', 'withoutAudio', 'hold back', 'leaveOut', json('[]'),
  'zip', json('false'))`;

const STATEMENTS = [
  `create table "player_output" ("id" text primary key, "revision" integer not null,
    "station_id" text not null references "station" ("id") on delete cascade, "name" text not null,
    "name_key" text not null, "files" json not null, "target" json not null, "nightly" json null,
    "position" integer not null)`,
  `create unique index "player_output_name" on "player_output" ("station_id", "name_key")`,
  `insert into "player_output" ("id", "revision", "station_id", "name", "name_key", "files", "target", "nightly", "position")
    select 'playlist-' || id, 1, id, 'Playlist', 'playlist', ${OUTPUT_FILES},
      json_object('kind', 'folder', 'folder', null), null, 0 from "output"`,
  `drop table "output"`,
  `create table "output_secret" ("id" text primary key references "player_output" ("id") on delete cascade,
    "password" text not null)`,
  `create table "output_night" ("id" text primary key references "player_output" ("id") on delete cascade,
    "date" text not null)`,
  `alter table "hand_over" add column "output_id" text null`,
  `alter table "hand_over" add column "output_name" text not null default ''`,
  `alter table "hand_over" add column "version_id" text null`,
  `create table "traffic_settings" ("id" text primary key references "station" ("id") on delete cascade,
    "revision" integer not null, "tolerance_ms" integer not null, "layout_id" text null, "folder" text null,
    "automatic" integer not null)`,
  `create table "text_layout" ("id" text primary key, "revision" integer not null,
    "station_id" text not null references "station" ("id") on delete cascade, "name" text not null,
    "name_key" text not null, "layout" json not null)`,
  `create unique index "text_layout_name" on "text_layout" ("station_id", "name_key")`,
  `create table "traffic_day" ("id" text primary key,
    "station_id" text not null references "station" ("id") on delete cascade, "date" text not null,
    "at_ms" integer not null, "file_name" text not null, "hash" text not null, "lines" integer not null,
    "tray" json not null, "errors" json not null)`,
  `create unique index "traffic_day_of_station" on "traffic_day" ("station_id", "date")`,
];

/** Outputs of a station, what traffic has booked, and the layouts of its files. */
export class OutputsTraffic extends Migration {
  override async up(): Promise<void> {
    for (const statement of STATEMENTS) await this.execute(statement);
  }
}
