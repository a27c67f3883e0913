import { dialectOf } from '../dialect/dialect.js';
import type { Em } from '../orm.js';

/**
 * Runs a statement and answers its rows as plain values. Its parameters are bound: written into the statement, as the entity
 * manager does it, a list of 100,000 ids takes a hundred times as long to read.
 */
export async function rowsOf<T>(em: Em, sql: string, parameters: readonly unknown[] = []): Promise<T[]> {
  const query = em.getKnex().raw(sql, parameters as never);
  const transaction = em.getTransactionContext();
  try {
    const answer: unknown = await (transaction ? query.transacting(transaction as never) : query);
    return (Array.isArray(answer) ? answer : (answer as { rows: T[] }).rows) as T[];
  } catch (error) {
    throw em.getDriver().convertException(error as Error);
  }
}

/** The one row of a statement that always answers one, such as a count. */
export async function rowOf<T>(em: Em, sql: string, parameters: readonly unknown[] = []): Promise<T> {
  const [row] = await rowsOf<T>(em, sql, parameters);
  if (row === undefined) throw new Error('a statement that always answers a row answered none');
  return row;
}

/** A list of texts as one parameter; read in SQL by `listed`. */
export function list(ids: Iterable<string>): string {
  return JSON.stringify([...ids]);
}

/** A query of the texts of a `list`. */
export function listed(em: Em): string {
  return dialectOf(em).listed;
}
