import type { Actor } from '../actor.js';
import type { ActivityRow } from '@fuller/contracts';
import type { LongWork } from '../writers/long-tasks.js';
import type { Store, Written } from '../store/store.js';

/** An undo is not stopped halfway, and has nowhere to tell how far it is. */
const UNSTOPPED = { signal: new AbortController().signal, progress: () => {} };

/** Who changed what, when. */
export class ActivityService {
  constructor(
    private readonly store: Store,
    private readonly work: LongWork,
  ) {}

  /** Undoes an activity; a long one where it holds up nobody. */
  async undo({ clientId }: Actor, id: string): Promise<Written<void>> {
    if (await this.store.isLong(id)) return this.work.run('undo', [id, clientId], UNSTOPPED);
    return this.store.undo(id, clientId);
  }

  /** The latest changes, of one station and what is shared, or by one client, where asked for. */
  async latest(
    limit: number,
    { stationId, clientId }: { readonly stationId?: string | undefined; readonly clientId?: string | undefined } = {},
  ): Promise<ActivityRow[]> {
    const asked = [
      ...(stationId === undefined ? [] : [{ sql: '(station_id = ? or station_id is null)', value: stationId }]),
      ...(clientId === undefined ? [] : [{ sql: 'client_id = ?', value: clientId }]),
    ];
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
       from activity ${asked.length ? `where ${asked.map(({ sql }) => sql).join(' and ')}` : ''}
       order by at_ms desc, rowid desc limit ?`,
      [...asked.map(({ value }) => value), limit],
    );
    return rows.map(({ undoes, undoneBy, ...row }) => ({ ...row, undoes: undoes !== null, undone: undoneBy !== null }));
  }
}
