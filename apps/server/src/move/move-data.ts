import { createHash } from 'node:crypto';
import type { EntityMetadata, EntityProperty } from '@mikro-orm/core';
import { dialectOf, isPostgres } from '../db/dialect/dialect.js';
import { Claims } from '../db/dialect/postgres/claims.js';
import { IN_WRITTEN_ORDER } from '../db/dialect/postgres/extras.js';
import { openDatabase } from '../db/open.js';
import type { Em, Orm } from '../db/orm.js';
import { own } from '../db/owner.js';
import { insertRows, plainRow } from '../db/queries/rows.js';
import { rowOf, rowsOf } from '../db/queries/query.js';
import { TABLES } from '../db/schema/tables.js';
import { FullerError } from '../errors.js';

/** So many rows are carried in one transaction. */
const ROWS_AT_ONCE = 2_000;
const COUNTING = ['activity_change', 'play', 'as_run_row'];

export interface MovedTable {
  readonly table: string;
  readonly rows: number;
  /** SHA-256 of all rows in order, the same on both sides. */
  readonly sum: string;
}

/** Where data stands: the folder of a file, or the address of a database of PostgreSQL. */
export type Standing = { readonly dataDir: string } | { readonly database: string };

/**
 * Copies everything a database holds into another that holds nothing else, with history and activity, and holds both against
 * each other. Broken off, it goes on where it stopped when it is begun again; what is copied from is not changed. Throws IN_USE where
 * a server works on either, and CONFLICT where the target holds other data.
 */
export async function moveData(
  from: Standing,
  to: Standing,
  onProgress: (words: string) => void = () => {},
): Promise<MovedTable[]> {
  const source = await openAlone(from);
  try {
    const target = await openAlone(to);
    try {
      return await carryAll(source.orm, target.orm, onProgress);
    } finally {
      await target.close();
    }
  } finally {
    await source.close();
  }
}

/** Opens a database on which nobody else works. */
async function openAlone(standing: Standing): Promise<{ orm: Orm; close(): Promise<void> }> {
  if ('dataDir' in standing) {
    const owner = await own(standing.dataDir);
    const orm = await openDatabase(standing.dataDir, 'own', null);
    const close = async (): Promise<void> => {
      await orm.close(true);
      await owner.release();
    };
    return { orm, close };
  }
  const orm = await openDatabase('', 'own', standing.database);
  const claim = await new Claims(standing.database, 'duty').take('watching');
  if (!claim) {
    await orm.close(true);
    throw new FullerError('IN_USE', 'A server works on the database; stop every one of them first.');
  }
  const close = async (): Promise<void> => {
    await claim.end();
    await orm.close(true);
  };
  return { orm, close };
}

async function carryAll(source: Orm, target: Orm, onProgress: (words: string) => void): Promise<MovedTable[]> {
  const tables = tablesInOrder(source);
  // All of them first, so that nothing is written beside what somebody else keeps there.
  for (const meta of tables) await refuseOther(source.em.fork(), target.em.fork(), meta);
  const moved: MovedTable[] = [];
  for (const meta of tables) {
    await carry(source.em.fork(), target, meta, onProgress);
    const [there, here] = [await sumOf(source.em.fork(), meta), await sumOf(target.em.fork(), meta)];
    if (there.sum !== here.sum || there.rows !== here.rows)
      throw new FullerError(
        'CONFLICT',
        `${meta.tableName} is not the same on both sides. Empty the target and move again.`,
      );
    moved.push({ table: meta.tableName, ...here });
  }
  await countOn(target.em.fork());
  return moved;
}

/** Entities in the order of their tables: every row comes after those it refers to. */
function tablesInOrder(orm: Orm): EntityMetadata[] {
  const byTable = new Map(Object.values(orm.getMetadata().getAll()).map((meta) => [meta.tableName, meta]));
  return TABLES.flatMap((statement) => {
    const name = /^create table "(\w+)"/.exec(statement)?.[1];
    const meta = name === undefined ? undefined : byTable.get(name);
    return meta ? [meta] : [];
  });
}

/** A target may hold what was carried before, and nothing else. */
async function refuseOther(source: Em, target: Em, meta: EntityMetadata): Promise<void> {
  const here = await sumOf(target, meta);
  if (here.rows === 0) return;
  const there = await sumOf(source, meta, here.rows);
  if (there.sum !== here.sum)
    throw new FullerError(
      'CONFLICT',
      `The target holds other data already (in ${meta.tableName}); nothing was written to it.`,
    );
}

async function carry(
  source: Em,
  target: Orm,
  meta: EntityMetadata,
  onProgress: (words: string) => void,
): Promise<void> {
  let carried = (await rowOf<{ n: number }>(target.em.fork(), `select count(*) as n from "${meta.tableName}"`)).n;
  for (;;) {
    const rows = await someRows(source, meta, carried, ROWS_AT_ONCE);
    if (rows.length === 0) return;
    await target.em.fork().transactional((em) => insertRows(em, meta.className, rows));
    carried += rows.length;
    onProgress(`${meta.tableName}: ${carried.toLocaleString('en-GB')} rows`);
  }
}

/** Rows in the order both databases agree on: as they were written where that means something, else by their keys. */
async function someRows(
  em: Em,
  meta: EntityMetadata,
  offset: number,
  most: number,
): Promise<Record<string, unknown>[]> {
  const keys = meta.primaryKeys.map((name) => `t."${columnOf(meta, name)}"`);
  const order = IN_WRITTEN_ORDER.includes(meta.tableName) ? dialectOf(em).writtenAt('t') : keys.join(', ');
  const rows = await rowsOf<Record<string, unknown>>(
    em,
    `select t.* from "${meta.tableName}" t order by ${order} limit ? offset ?`,
    [most, offset],
  );
  // Each side knows its columns in its own way.
  const own = em.getMetadata().get(meta.className) as EntityMetadata;
  return rows.map((row) => plainRow(own, row));
}

function columnOf(meta: EntityMetadata, name: string): string {
  return (meta.properties[name as never] as EntityProperty).fieldNames[0]!;
}

/** The count and the sum of the first rows of a table. */
async function sumOf(em: Em, meta: EntityMetadata, first = Infinity): Promise<{ rows: number; sum: string }> {
  const hash = createHash('sha256');
  let rows = 0;
  for (;;) {
    const some = await someRows(em, meta, rows, Math.min(ROWS_AT_ONCE, first - rows));
    if (some.length === 0) return { rows, sum: hash.digest('hex') };
    for (const row of some) hash.update(textOf(row)).update('\n');
    rows += some.length;
  }
}

function textOf(row: Readonly<Record<string, unknown>>): string {
  const values = Object.entries(row).map(([name, value]) => [
    name,
    ArrayBuffer.isView(value) ? Buffer.from(value as Uint8Array).toString('base64') : value,
  ]);
  return JSON.stringify(values);
}

/** Numbers that count by themselves go on after the last that was carried. */
async function countOn(em: Em): Promise<void> {
  if (!isPostgres(em)) return;
  for (const table of COUNTING)
    await rowsOf(
      em,
      `select setval(pg_get_serial_sequence('"${table}"', 'id'), greatest(1, (select coalesce(max(id), 0) from "${table}")))`,
    );
}
