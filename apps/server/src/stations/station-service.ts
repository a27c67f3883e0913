import type { NewStation, StationPatch } from '@fuller/contracts';
import { EMPTY_WEEK, nameKey, NO_FRAMING } from '@fuller/core';
import type { Actor } from '../actor.js';
import { DailyLogEntity, StationEntity, StationGroupEntity } from '../db/entities/index.js';
import { FullerError, notFound } from '../errors.js';
import { newId } from '../ids.js';
import type { ChangeSet } from '../store/change-set.js';
import type { Store, Written } from '../store/store.js';
import { copyStation } from './copy-station.js';

const FRESH = { disableIdentityMap: true } as const;

/** The stations of the group: made, changed, archived. */
export class StationService {
  constructor(private readonly store: Store) {
    store.undoing.onRevert('station', async (changes, change) => {
      if (change.before === null && (await changes.em.count(DailyLogEntity, { stationId: change.thingId })) > 0)
        throw new FullerError('CANNOT_UNDO', 'The station has logs by now. Archive it instead.');
      await changes.revert('station', [change]);
      await mustHaveOne(changes);
    });
  }

  create({ clientId }: Actor, { copyOf, ...fields }: NewStation): Promise<Written<string>> {
    return this.store.write({ clientId, stationId: null, label: `New station ${fields.name}` }, async (changes) => {
      await refuseTaken(changes, fields.name, null);
      const id = newId();
      const stations = await changes.em.find(StationEntity, {}, FRESH);
      const [group] = await changes.em.find(StationGroupEntity, {}, FRESH);
      const position = Math.max(0, ...stations.map((one) => one.position)) + 1;
      await changes.insert('station', [
        { ...fields, id, groupId: group?.id ?? '', revision: 1, archived: false, position },
      ]);
      await changes.insert('week', [{ id, revision: 1, ...EMPTY_WEEK, blocks: [], framing: NO_FRAMING }]);
      if (copyOf) {
        if (!stations.some((one) => one.id === copyOf.stationId)) throw notFound('station', copyOf.stationId);
        await copyStation(changes, copyOf.stationId, id, copyOf.parts);
      }
      return id;
    });
  }

  async update({ clientId }: Actor, id: string, { revision, ...patch }: StationPatch): Promise<Written<void>> {
    const verb = patch.archived === undefined ? 'Change' : patch.archived ? 'Archive' : 'Bring back';
    const before = await this.store.read.findOne(StationEntity, { id });
    if (!before) throw notFound('station', id);
    const label = `${verb} the station ${before.name}`;
    return this.store.write({ clientId, stationId: null, label }, async (changes) => {
      if (patch.name !== undefined) await refuseTaken(changes, patch.name, id);
      await changes.update('station', id, patch, revision);
      await mustHaveOne(changes);
    });
  }
}

async function refuseTaken(changes: ChangeSet, name: string, ownId: string | null): Promise<void> {
  const stations = await changes.em.find(StationEntity, {}, FRESH);
  if (stations.some((one) => one.id !== ownId && nameKey(one.name) === nameKey(name)))
    throw new FullerError('NAME_TAKEN', `There is a station named “${name}” already.`, 'name');
}

async function mustHaveOne(changes: ChangeSet): Promise<void> {
  if ((await changes.em.count(StationEntity, { archived: false })) === 0)
    throw new FullerError('IN_USE', 'This is the last station that is not archived.', 'archived');
}
