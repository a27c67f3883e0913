import { NO_ROW, type Documents } from '../../documents.js';
import type { Em } from '../../orm.js';

/** The rows of which a document cannot be read. */
export async function unreadableRows(
  em: Em,
  { table, column, type, values, name }: Documents,
): Promise<{ place: number; name: string | null; stored: string }[]> {
  const wrongValue = values
    ? `when exists (select 1 from json_each(t."${column}") one where one.type <> '${values}') then 1`
    : '';
  return (await em.execute(
    `select rowid as place, ${name} as name, cast("${column}" as text) as stored from "${table}" t
     where case when "${column}" is null then 0 when not json_valid("${column}") then 1
       when json_type("${column}") <> '${type}' then 1 ${wrongValue} else 0 end`,
  )) as { place: number; name: string | null; stored: string }[];
}

/** Puts a plain value in place of a document, or does away with its row. */
export async function putInstead(
  em: Em,
  { table, column, instead }: Documents,
  place: number,
  nowMs: number,
): Promise<void> {
  if (instead !== NO_ROW) {
    await em.execute(`update "${table}" set "${column}" = ? where rowid = ?`, [instead, place]);
    return;
  }
  // A log goes with the plays it planned; those that have aired stay known.
  if (table === 'daily_log')
    await em.execute(
      `update play set log_id = null where start_ms <= ? and log_id = (select id from daily_log where rowid = ?)`,
      [nowMs, place],
    );
  await em.execute(`delete from "${table}" where rowid = ?`, [place]);
}
