import { Migration } from '@mikro-orm/migrations';

const STATEMENTS = [
  `alter table "daily_log" add column "strains_by_rule" json null`,
  `create table "day_figures" ("id" text primary key,
    "station_id" text not null references "station" ("id") on delete cascade, "date" text not null, "figures" text not null)`,
  `create unique index "day_figures_of_station" on "day_figures" ("station_id", "date")`,
  `create table "stale_figures" ("id" text primary key,
    "station_id" text not null references "station" ("id") on delete cascade, "date" text not null, "mark" integer not null)`,
  `create unique index "stale_figures_of_station" on "stale_figures" ("station_id", "date")`,
  `insert into "stale_figures" ("id", "station_id", "date", "mark")
    select station_id || ' ' || "date", station_id, "date", 1 from (
      select station_id, "date" from "play" union select station_id, "date" from "daily_log"
      union select station_id, "date" from "as_run_day")`,
  `create table "kept_report" ("id" text primary key, "revision" integer not null,
    "station_id" text not null references "station" ("id") on delete cascade, "name" text not null, "name_key" text not null,
    "report" text not null, "asked" json not null, "position" integer not null)`,
  `create unique index "kept_report_name" on "kept_report" ("station_id", "name_key")`,
];

/** Figures of days that reports are made of, and reports kept under a name. */
export class Insight extends Migration {
  override async up(): Promise<void> {
    for (const statement of STATEMENTS) await this.execute(statement);
  }
}
