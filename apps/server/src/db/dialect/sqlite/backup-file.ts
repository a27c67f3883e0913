import Database from 'libsql';

/** A database file that stands still, without the mapper: to be copied and looked into. */
type Connection = InstanceType<typeof Database>;

/** Writes everything that is committed into a file of its own (SQLite’s `vacuum into`); others read and write meanwhile. */
export function copyInto(from: string, to: string): void {
  const connection = new Database(from);
  try {
    connection.exec('pragma busy_timeout = 30000');
    connection.prepare('vacuum into ?').run(to);
  } finally {
    connection.close();
  }
}

/** Takes what waits in the write-ahead log into the file itself, so that the file stands alone; throws where others use it. */
export function settle(file: string): void {
  const connection = new Database(file);
  try {
    connection.exec('pragma busy_timeout = 10000');
    const [result] = connection.prepare('pragma wal_checkpoint(truncate)').all() as { busy: number }[];
    if (result?.busy) throw new Error(`${file} is in use: database is locked`);
  } finally {
    connection.close();
  }
}

export interface FileFacts {
  /** What SQLite finds wrong with the file; empty where it is sound. */
  readonly faults: readonly string[];
  /** Names of the migrations it has been through; empty where it holds no data of Fuller’s. */
  readonly migrations: readonly string[];
  readonly stations: readonly string[];
  readonly items: number;
  readonly logs: number;
}

/** Looks into a database file and changes nothing in it; what is no database has a fault. */
export function factsOf(file: string): FileFacts {
  const none = { migrations: [], stations: [], items: 0, logs: 0 };
  let connection: Connection | null = null;
  try {
    connection = new Database(file, { readonly: true } as never);
    const all = <T>(sql: string): T[] => connection!.prepare(sql).all() as T[];
    const tables = new Set(
      all<{ name: string }>(`select name from sqlite_master where type = 'table'`).map(({ name }) => name),
    );
    if (!tables.has('migration') || !tables.has('station'))
      return { faults: ['It holds no data of Fuller’s.'], ...none };
    const faults = [
      ...all<{ integrity_check: string }>('pragma integrity_check(20)').map((row) => row.integrity_check),
      ...all<{ table: string }>('pragma foreign_key_check').map(({ table }) => `A row of ${table} belongs to nothing.`),
    ].filter((text) => text !== 'ok');
    const count = (table: string): number =>
      tables.has(table) ? all<{ n: number }>(`select count(*) as n from "${table}"`)[0]!.n : 0;
    return {
      faults: [...new Set(faults)],
      migrations: all<{ name: string }>('select name from migration order by id').map(({ name }) => name),
      stations: all<{ name: string }>('select name from station order by position').map(({ name }) => name),
      items: count('item'),
      logs: count('daily_log'),
    };
  } catch (error) {
    return {
      faults: [`It cannot be read as a database: ${error instanceof Error ? error.message : String(error)}.`],
      ...none,
    };
  } finally {
    connection?.close();
  }
}
