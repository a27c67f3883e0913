import type { ActivityRow } from '@fuller/contracts';
import type { Store } from './store.js';

/** Who changed what, when. */
export class ActivityService {
  constructor(private readonly store: Store) {}

  /** The latest changes, of one station and what is shared, or by one client, where asked for. */
  async latest(
    limit: number,
    { stationId, clientId }: { readonly stationId?: string | undefined; readonly clientId?: string | undefined } = {},
  ): Promise<ActivityRow[]> {
    // Of one instant, the later written is the later.
    const rows = await this.store.rows<{
      id: string;
      atMs: number;
      label: string;
      stationId: string | null;
      clientId: string;
      undoes: string | null;
      undoneBy: string | null;
    }>(
      `select id, at_ms as atMs, label, station_id as stationId, client_id as clientId, undoes, undone_by as undoneBy
       from activity where (? is null or station_id = ? or station_id is null) and (? is null or client_id = ?)
       order by at_ms desc, rowid desc limit ?`,
      [stationId ?? null, stationId ?? null, clientId ?? null, clientId ?? null, limit],
    );
    return rows.map(({ undoes, undoneBy, ...row }) => ({ ...row, undoes: undoes !== null, undone: undoneBy !== null }));
  }
}
