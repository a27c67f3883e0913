import { Migration } from '@mikro-orm/migrations';

const STATEMENTS = [
  `create table "set_list" ("id" text primary key, "revision" integer not null, "scope" text not null,
    "station_id" text null references "station" ("id") on delete cascade, "name" text not null,
    "name_key" text not null, "wanted_ms" integer null, "rows" json not null, "position" integer not null)`,
  `alter table "rolling_settings" add column "set_list_id" text null`,
];

/** Set lists. */
export class SetLists extends Migration {
  override async up(): Promise<void> {
    for (const statement of STATEMENTS) await this.execute(statement);
  }
}
