import { mkdtempSync, rmSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { EntityMetadata, EntityProperty } from '@mikro-orm/core';
import { changedThings } from '../store/changed-things.js';
import { ENTITY_KINDS, nameOf, type EntityKind } from '../store/entity-kinds.js';
import { rowsOf } from './dialect/sqlite/query.js';
import { DOCUMENTS } from './documents.js';
import { openDatabase, type Orm } from './orm.js';

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
const columnsOf = (table: string): Promise<Column[]> => rowsOf(orm.em.fork(), `pragma table_info("${table}")`);

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
          .filter(({ columnTypes }) => columnTypes?.[0] === 'json')
          .map(({ fieldNames }) => `${meta.tableName}.${fieldNames[0]}`),
      );
    expect(left.length).toBeGreaterThan(8);
    expect(left.filter((one) => !checked.has(one))).toEqual([]);
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
