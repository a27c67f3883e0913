import type { RollingSettings, RollingSettingsForm } from '@fuller/contracts';
import type { RollingDepth } from '@fuller/core';
import type { StationActor } from '../actor.js';
import { ClockEntity, RollingSettingsEntity, SetListEntity } from '../db/entities/index.js';
import type { Em } from '../db/orm.js';
import { visibleTo } from '../db/visible.js';
import { FullerError } from '../errors.js';
import { staleRevision } from '../store/change-set.js';
import { ofActiveStations } from '../stations/active-stations.js';
import type { Store, Written } from '../store/store.js';

const NEVER_SET: RollingSettings = {
  revision: 0,
  mode: 'off',
  loopClockId: null,
  setListId: null,
  depthUnit: 'minutes',
  depth: 30,
  perListener: 2,
  perHour: 6,
  requestsUrl: null,
};

/** Whether stations run from a live queue, and how they take requests. */
export class RollingSettingsService {
  constructor(private readonly store: Store) {}

  async of(stationId: string, em: Em = this.store.read): Promise<RollingSettings> {
    const row = await em.findOne(RollingSettingsEntity, { id: stationId });
    if (!row) return NEVER_SET;
    const { id: _id, ...settings } = { ...row };
    return {
      ...settings,
      loopClockId: row.loopClockId ?? null,
      setListId: row.setListId ?? null,
      requestsUrl: row.requestsUrl ?? null,
    };
  }

  /** Stations that have a request line, with its address. */
  async withRequestLine(): Promise<{ readonly stationId: string; readonly url: string }[]> {
    const rows = await this.store.read.find(RollingSettingsEntity, { requestsUrl: { $ne: null } });
    const active = await ofActiveStations(this.store.read, rows, ({ id }) => id);
    return active.map(({ id, requestsUrl }) => ({ stationId: id, url: requestsUrl! }));
  }

  async set(
    { stationId, clientId }: StationActor,
    { revision, ...fields }: RollingSettingsForm,
  ): Promise<Written<void>> {
    if (fields.mode === 'set list') await this.refuseNoList(stationId, fields.setListId);
    if (fields.mode === 'loop') await this.refuseNoLoop(stationId, fields.loopClockId);
    return this.store.write({ clientId, stationId, label: 'Change the live queue' }, async (changes) => {
      const before = await this.of(stationId, changes.em);
      if (before.revision !== revision) throw staleRevision('setting');
      if (revision === 0) await changes.insert('rollingSettings', [{ ...fields, id: stationId, revision: 1 }]);
      else await changes.update('rollingSettings', stationId, fields, revision);
    });
  }

  private async refuseNoList(stationId: string, listId: string | null): Promise<void> {
    const known =
      listId !== null && (await this.store.read.count(SetListEntity, { ...visibleTo(stationId), id: listId }));
    if (!known) throw new FullerError('INVALID', 'Choose the set list that feeds the queue.', 'setListId');
  }

  private async refuseNoLoop(stationId: string, clockId: string | null): Promise<void> {
    const known =
      clockId !== null && (await this.store.read.count(ClockEntity, { ...visibleTo(stationId), id: clockId }));
    if (!known) throw new FullerError('INVALID', 'Choose the clock whose lines are the loop.', 'loopClockId');
  }
}

export function depthOf({ depthUnit, depth }: Pick<RollingSettings, 'depthUnit' | 'depth'>): RollingDepth {
  return depthUnit === 'items' ? { items: depth } : { minutes: depth };
}
