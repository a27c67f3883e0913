import type { LimitSettings } from '@fuller/contracts';
import type { StationActor } from '../actor.js';
import { LimitPackEntity } from '../db/entities/index.js';
import type { Em } from '../db/orm.js';
import { staleRevision } from '../store/change-set.js';
import type { Store, Written } from '../store/store.js';

const NEVER_SET: LimitSettings = { applies: false, strict: false, exemptAlbums: [], revision: 0 };

/** Whether the statutory limits apply on a station, and how. */
export class LimitSettingsService {
  constructor(private readonly store: Store) {}

  async of(stationId: string, em: Em = this.store.read): Promise<LimitSettings> {
    const row = await em.findOne(LimitPackEntity, { id: stationId });
    if (!row) return NEVER_SET;
    const { applies, strict, exemptAlbums, revision } = row;
    return { applies: Boolean(applies), strict: Boolean(strict), exemptAlbums, revision };
  }

  set({ stationId, clientId }: StationActor, settings: LimitSettings): Promise<Written<void>> {
    const { revision, ...fields } = settings;
    const label = fields.applies ? 'Apply the statutory limits' : 'Stop applying the statutory limits';
    return this.store.write({ clientId, stationId, label }, async (changes) => {
      const before = await this.of(stationId, changes.em);
      if (before.revision !== revision) throw staleRevision('limitPack');
      if (revision === 0) await changes.insert('limitPack', [{ ...fields, id: stationId, revision: 1 }]);
      else await changes.update('limitPack', stationId, fields, revision);
    });
  }
}
