import { EMPTY_WEEK, HOUR_MS, NO_FRAMING, paint, type PlanBlock, type WeekPlan } from '@fuller/core';
import { Migration } from '@mikro-orm/migrations';

const STATEMENTS = [
  `alter table "clock" add column "length_ms" integer not null default ${HOUR_MS}`,
  `alter table "week_plan" add column "blocks" json not null default '[]'`,
  `alter table "week_plan" add column "framing" json not null default '${JSON.stringify(NO_FRAMING)}'`,
  `create table "show" ("id" text primary key, "revision" integer not null default 1,
    "station_id" text not null references "station" ("id"), "name" text not null, "name_key" text not null,
    "colour" text not null, "clock_ids" json not null, "minutes" integer not null, "start" text not null,
    "end" text not null, "tolerance_ms" integer not null, "after" text not null, "announcement_id" text null,
    "opener_id" text null, "closer_id" text null, "hour_opener_id" text null, "position" integer not null)`,
  `create unique index "show_name" on "show" ("station_id", "name_key")`,
  `create table "date_plan" ("id" text primary key, "revision" integer not null default 1,
    "station_id" text not null references "station" ("id"), "name" text not null, "start" text not null,
    "repeat" text not null, "like_day" integer null, "instead" integer not null, "blocks" json not null,
    "position" integer not null)`,
];

/** Clocks of any length, the week in blocks of five minutes and more, shows, and dates that differ. */
export class AirPlanTables extends Migration {
  override async up(): Promise<void> {
    for (const statement of STATEMENTS) await this.execute(statement);
    const weeks = (await this.execute(`select "id", "cells" from "week_plan"`)) as { id: string; cells: string }[];
    for (const { id, cells } of weeks) {
      const blocks = blocksOfCells(JSON.parse(cells) as (string | null)[]);
      await this.execute(`update "week_plan" set "blocks" = ? where "id" = ?`, [JSON.stringify(blocks), id]);
    }
    await this.execute(`alter table "week_plan" drop column "cells"`);
    // What was recorded of weeks and clocks can still be undone.
    const recorded = (await this.execute(
      `select "id", "thing", "before", "after" from "activity_change" where "thing" in ('week', 'clock')`,
    )) as { id: number; thing: string; before: string | null; after: string | null }[];
    for (const { id, thing, before, after } of recorded) {
      const turned = [before, after].map((text) =>
        text === null ? null : JSON.stringify(asNow(thing, JSON.parse(text))),
      );
      await this.execute(`update "activity_change" set "before" = ?, "after" = ? where "id" = ?`, [...turned, id]);
    }
  }
}

/** The blocks of a week that was kept hour by hour. */
export function blocksOfCells(cells: readonly (string | null)[]): readonly PlanBlock[] {
  return cells.reduce<WeekPlan>(
    (plan, id, hour) => (id === null ? plan : paint(plan, hour * 60, 60, { runs: 'clock', id })),
    EMPTY_WEEK,
  ).blocks;
}

function asNow(thing: string, row: Record<string, unknown> | null): Record<string, unknown> | null {
  if (row === null) return null;
  if (thing === 'clock') return 'lines' in row && 'name' in row ? { lengthMs: HOUR_MS, ...row } : row;
  const { cells, ...rest } = row;
  return Array.isArray(cells) ? { ...rest, blocks: blocksOfCells(cells as (string | null)[]) } : row;
}
