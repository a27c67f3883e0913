import { rowsOf } from '../../queries/query.js';
import type { Em } from '../../orm.js';

/** Classes of advisory locks, apart from those of other programs in the same database. */
export const LOCKS = {
  migrating: 46_000_001,
  group: 46_000_002,
  station: 46_000_003,
  duty: 46_000_004,
  work: 46_000_005,
} as const;

/** Whose turn a write needs: that of a station, of the whole group, or none where its rows alone are enough. */
export type Turn = { readonly stationId: string } | 'group' | 'rows';

/**
 * A transaction that has its turn first. Writes of a station follow one another; those of the whole group wait for everybody and
 * hold up everybody; stations do not wait for each other. Rows that several stations share are held by who reads them to write.
 */
export function transactionInTurn<T>(em: Em, turn: Turn, work: (em: Em) => Promise<T>): Promise<T> {
  return em.transactional(async (inner) => {
    if (turn === 'group') await rowsOf(inner, 'select pg_advisory_xact_lock(?)', [LOCKS.group]);
    else if (turn !== 'rows')
      await rowsOf(inner, 'select pg_advisory_xact_lock_shared(?), pg_advisory_xact_lock(?, hashtext(?))', [
        LOCKS.group,
        LOCKS.station,
        turn.stationId,
      ]);
    return work(inner);
  });
}
