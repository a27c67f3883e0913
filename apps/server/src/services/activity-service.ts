import type { ActivityRow } from '@fuller/contracts';
import { ActivityEntity } from '../db/entities/index.js';
import type { Store } from './store.js';

/** Who changed what, when. */
export class ActivityService {
  constructor(private readonly store: Store) {}

  async latest(limit: number): Promise<ActivityRow[]> {
    const rows = await this.store.read.find(ActivityEntity, {}, { orderBy: { atMs: 'desc' }, limit });
    return rows.map(({ id, atMs, label, stationId, undoneBy }) => ({
      id,
      atMs,
      label,
      stationId: stationId ?? null,
      undone: undoneBy !== null && undoneBy !== undefined,
    }));
  }
}
