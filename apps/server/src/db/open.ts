import { existsSync } from 'node:fs';
import path from 'node:path';
import { FullerError } from '../errors.js';
import { isPostgres } from './dialect/dialect.js';
import { holdsStations, openServerDatabase } from './dialect/postgres/open.js';
import { checkpointFile, openFile } from './dialect/sqlite/open.js';
import type { Orm } from './orm.js';

/** Opens the database of a data folder: the file in it, or the database of PostgreSQL at an address. */
export function openDatabase(
  dataDir: string,
  use: 'own' | 'read' | 'write' = 'own',
  database: string | null = databaseOf(dataDir),
): Promise<Orm> {
  return database ? openServerDatabase(database, use) : openFile(dataDir, use);
}

/**
 * The address of a database of PostgreSQL, as given or as FULLER_DATABASE has it; null for the file in the data folder. In it
 * `{folder}` stands for the name of the data folder, so that one setting serves several.
 */
export function databaseOf(dataDir: string, given = process.env['FULLER_DATABASE'] ?? ''): string | null {
  if (given === '') return null;
  if (!/^postgres(ql)?:\/\/[^/]*\/[^/]/.test(given))
    throw new FullerError(
      'INVALID',
      'Write the database as postgres://user@host/name. Without one the data stands in a file of the data folder.',
    );
  return given.replaceAll('{folder}', path.basename(path.resolve(dataDir)).toLowerCase().replace(/\W+/g, '_'));
}

/** Whether a data folder has data: its file, or stations in the database it goes with. */
export async function hasData(dataDir: string, database: string | null = databaseOf(dataDir)): Promise<boolean> {
  return database ? holdsStations(database) : existsSync(path.join(dataDir, 'fuller.db'));
}

/** Moves what waits in a log into the database, where it is a file. */
export async function checkpoint(orm: Orm): Promise<void> {
  if (!isPostgres(orm.em)) await checkpointFile(orm);
}
