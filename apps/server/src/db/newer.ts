import { FullerError } from '../errors.js';
import { MIGRATIONS } from './migrations/index.js';
import type { Orm } from './orm.js';

/** Names of every migration of a database file, the oldest first. */
export const MIGRATION_NAMES: readonly string[] = MIGRATIONS.sqlite.map(({ name }) => name);

/** The first migration of a database that this program does not know: the database was written by a newer one. */
export function unknownMigration(
  names: readonly string[],
  database: keyof typeof MIGRATIONS = 'sqlite',
): string | null {
  const known = new Set(MIGRATIONS[database].map(({ name }) => name));
  return names.find((name) => !known.has(name)) ?? null;
}

export async function refuseNewer(orm: Orm, database: keyof typeof MIGRATIONS, where: string): Promise<void> {
  const executed = await orm.getMigrator().getExecutedMigrations();
  const unknown = unknownMigration(
    executed.map(({ name }) => name),
    database,
  );
  if (unknown === null) return;
  await orm.close(true);
  throw new FullerError(
    'INVALID',
    `${where} was written by a newer Fuller (it has been through “${unknown}”). Update this one, or restore a backup from before; nothing was changed.`,
  );
}
