import type { Em } from '../../orm.js';

/** Runs a statement and answers its rows as plain values. */
export async function rowsOf<T>(em: Em, sql: string, parameters: readonly unknown[] = []): Promise<T[]> {
  return (await em.execute(sql, [...parameters])) as T[];
}

/** The one row of a statement that always answers one, such as a count. */
export async function rowOf<T>(em: Em, sql: string, parameters: readonly unknown[] = []): Promise<T> {
  const [row] = await rowsOf<T>(em, sql, parameters);
  if (row === undefined) throw new Error('a statement that always answers a row answered none');
  return row;
}

/** A list of ids as one parameter; read in SQL by `select value from json_each(?)`. */
export function list(ids: Iterable<string>): string {
  return JSON.stringify([...ids]);
}
