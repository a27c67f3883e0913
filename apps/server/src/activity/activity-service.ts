import type { Actor } from '../actor.js';
import type { ActivityRow } from '@fuller/contracts';
import type { LongWork } from '../writers/long-tasks.js';
import { latestActivities } from '../db/dialect/sqlite/activity.js';
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
    if (await this.store.undoing.isLong(id)) return this.work.run('undo', [id, clientId], UNSTOPPED);
    return this.store.undoing.undo(id, clientId);
  }

  /** The latest changes, of one station and what is shared, or by one client, where asked for. */
  async latest(
    limit: number,
    { stationId, clientId }: { readonly stationId?: string | undefined; readonly clientId?: string | undefined } = {},
  ): Promise<ActivityRow[]> {
    const rows = await latestActivities(this.store.read, limit, { stationId, clientId });
    return rows.map(({ undoes, undoneBy, ...row }) => ({ ...row, undoes: undoes !== null, undone: undoneBy !== null }));
  }
}
