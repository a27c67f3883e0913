import { nameKey } from '@fuller/core';
import { Migration } from '@mikro-orm/migrations';

const STATEMENTS = [
  `create table "one_act" ("id" text primary key, "name" text not null)`,
  `create table "kept_apart" ("id" text primary key)`,
  `create table "worklist" ("id" text primary key references "station" ("id") on delete cascade, "item_ids" json not null)`,
  `create table "column_mapping" ("station_id" text not null references "station" ("id") on delete cascade,
    "columns" text not null, "mapping" json not null, primary key ("station_id", "columns"))`,
  `create table "watched_folder" ("id" text primary key references "station" ("id") on delete cascade,
    "folder" text not null, "category_id" text null)`,
  `create table "output" ("id" text primary key references "station" ("id") on delete cascade, "pattern" text not null,
    "hourly" integer not null)`,
  `create table "pending_hand_over" ("id" text primary key, "record" json not null, "output" json not null,
    "client_id" text not null, "state" text not null)`,
  `create table "rotation_plan" ("id" text primary key,
    "station_id" text not null references "station" ("id") on delete cascade,
    "category_id" text not null references "category" ("id") on delete cascade, "items" integer not null,
    "slots_per_week" integer not null)`,
  `create table "unreadable_note" ("id" text primary key, "text" text not null)`,
  `alter table "activity" add column "unfinished" integer not null default 0`,
  `create index "activity_unfinished" on "activity" ("id") where "unfinished" = 1`,
];

type Columns = Readonly<Record<string, unknown>>;

/** What one named value was turned into: rows of a table, under the name activities know them by. */
interface Typed {
  readonly table: string;
  readonly thing: string | null;
  readonly rows: readonly Columns[];
}

/** Every kind of named value has a table of its own. */
export class TypedSettings extends Migration {
  override async up(): Promise<void> {
    for (const statement of STATEMENTS) await this.execute(statement);
    const stations = new Set((await this.rows(`select "id" from "station"`)).map(({ id }) => String(id)));
    const categories = new Set((await this.rows(`select "id" from "category"`)).map(({ id }) => String(id)));
    for (const { id, value } of await this.rows(`select "id", "value" from "setting"`)) {
      if (String(id).startsWith(UNFINISHED)) {
        await this.execute(`update "activity" set "unfinished" = 1 where "id" = ?`, [rest(id, UNFINISHED)]);
        continue;
      }
      const typed = typedOf(String(id), read(value));
      for (const row of typed?.rows ?? []) {
        // Values of stations and categories that are gone belong to nobody.
        const station = OF_STATION.has(typed!.table) ? (row['stationId'] ?? row['id']) : undefined;
        if (station !== undefined && !stations.has(String(station))) continue;
        if (typed!.table === 'rotation_plan' && !categories.has(String(row['categoryId']))) continue;
        await this.insert(typed!.table, row);
      }
    }
    await this.turnRecorded();
    await this.execute(`drop table "setting"`);
  }

  /** What was recorded of named values can still be undone. */
  private async turnRecorded(): Promise<void> {
    const recorded = await this.rows(
      `select "id", "activity_id" as "activityId", "thing_id" as "thingId", "before", "after" from "activity_change"
       where "thing" = 'setting'`,
    );
    for (const { id, activityId, thingId, before, after } of recorded) {
      const [was, is] = [before, after].map((side) => {
        const row = read(side) as { value?: unknown } | null | undefined;
        return row === null || row === undefined ? [] : rowsById(typedOf(String(thingId), row.value));
      }) as [Rows, Rows];
      const thing = typedOf(String(thingId), null)?.thing ?? null;
      await this.execute(`delete from "activity_change" where "id" = ?`, [id]);
      if (thing === null) continue;
      for (const key of new Set([...was, ...is].map(([one]) => one))) {
        const sides = [was, is].map((rows) => rows.find(([one]) => one === key)?.[1]);
        const [old, now] = sides.map((row) => (row === undefined ? null : JSON.stringify(row)));
        if (old === now) continue;
        await this.execute(
          `insert into "activity_change" ("activity_id", "thing", "thing_id", "before", "after") values (?, ?, ?, ?, ?)`,
          [activityId, thing, key, old, now],
        );
      }
    }
  }

