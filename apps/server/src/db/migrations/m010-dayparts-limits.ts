import { Migration } from '@mikro-orm/migrations';

const STATEMENTS = [
  `create table "daypart" ("id" text primary key, "revision" integer not null,
    "station_id" text not null references "station" ("id") on delete cascade, "name" text not null,
    "name_key" text not null, "hours" text not null, "position" integer not null)`,
  `create table "limit_pack" ("id" text primary key references "station" ("id") on delete cascade,
    "revision" integer not null, "applies" integer not null, "strict" integer not null, "exempt_albums" json not null)`,
  `create table "log_run" ("id" text primary key,
    "station_id" text not null references "station" ("id") on delete cascade, "date" text not null,
    "activity_id" text not null, "at_ms" integer not null, "seed" integer not null, "only" text not null,
    "hours" json null, "rules_off" json not null, "answers" json not null)`,
  `create index "log_run_of_day" on "log_run" ("station_id", "date", "at_ms")`,
];

/** Dayparts, the statutory limits of a station, and what each run over a day was asked for. */
export class DaypartsLimits extends Migration {
  override async up(): Promise<void> {
    for (const statement of STATEMENTS) await this.execute(statement);
  }
}
