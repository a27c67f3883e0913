import { Migration } from '@mikro-orm/migrations';

const STATEMENTS = [
  `create table "sponsor" ("id" text primary key, "revision" integer not null,
    "station_id" text not null references "station" ("id") on delete cascade, "name" text not null,
    "name_key" text not null, "product" text not null, "start_date" text null, "end_date" text null,
    "promises" json not null, "position" integer not null)`,
  `create unique index "sponsor_name" on "sponsor" ("station_id", "name_key")`,
  `create table "sponsor_settings" ("id" text primary key references "station" ("id") on delete cascade,
    "revision" integer not null, "rivals_apart_minutes" integer not null, "most_per_hour" integer null)`,
];

/** Sponsors and what was agreed with them. */
export class Sponsors extends Migration {
  override async up(): Promise<void> {
    for (const statement of STATEMENTS) await this.execute(statement);
  }
}