  private async rows(sql: string): Promise<Columns[]> {
    return (await this.execute(sql)) as Columns[];
  }

  private async insert(table: string, row: Columns): Promise<void> {
    const names = Object.keys(row);
    const columns = names.map((name) => `"${name.replace(/[A-Z]/g, (letter) => `_${letter.toLowerCase()}`)}"`);
    const values = names.map((name) => {
      const value = row[name];
      if (typeof value === 'boolean') return Number(value);
      return typeof value === 'object' && value !== null ? JSON.stringify(value) : value;
    });
    await this.execute(
      `insert or ignore into "${table}" (${columns.join(', ')}) values (${names.map(() => '?').join(', ')})`,
      values,
    );
  }
}

type Rows = readonly (readonly [string, Columns])[];

const UNFINISHED = 'unfinished:';
const OF_STATION: ReadonlySet<string> = new Set([
  'worklist',
  'column_mapping',
  'watched_folder',
  'output',
  'rotation_plan',
]);

function rowsById(typed: Typed | null): Rows {
  return (typed?.rows ?? []).map((row) => [String(row['id']), row]);
}

function rest(id: unknown, prefix: string): string {
  return String(id).slice(prefix.length);
}

/** The rows of a named value; no rows where its document is broken or empty, null for a name nothing is known of. */
function typedOf(name: string, value: unknown): Typed | null {
  if (name === 'acts') {
    const rows = texts(value).map((act) => ({ id: nameKey(act), name: act }));
    return { table: 'one_act', thing: 'oneAct', rows };
  }
  if (name === 'tidy-refused')
    return { table: 'kept_apart', thing: 'keptApart', rows: texts(value).map((id) => ({ id })) };
  const [prefix = '', ...parts] = name.split(':');
  const id = parts.join(':');
  const one = isObject(value) ? value : null;
  if (prefix === 'worklist') {
    const rows = Array.isArray(value) ? [{ id, itemIds: texts(value) }] : [];
    return { table: 'worklist', thing: 'worklist', rows };
  }
  if (prefix === 'watched-folder') {
    const rows = one ? [{ id, folder: String(one['folder']), categoryId: one['categoryId'] ?? null }] : [];
    return { table: 'watched_folder', thing: 'watchedFolder', rows };
  }
  if (prefix === 'rotation-plan') {
    const rows = Object.entries(one ?? {}).flatMap(([categoryId, plan]) =>
      isObject(plan)
        ? [
            {
              id: `${id}:${categoryId}`,
              stationId: id,
              categoryId,
              items: plan['items'],
              slotsPerWeek: plan['slotsPerWeek'],
            },
          ]
        : [],
    );
    return { table: 'rotation_plan', thing: 'rotationPlan', rows };
  }
  if (prefix === 'unreadable') {
    const rows = one ? [{ id, text: String(one['text']) }] : [];
    return { table: 'unreadable_note', thing: 'unreadableNote', rows };
  }
  if (prefix === 'import-mapping') {
    const rows = Object.entries(one ?? {}).flatMap(([columns, mapping]) =>
      Array.isArray(mapping) ? [{ stationId: id, columns, mapping }] : [],
    );
    return { table: 'column_mapping', thing: null, rows };
  }
  if (prefix === 'hand-over') {
    const rows = one ? [{ id, pattern: String(one['pattern']), hourly: one['hourly'] === true }] : [];
    return { table: 'output', thing: null, rows };
  }
  if (prefix === 'hand-over-pending' && one) {
    const { record, settings, clientId, state } = one;
    return { table: 'pending_hand_over', thing: null, rows: [{ id, record, output: settings, clientId, state }] };
  }
  return null;
}

function isObject(value: unknown): value is Columns {
  return typeof value === 'object' && value !== null && !Array.isArray(value);
}

function texts(value: unknown): string[] {
  return Array.isArray(value) ? value.filter((one) => typeof one === 'string') : [];
}

function read(text: unknown): unknown {
  if (typeof text !== 'string') return text;
  try {
    return JSON.parse(text);
  } catch {
    return undefined;
  }
}
