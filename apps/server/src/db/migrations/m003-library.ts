import { nameKey } from '@fuller/core';
import { Migration } from '@mikro-orm/migrations';
import { newId } from '../../ids.js';

const STATEMENTS = [
  `alter table "item" add column "segue_ms" integer null`,
  `alter table "item" add column "hours" text null`,
  `alter table "item" add column "paused_until" text null`,
  `alter table "item" add column "weight" real not null default 1`,
  `alter table "item" add column "approved_at_ms" integer null`,
  `alter table "item" add column "approved_by" text null`,
  `alter table "item" add column "credit_pins" json not null default '{}'`,
  `alter table "category" add column "turn_order" text not null default 'even'`,
  `alter table "category" add column "approved_only" integer not null default 0`,
  `alter table "category" add column "cool_off" json null`,
  `create table "artist_alias" ("id" text primary key, "artist_id" text not null references "artist" ("id") on delete cascade,
    "name" text not null, "name_key" text not null unique)`,
  `create index "artist_alias_artist" on "artist_alias" ("artist_id")`,
  `create table "tag_family" ("id" text primary key, "revision" integer not null default 1, "name" text not null,
    "name_key" text not null unique, "single" integer not null, "values" json not null, "position" integer not null)`,
];
const USED_VALUES = `select distinct f.key as family, v.value as value
  from item i, json_each(i.tags) f, json_each(f.value) v order by f.key, v.value`;

/** Segue points, allowed hours, pauses, weights and approval of items; aliases of artists; tag families with their values. */
export class LibraryDepth extends Migration {
  override async up(): Promise<void> {
    for (const statement of STATEMENTS) await this.execute(statement);
    const used = (await this.execute(USED_VALUES)) as { family: string; value: string }[];
    const families = new Map<string, string[]>();
    for (const { family, value } of used) families.set(family, [...(families.get(family) ?? []), value]);
    let position = 0;
    for (const [name, values] of families) {
      await this.execute(
        `insert into tag_family ("id", "name", "name_key", "single", "values", "position") values (?, ?, ?, 0, ?, ?)`,
        [
          newId(),
          name,
          nameKey(name),
          JSON.stringify(values.map((value) => ({ value, code: '', colour: null }))),
          position++,
        ],
      );
    }
  }
}
