import { Migration } from '@mikro-orm/migrations';

const STATEMENTS = [
  `create table "log_version" ("id" text primary key,
    "station_id" text not null references "station" ("id") on delete cascade, "date" text not null,
    "at_ms" integer not null, "revision" integer not null, "reasons" json not null, "hash" text not null,
    "hours" blob not null, "time_zone" text not null, "slots" integer not null, "open" integer not null)`,
  `create index "log_version_of_day" on "log_version" ("station_id", "date", "at_ms")`,
  `alter table "log_run" add column "categories" json null`,
  `alter table "log_run" add column "replaced_by_hand" integer not null default 0`,
  `create table "attended_run" ("id" text primary key,
    "station_id" text not null references "station" ("id") on delete cascade, "date" text not null,
    "at_ms" integer not null, "seed" integer not null, "scope" text not null, "ask" json not null,
    "rules_off" json not null, "answers" json not null, "state" text not null, "stop" json null,
    "decisions" json not null)`,
  `create index "attended_run_of_day" on "attended_run" ("station_id", "date", "at_ms")`,
];

/** Versions of logs, attended runs, and more of what a run was asked for. */
export class LogVersions extends Migration {
  override async up(): Promise<void> {
    for (const statement of STATEMENTS) await this.execute(statement);
  }
}
