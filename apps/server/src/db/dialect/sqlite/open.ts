import { elementAt } from '@fuller/core';
import { mkdir, readdir, rm } from 'node:fs/promises';
import path from 'node:path';
import { MikroORM } from '@mikro-orm/libsql';
import { Migrator } from '@mikro-orm/migrations';
import { MIGRATIONS } from '../../migrations/index.js';
import { refuseNewer } from '../../newer.js';
import { ENTITIES, MIGRATION_OPTIONS, type Orm } from '../../orm.js';

const CACHE_KB = 16_000;
/** A long write touches most of the pages of every index; what does not fit is written again and again. */
const LONG_WRITE_CACHE_KB = 64_000;
/** So many copies made before a migration are kept. */
const KEPT_COPIES = 5;

/** Moves what was written from the write-ahead log into the database, as far as nobody reads it; holds up nobody. */
export async function checkpointFile(orm: Orm): Promise<void> {
  await orm.em.getConnection().execute('pragma wal_checkpoint(passive)');
}

/** Opens the database file of a data folder, making it or bringing it up to date; a copy is kept before any migration. */
export async function openFile(dataDir: string, use: 'own' | 'read' | 'write'): Promise<Orm> {
  await mkdir(dataDir, { recursive: true });
  const orm = (await MikroORM.init({
    dbName: path.join(dataDir, 'fuller.db'),
    entities: ENTITIES as never,
    extensions: [Migrator],
    migrations: { ...MIGRATION_OPTIONS, migrationsList: [...MIGRATIONS.sqlite] },
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
  })) as unknown as Orm;
  if (use !== 'own') return orm;
  await refuseNewer(orm, 'sqlite', dataDir);
  const pending = await orm.getMigrator().getPendingMigrations();
  if (pending.length > 0) {
    if ((await orm.getMigrator().getExecutedMigrations()).length > 0)
      await keepCopy(orm, dataDir, elementAt(pending, 0).name);
    await orm.getMigrator().up();
  }
  return orm;
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
