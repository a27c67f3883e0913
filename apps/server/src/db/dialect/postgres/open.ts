import { Migrator } from '@mikro-orm/migrations';
import { MikroORM } from '@mikro-orm/postgresql';
import pg from 'pg';
import { FullerError } from '../../../errors.js';
import { MIGRATIONS } from '../../migrations/index.js';
import { refuseNewer } from '../../newer.js';
import { LOCKS } from './turn.js';
import { ENTITIES, MIGRATION_OPTIONS, type Orm } from '../../orm.js';

// Counts, sums and milliseconds are numbers here; the driver tells whatever may be longer than JavaScript's as text.
const INT8 = 20;
const NUMERIC = 1700;
pg.types.setTypeParser(INT8, Number);
pg.types.setTypeParser(NUMERIC, Number);

const MOST_CONNECTIONS = { own: 8, read: 4, write: 3 } as const;
const NO_SUCH_DATABASE = '3D000';
const NO_SUCH_TABLE = '42P01';
const THERE_ALREADY = /already exists|duplicate key/;

/** Opens a database of PostgreSQL, making it or bringing it up to date. */
export async function openServerDatabase(url: string, use: 'own' | 'read' | 'write'): Promise<Orm> {
  if (use === 'own') await make(url);
  const orm = (await MikroORM.init({
    clientUrl: url,
    entities: ENTITIES as never,
    extensions: [Migrator],
    migrations: { ...MIGRATION_OPTIONS, migrationsList: [...MIGRATIONS.postgres] },
    discovery: { disableDynamicFileAccess: true },
    pool: { min: 0, max: MOST_CONNECTIONS[use] },
  })) as unknown as Orm;
  if (use !== 'own') return orm;
  const turn = new pg.Client({ connectionString: url });
  await turn.connect();
  try {
    // Of several servers that start at once, one makes the tables.
    await turn.query('select pg_advisory_lock($1)', [LOCKS.migrating]);
    await refuseNewer(orm, 'postgres', nameOf(url));
    await orm.getMigrator().up();
  } catch (error) {
    await orm.close(true);
    throw error;
  } finally {
    await turn.end();
  }
  return orm;
}

/** Makes the database where there is none and its user may; throws STORAGE where it cannot be reached. */
async function make(url: string): Promise<void> {
  const client = new pg.Client({ connectionString: url });
  try {
    await client.connect();
    await client.end();
  } catch (error) {
    if ((error as { code?: string }).code !== NO_SUCH_DATABASE) throw unreachable(url, error);
    const beside = new URL(url);
    beside.pathname = '/postgres';
    const maker = new pg.Client({ connectionString: beside.href });
    try {
      await maker.connect();
      await maker.query(`create database "${nameOf(url).replaceAll('"', '""')}" template template0 encoding 'UTF8'`);
    } catch (failure) {
      if (!THERE_ALREADY.test(String(failure))) throw unreachable(url, failure);
    } finally {
      await maker.end().catch(() => {});
    }
  }
}

/** Whether a database of PostgreSQL holds stations; false where there is none yet. */
export async function holdsStations(url: string): Promise<boolean> {
  const client = new pg.Client({ connectionString: url });
  try {
    await client.connect();
    const { rows } = await client.query<{ some: boolean }>('select exists (select 1 from station) as some');
    return rows[0]?.some ?? false;
  } catch (error) {
    if ([NO_SUCH_DATABASE, NO_SUCH_TABLE].includes((error as { code?: string }).code ?? '')) return false;
    throw unreachable(url, error);
  } finally {
    await client.end().catch(() => {});
  }
}

export function nameOf(url: string): string {
  return decodeURIComponent(new URL(url).pathname.slice(1));
}

/** The error names the database and its server, never a password. */
function unreachable(url: string, error: unknown): FullerError {
  const { host, username } = new URL(url);
  const why = error instanceof AggregateError ? error.errors.map(String).join('; ') : String((error as Error).message);
  return new FullerError(
    'STORAGE',
    `The database ${nameOf(url)} on ${host || 'this computer'} cannot be opened as ${username || 'this user'}: ${why}`,
  );
}
