import { Migration } from '@mikro-orm/migrations';

const STATEMENTS = [
  `create table "person" ("id" text primary key, "revision" integer not null, "name" text not null,
    "name_key" text not null unique, "roles" json not null, "demo" integer not null default 0,
    "created_ms" integer not null)`,
  `create table "credential" ("id" text primary key, "hash" text not null, "must_change" integer not null)`,
  `create table "session" ("id" text primary key, "person_id" text not null, "token_hash" text not null unique,
    "created_ms" integer not null, "seen_ms" integer not null, "address" text not null, "agent" text not null)`,
  `create index "session_person" on "session" ("person_id")`,
  `create table "access_token" ("id" text primary key, "name" text not null, "token_hash" text not null unique,
    "rights" json not null, "station_ids" json null, "made_by" text not null, "created_ms" integer not null,
    "used_ms" integer null, "expires_ms" integer null)`,
  `create table "access_setting" ("id" text primary key, "open" integer not null)`,
  `create table "activity_setting" ("id" text primary key, "kept_days" integer null)`,
  `create table "backup_setting" ("id" text primary key, "nightly_at" text null, "kept" integer not null,
    "folder" text not null, "last_date" text null)`,
  `alter table "activity" add column "person_id" text null`,
  `alter table "activity" add column "person_name" text null`,
  `create index "activity_person" on "activity" ("person_id", "at_ms")`,
];

/** Accounts, where they are signed in, tokens of other programs, and who did what. */
export class People extends Migration {
  override async up(): Promise<void> {
    for (const statement of STATEMENTS) await this.execute(statement);
  }
}
