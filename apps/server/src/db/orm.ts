import { elementAt } from '@fuller/core';
import { mkdir, readdir, rm } from 'node:fs/promises';
import path from 'node:path';
import { MikroORM, type EntityManager } from '@mikro-orm/libsql';
import { Migrator } from '@mikro-orm/migrations';
import { FullerError } from '../errors.js';
import * as entities from './entities/index.js';
import { Foundation } from './migrations/m001-foundation.js';
import { Filters } from './migrations/m002-filters.js';
import { LibraryDepth } from './migrations/m003-library.js';
import { AirPlanTables } from './migrations/m004-air-plan.js';
import { PlaysByDate } from './migrations/m005-kept-plays.js';
import { Indexes } from './migrations/m006-indexes.js';
import { EntryIds } from './migrations/m008-entry-ids.js';
import { RuleShapes } from './migrations/m007-rule-shapes.js';
import { TypedSettings } from './migrations/m009-typed-settings.js';
import { DaypartsLimits } from './migrations/m010-dayparts-limits.js';
import { LogVersions } from './migrations/m011-log-versions.js';
import { OnAir } from './migrations/m013-on-air.js';
import { Rolling } from './migrations/m014-rolling.js';
import { Teases } from './migrations/m015-teases.js';
import { Sponsors } from './migrations/m016-sponsors.js';
import { SetLists } from './migrations/m017-set-lists.js';
import { People } from './migrations/m018-people.js';
import { Group } from './migrations/m019-group.js';
import { Insight } from './migrations/m020-insight.js';
import { Life } from './migrations/m021-life.js';
import { OutputsTraffic } from './migrations/m012-outputs-traffic.js';

export const ENTITIES = Object.values(entities);
/** Every migration, the oldest first. */
export const MIGRATIONS = [
  { name: 'm001-foundation', class: Foundation },
  { name: 'm002-filters', class: Filters },
  { name: 'm003-library', class: LibraryDepth },
  { name: 'm004-air-plan', class: AirPlanTables },
  { name: 'm005-kept-plays', class: PlaysByDate },
  { name: 'm006-indexes', class: Indexes },
  { name: 'm007-rule-shapes', class: RuleShapes },
  { name: 'm008-entry-ids', class: EntryIds },
  { name: 'm009-typed-settings', class: TypedSettings },
  { name: 'm010-dayparts-limits', class: DaypartsLimits },
  { name: 'm011-log-versions', class: LogVersions },
  { name: 'm012-outputs-traffic', class: OutputsTraffic },
  { name: 'm013-on-air', class: OnAir },
  { name: 'm014-rolling', class: Rolling },
  { name: 'm015-teases', class: Teases },
  { name: 'm016-sponsors', class: Sponsors },
  { name: 'm017-set-lists', class: SetLists },
  { name: 'm018-people', class: People },
  { name: 'm019-group', class: Group },
  { name: 'm020-insight', class: Insight },
  { name: 'm021-life', class: Life },
];
const CACHE_KB = 16_000;
/** A long write touches most of the pages of every index; what does not fit is written again and again. */
const LONG_WRITE_CACHE_KB = 64_000;
/** So many copies made before a migration are kept. */
const KEPT_COPIES = 5;

export type Orm = MikroORM;
export type Em = EntityManager;

/** Moves what was written from the write-ahead log into the database, as far as nobody reads it; holds up nobody. */
export async function checkpoint(orm: Orm): Promise<void> {
  await orm.em.getConnection().execute('pragma wal_checkpoint(passive)');
}

/** Opens the database of a data folder, making it or bringing it up to date; a copy is kept before any migration. */
export async function openDatabase(dataDir: string, use: 'own' | 'read' | 'write' = 'own'): Promise<Orm> {
  await mkdir(dataDir, { recursive: true });
  const file = path.join(dataDir, 'fuller.db');
  const orm = await MikroORM.init({
    dbName: file,
    entities: ENTITIES as never,
    extensions: [Migrator],
    migrations: { migrationsList: MIGRATIONS, snapshot: false, silent: true, tableName: 'migration' },
    discovery: { disableDynamicFileAccess: true },
    pool: {
      min: 1,
      // One writes, behind the store's mutex; the others read what was last committed meanwhile.
      max: 3,
      afterCreate: (
        connection: { pragma?: (text: string) => void; exec?: (text: string) => void },
        done: (error?: Error) => void,
      ) => {
        // The patience first: the mode of the journal cannot be read while another connection opens or leaves the file.
        connection.exec?.(
          'pragma busy_timeout = 5000; pragma journal_mode = wal; pragma foreign_keys = on; pragma synchronous = normal; pragma wal_autocheckpoint = 16000;' +
            `pragma cache_size = -${use === 'write' ? LONG_WRITE_CACHE_KB : CACHE_KB};`,
        );
        done();
      },
    },
  });
  if (use !== 'own') return orm;
  await refuseNewer(orm, dataDir);
  const pending = await orm.getMigrator().getPendingMigrations();
  if (pending.length > 0) {
    if ((await orm.getMigrator().getExecutedMigrations()).length > 0)
      await keepCopy(orm, dataDir, elementAt(pending, 0).name);
    await orm.getMigrator().up();
  }
  return orm;
}

/** Names of every migration there is, the oldest first. */
export const MIGRATION_NAMES: readonly string[] = MIGRATIONS.map(({ name }) => name);

/** The first migration of a file that this program does not know: the file was written by a newer one. */
export function unknownMigration(names: readonly string[]): string | null {
  return names.find((name) => !MIGRATION_NAMES.includes(name)) ?? null;
}

async function refuseNewer(orm: Orm, dataDir: string): Promise<void> {
  const executed = await orm.getMigrator().getExecutedMigrations();
  const unknown = unknownMigration(executed.map(({ name }) => name));
  if (unknown === null) return;
  await orm.close(true);
  throw new FullerError(
    'INVALID',
    `${dataDir} was written by a newer Fuller (it has been through “${unknown}”). Update this one, or restore a backup from before; nothing was changed.`,
  );
}

async function keepCopy(orm: Orm, dataDir: string, before: string): Promise<void> {
  const folder = path.join(dataDir, 'backups');
  await mkdir(folder, { recursive: true });
  const copy = path.join(folder, `before-${before}-${Date.now()}.db`);
  await orm.em.getConnection().execute('vacuum into ?', [copy]);
  const old = (await readdir(folder))
    .filter((name) => /^before-m\d/.test(name))
    .sort()
    .slice(0, -KEPT_COPIES);
  await Promise.all(old.map((name) => rm(path.join(folder, name))));
}
