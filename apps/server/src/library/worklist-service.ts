import type { StationActor } from '../actor.js';
import { SettingEntity } from '../db/entities/index.js';
import { worklistKey } from '../db/dialect/sqlite/item-list.js';
import { FullerError } from '../errors.js';
import type { Store, Written } from '../store/store.js';

const MOST_ITEMS = 5000;

/** The tray of picked items a station's people keep while they move between screens. */
export class WorklistService {
  constructor(private readonly store: Store) {}

  async items(stationId: string): Promise<string[]> {
    const row = await this.store.read.findOne(SettingEntity, { id: worklistKey(stationId) });
    return (row?.value as string[] | undefined) ?? [];
  }

  change(
    { stationId, clientId }: StationActor,
    add: readonly string[],
    remove: readonly string[],
  ): Promise<Written<void>> {
    const label = add.length > 0 ? 'Add to the worklist' : 'Take off the worklist';
    return this.store.write({ clientId, stationId, label }, async (changes) => {
      const id = worklistKey(stationId);
      const row = await changes.find('setting', id);
      const gone = new Set(remove);
      const before = (row?.['value'] as string[] | undefined) ?? [];
      const value = [...new Set([...before, ...add])].filter((one) => !gone.has(one));
      if (value.length > MOST_ITEMS) throw new FullerError('INVALID', 'The worklist holds 5,000 items at most.', 'add');
      if (row) await changes.update('setting', id, { value });
      else await changes.insert('setting', [{ id, value }]);
    });
  }
}
