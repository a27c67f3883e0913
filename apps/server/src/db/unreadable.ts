import { mkdir, writeFile } from 'node:fs/promises';
import path from 'node:path';
import { newId } from '../ids.js';
import { SettingEntity } from './entities/index.js';
import type { Em, Orm } from './orm.js';

/** Notes of what could not be read are kept as settings of this name. */
export const UNREADABLE = 'unreadable:';

/** What a person is told of a stored document that could not be read. */
export interface Unreadable {
  /** What it was and what was done, in words. */
  readonly text: string;
}

/** A row whose document cannot be read is of no use. */
const NO_ROW = Symbol('no row');

/** A column of stored documents: the shape they have, and what stands in place of one that cannot be read. */
interface Documents {
  readonly table: string;
  readonly column: string;
  readonly type: 'array' | 'object' | 'any';
  /** Of each value in it; anything where not given. */
  readonly values?: 'object' | 'array' | 'text';
  readonly instead: string | null | typeof NO_ROW;
  /** An SQL expression for the row’s name. */
  readonly name: string;
  readonly told: (name: string) => string;
}

const FRAMING = JSON.stringify({
  hourOpenerId: null,
  hourCloserId: null,
  showOpenerId: null,
  showCloserId: null,
  momentsId: null,
});
const STATION = `(select name from station where station.id = t.id)`;

const DOCUMENTS: readonly Documents[] = [
  {
    table: 'clock',
    column: 'lines',
    type: 'array',
    values: 'object',
    instead: '[]',
    name: 'name',
    told: (name) => `The lines of clock “${name}” could not be read. The clock is empty now.`,
  },
  {
    table: 'week_plan',
    column: 'blocks',
    type: 'array',
    values: 'object',
    instead: '[]',
    name: STATION,
    told: (name) => `The week of ${name} could not be read. It is empty now.`,
  },
  {
    table: 'week_plan',
    column: 'framing',
    type: 'object',
    instead: FRAMING,
    name: STATION,
    told: (name) => `The openers and closers of ${name} could not be read. They are not set now.`,
  },
  {
    table: 'show',
    column: 'clock_ids',
    type: 'array',
    values: 'text',
    instead: '[]',
    name: 'name',
    told: (name) => `The clocks of show “${name}” could not be read. It has none now.`,
  },
  {
    table: 'date_plan',
    column: 'blocks',
    type: 'array',
    values: 'object',
    instead: '[]',
    name: 'name',
    told: (name) => `The blocks of the date “${name}” could not be read. It has none now.`,
  },
  {
    table: 'rule',
    column: 'exceptions',
    type: 'array',
    values: 'object',
    instead: '[]',
    name: 'tag',
    told: (name) => `The exceptions of a rule about the ${name} could not be read. It has none now.`,
  },
  {
    table: 'rule',
    column: 'places',
    type: 'array',
    values: 'object',
    instead: '[]',
    name: 'tag',
    told: (name) => `The places of a rule about the ${name} could not be read. It applies to the whole station now.`,
  },
  {
    table: 'category',
    column: 'cool_off',
    type: 'object',
    instead: null,
    name: 'name',
    told: (name) => `The rest that category “${name}” gives after many plays could not be read. It is not set now.`,
  },
  {
    table: 'item',
    column: 'tags',
    type: 'object',
    values: 'array',
    instead: '{}',
    name: 'title',
    told: (name) => `The tags of “${name}” could not be read. It has none now.`,
  },
  {
    table: 'item',
    column: 'credit_pins',
    type: 'object',
    values: 'text',
    instead: '{}',
    name: 'title',
    told: (name) => `Which artists of one name “${name}” credits could not be read. It is not set now.`,
  },
  {
    table: 'tag_family',
    column: 'values',
    type: 'array',
    values: 'object',
    instead: '[]',
    name: 'name',
    told: (name) => `The values of tag family “${name}” could not be read. It has none now.`,
  },
  {
    table: 'hand_over',
    column: 'files',
    type: 'array',
    values: 'text',
    instead: '[]',
    name: '"date"',
    told: (name) => `The files of a hand-over of ${name} could not be read. None are listed now.`,
  },
  {
    table: 'daily_log',
    column: 'hours',
    type: 'array',
    values: 'object',
    instead: NO_ROW,
    name: '"date"',
    told: (name) => `The log of ${name} could not be read. There is no log of that date now.`,
  },
  {
    table: 'setting',
    column: 'value',
    type: 'any',
    instead: NO_ROW,
    name: 'id',
    told: (name) => `The setting “${name}” could not be read. It is not set now.`,
  },
];

/**
 * Finds stored documents that cannot be read, so that none takes down more than itself: what was stored is kept in a
 * file of the data folder, a plain value takes its place, and a note of it is left. Returns what to tell.
 */
export async function setUnreadableAside(orm: Orm, dataDir: string, atMs: number): Promise<string[]> {
  const told: string[] = [];
  const day = new Date(atMs).toISOString().slice(0, 10);
  for (const documents of DOCUMENTS) {
    for (const row of await unreadableRows(orm.em.fork(), documents)) {
      const file = path.join('recovered', `${documents.table}-${documents.column}-${row.place}-${day}.txt`);
      await mkdir(path.join(dataDir, 'recovered'), { recursive: true });
      await writeFile(path.join(dataDir, file), row.stored, { flag: 'a' });
      const text = `${documents.told(row.name ?? 'without a name')} What was stored is kept in ${file}.`;
      await orm.em.fork().transactional(async (em) => {
        await putInstead(em, documents, row.place, atMs);
        await em.insert(SettingEntity, { id: UNREADABLE + newId(), value: { text } satisfies Unreadable });
      });
      told.push(text);
    }
  }
  return told;
}

async function unreadableRows(
  em: Em,
  { table, column, type, values, name }: Documents,
): Promise<{ place: number; name: string | null; stored: string }[]> {
  const wrongValue = values
    ? `when exists (select 1 from json_each(t."${column}") one where one.type <> '${values}') then 1`
    : '';
  return (await em.execute(
    `select rowid as place, ${name} as name, cast("${column}" as text) as stored from "${table}" t
     where case when "${column}" is null then 0 when not json_valid("${column}") then 1
       ${type === 'any' ? '' : `when json_type("${column}") <> '${type}' then 1`} ${wrongValue} else 0 end`,
  )) as { place: number; name: string | null; stored: string }[];
}

async function putInstead(em: Em, { table, column, instead }: Documents, place: number, nowMs: number): Promise<void> {
  if (instead !== NO_ROW) {
    await em.execute(`update "${table}" set "${column}" = ? where rowid = ?`, [instead, place]);
    return;
  }
  // A log goes with the plays it planned; those that have aired stay known.
  if (table === 'daily_log')
    await em.execute(
      `update play set log_id = null where start_ms <= ? and log_id = (select id from daily_log where rowid = ?)`,
      [nowMs, place],
    );
  await em.execute(`delete from "${table}" where rowid = ?`, [place]);
}
