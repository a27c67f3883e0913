import type { ChangeSet } from './change-set.js';

/** The place after the last row of a table. */
export async function nextPosition(
  changes: ChangeSet,
  table: 'category' | 'clock' | 'rule' | 'show' | 'date_plan',
): Promise<number> {
  const [row] = (await changes.em.execute(`select coalesce(max(position), 0) + 1 as next from ${table}`)) as {
    next: number;
  }[];
  return row!.next;
}
