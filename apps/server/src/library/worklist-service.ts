import type { StationActor } from '../actor.js';
import { WorklistEntity } from '../db/entities/index.js';
import { FullerError } from '../errors.js';
import type { Store, Written } from '../store/store.js';

const MOST_ITEMS = 5000;

/** The tray of picked items a station's people keep while they move between screens. */
export class WorklistService {
  constructor(private readonly store: Store) {}

  async items(stationId: string): Promise<string[]> {
    const row = await this.store.read.findOne(WorklistEntity, { id: stationId });
    return row?.itemIds ?? [];
  }

  change(
    { stationId, clientId }: StationActor,
    add: readonly string[],
    remove: readonly string[],
  ): Promise<Written<void>> {
    const label = add.length > 0 ? 'Add to the worklist' : 'Take off the worklist';
    return this.store.write({ clientId, stationId, label }, async (changes) => {
      const row = await changes.find('worklist', stationId);
      const gone = new Set(remove);
      const before = (row?.['itemIds'] as string[] | undefined) ?? [];
      const itemIds = [...new Set([...before, ...add])].filter((one) => !gone.has(one));
      if (itemIds.length > MOST_ITEMS)
        throw new FullerError('INVALID', 'The worklist holds 5,000 items at most.', 'add');
      if (row) await changes.update('worklist', stationId, { itemIds });
      else await changes.insert('worklist', [{ id: stationId, itemIds }]);
    });
  }
}
