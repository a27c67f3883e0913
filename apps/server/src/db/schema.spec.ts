import { mkdtempSync, rmSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { EntityMetadata, EntityProperty } from '@mikro-orm/core';
import Database from 'libsql';
import { changedThings } from '../store/changed-things.js';
import { ENTITY_KINDS, nameOf, type EntityKind } from '../store/entity-kinds.js';
import { IS_SHARED, itOfFile } from '../testing/database.js';
import { rowsOf } from './queries/query.js';
import { portable } from './schema/portable.js';
import { TABLES } from './schema/tables.js';
import { DOCUMENTS } from './documents.js';
import { type Orm } from './orm.js';
import { openDatabase } from './open.js';

interface Column {
  readonly name: string;
  readonly notnull: number;
  readonly dflt_value: string | null;
  readonly pk: number;
}

const dataDir = mkdtempSync(path.join(os.tmpdir(), 'fuller-schema-'));
let orm: Orm;
let entities: EntityMetadata[] = [];

beforeAll(async () => {
  orm = await openDatabase(dataDir);
  entities = Object.values(orm.getMetadata().getAll()).filter(({ tableName }) => tableName !== 'migration');
});
afterAll(async () => {
  await orm.close();
  rmSync(dataDir, { recursive: true });
});

const propsOf = (meta: EntityMetadata): EntityProperty[] => Object.values(meta.properties) as EntityProperty[];
const COLUMNS = `select column_name as name, case is_nullable when 'NO' then 1 else 0 end as notnull, column_default as dflt_value,
  case when column_name in (select column_name from information_schema.key_column_usage k
    join information_schema.table_constraints c using (constraint_name) where c.constraint_type = 'PRIMARY KEY'
    and k.table_name = columns.table_name) then 1 else 0 end as pk
  from information_schema.columns where table_schema = 'public' and table_name = ? and is_generated = 'NEVER'
    and column_name <> 'written_at'`;
const columnsOf = (table: string): Promise<Column[]> =>
  IS_SHARED ? rowsOf(orm.em.fork(), COLUMNS, [table]) : rowsOf(orm.em.fork(), `pragma table_info("${table}")`);

type File = InstanceType<typeof Database>;
const all = <T>(file: File, sql: string): T[] => file.prepare(sql).all() as T[];
const namesOf = (file: File): string[] =>
  all<{ name: string }>(
    file,
    `select name from sqlite_master where type = 'table' and name not like 'sqlite_%' order by 1`,
  ).map(({ name }) => name);
/** What a table takes, refers to and is found by, whatever the order in which it came to that. */
const shapeOf = (file: File, table: string): unknown => {
  const columns = all<Record<string, unknown>>(file, `pragma table_info("${table}")`);
  const foreign = all<Record<string, unknown>>(file, `pragma foreign_key_list("${table}")`);
  const indexes = all<{ name: string; unique: number; partial: number }>(file, `pragma index_list("${table}")`);
  return {
    table,
    columns: columns
      .map(({ name, type, notnull, dflt_value, pk }) => `${name} ${type} ${notnull} ${dflt_value} ${pk}`)
      .sort(),
    foreign: foreign.map(({ from, table: to, on_delete }) => `${from} ${to} ${on_delete}`).sort(),
    indexes: indexes
      .map(({ name, unique, partial }) => [
        name.startsWith('sqlite_') ? 'of the table' : name,
        unique,
        partial,
        all<{ name: string | null }>(file, `pragma index_info("${name}")`).map((one) => one.name),
      ])
      .sort(),
  };
};

describe('the tables that migrations make', () => {
  it('have every column an entity knows, and ask for no other', async () => {
    expect(entities.length).toBeGreaterThan(20);
    for (const meta of entities) {
      const columns = await columnsOf(meta.tableName);
      const known = propsOf(meta).flatMap(({ fieldNames }) => fieldNames);
      const there = columns.map(({ name }) => name);
      expect([meta.tableName, known.filter((name) => !there.includes(name))]).toEqual([meta.tableName, []]);
      const asked = columns.filter(({ notnull, dflt_value, pk }) => notnull === 1 && dflt_value === null && pk === 0);
      expect(asked.map(({ name }) => name).filter((name) => !known.includes(name))).toEqual([]);
    }
  });

  it('take no null where an entity promises a value', async () => {
    for (const meta of entities) {
      const columns = new Map((await columnsOf(meta.tableName)).map((column) => [column.name, column]));
      const promised = propsOf(meta).filter(({ nullable, primary }) => !nullable && !primary);
      const loose = promised.flatMap(({ fieldNames }) => fieldNames.filter((name) => columns.get(name)?.notnull === 0));
      expect([meta.tableName, loose]).toEqual([meta.tableName, []]);
    }
  });

  it('have every document that can break among those that are checked at the start', () => {
    const checked = new Set(DOCUMENTS.map(({ table, column }) => `${table}.${column}`));
    // What was recorded of changes is read only to undo them, and says so itself when it cannot be.
    const left = entities
      .filter(({ tableName }) => tableName !== 'activity_change')
      .flatMap((meta) =>
        propsOf(meta)
          .filter(({ columnTypes }) => columnTypes?.[0]?.startsWith('json'))
          .map(({ fieldNames }) => `${meta.tableName}.${fieldNames[0]}`),
      );
    expect(left.length).toBeGreaterThan(8);
    expect(left.filter((one) => !checked.has(one))).toEqual([]);
  });

  itOfFile('are those of the one description of all tables', () => {
    const [migrated, described] = [new Database(path.join(dataDir, 'fuller.db')), new Database(':memory:')];
    for (const statement of TABLES) described.exec(portable(statement, 'sqlite'));
    const tables = namesOf(described);
    expect(namesOf(migrated).filter((name) => !/^(migration|item_search.*)$/.test(name))).toEqual(tables);
    for (const table of tables) expect(shapeOf(migrated, table)).toEqual(shapeOf(described, table));
    expect(tables.length).toBeGreaterThan(55);
    migrated.close();
    described.close();
  });

  it('are known under the names activities give them, and a change of each is told to somebody', () => {
    const names = new Set(entities.map(({ className }) => className));
    for (const kind of Object.keys(ENTITY_KINDS) as EntityKind[]) {
      expect(names.has(nameOf(kind))).toBe(true);
      // Credits change only with their items.
      if (kind !== 'credit') expect([kind, changedThings(new Set([kind])).length]).not.toEqual([kind, 0]);
    }
    expect(changedThings(new Set(['item', 'category', 'nothing']))).toEqual(['library', 'catalogue']);
    expect(changedThings(new Set(['rule']))).toEqual(['catalogue', 'logs', 'only rules']);
    expect(changedThings(new Set(['rule', 'clock']))).toEqual(['catalogue', 'logs']);
  });
});
