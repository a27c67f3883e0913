import type { SetListItemInfo } from '@fuller/contracts';
import type { Em } from '../orm.js';
import { list, listed, rowsOf } from './query.js';

/** What set lists show of items. */
export async function setListItems(em: Em, ids: Iterable<string>): Promise<SetListItemInfo[]> {
  const rows = await rowsOf<Omit<SetListItemInfo, 'hasFile'> & { hasFile: number | boolean }>(
    em,
    `select id, title, artist, kind, duration_ms - coalesce(segue_ms, 0) as "durationMs", file is not null as "hasFile"
     from item where id in (${listed(em)})`,
    [list(ids)],
  );
  return rows.map((row) => ({ ...row, hasFile: Boolean(row.hasFile) }));
}
