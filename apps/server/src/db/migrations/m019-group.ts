import { Migration } from '@mikro-orm/migrations';

const STATEMENTS = [
  `alter table "station" add column "revision" integer not null default 1`,
  `alter table "station" add column "archived" integer not null default 0`,
  `alter table "rule" add column "not_at" json not null default '[]'`,
  `alter table "rule" add column "station_ids" json not null default '[]'`,
];

/** Stations that are archived, shared rules that leave stations out, rules across stations. */
export class Group extends Migration {
  override async up(): Promise<void> {
    for (const statement of STATEMENTS) await this.execute(statement);
  }
}
