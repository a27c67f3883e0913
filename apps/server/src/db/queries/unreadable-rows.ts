import { dialectOf } from '../dialect/dialect.js';
import { NO_ROW, type Documents } from '../documents.js';
import type { Em } from '../orm.js';
import { rowsOf } from './query.js';

/** The rows of which a document cannot be read. */
export async function unreadableRows(
  em: Em,
  { table, column, type, values, name }: Documents,
): Promise<{ place: string | number; name: string | null; stored: string }[]> {
  const { place, unreadable } = dialectOf(em);
  return rowsOf(
    em,
    `select ${place} as place, ${name} as name, cast("${column}" as text) as stored from "${table}" t
     where ${unreadable(`t."${column}"`, type, values)}`,
  );
}

/** Puts a plain value in place of a document, or does away with its row. */
export async function putInstead(
  em: Em,
  { table, column, instead }: Documents,
  place: string | number,
  nowMs: number,
): Promise<void> {
  const { atPlace } = dialectOf(em);
  if (instead !== NO_ROW) {
    await rowsOf(em, `update "${table}" set "${column}" = ? where ${atPlace}`, [instead, place]);
    return;
  }
  // A log goes with the plays it planned; those that have aired stay known.
  if (table === 'daily_log')
    await rowsOf(
      em,
      `update play set log_id = null where start_ms <= ? and log_id = (select id from daily_log where ${atPlace})`,
      [nowMs, place],
    );
  await rowsOf(em, `delete from "${table}" where ${atPlace}`, [place]);
}
