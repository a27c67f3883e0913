import type { DaypartRow } from '@fuller/contracts';
import { nameKey } from '@fuller/core';
import type { StationActor } from '../actor.js';
import { nextPosition } from '../db/queries/categories.js';
import { DaypartEntity, SponsorEntity } from '../db/entities/index.js';
import type { Em } from '../db/orm.js';
import { FullerError } from '../errors.js';
import { newId } from '../ids.js';
import type { ChangeSet } from '../store/change-set.js';
import type { Store, Written } from '../store/store.js';
import { dropPlaceFromRules } from './rule-places.js';

type Fields = Pick<DaypartRow, 'name' | 'hours'>;

/** The dayparts of a station. */
export class DaypartService {
  constructor(private readonly store: Store) {}

  async rows(stationId: string, em: Em = this.store.read): Promise<DaypartRow[]> {
    const rows = await em.find(DaypartEntity, { stationId }, { orderBy: { position: 'asc' } });
    return rows.map(({ id, name, hours, revision }) => ({ id, name, hours, revision }));
  }

  create({ stationId, clientId }: StationActor, fields: Fields): Promise<Written<string>> {
    refuseNoHours(fields.hours);
    return this.store.write({ clientId, stationId, label: `New daypart ${fields.name}` }, async (changes) => {
      await refuseTaken(changes, stationId, fields.name, null);
      const id = newId();
      const position = await nextPosition(changes.em, 'daypart');
      await changes.insert('daypart', [
        { ...fields, id, revision: 1, stationId, nameKey: nameKey(fields.name), position },
      ]);
      return id;
    });
  }

  update(
    { stationId, clientId }: StationActor,
    id: string,
    revision: number,
    patch: { readonly [K in keyof Fields]?: Fields[K] | undefined },
  ): Promise<Written<string>> {
    if (patch.hours !== undefined) refuseNoHours(patch.hours);
    return this.store.write({ clientId, stationId, label: 'Change a daypart' }, async (changes) => {
      await changes.mustSee('daypart', id);
      if (patch.name !== undefined) await refuseTaken(changes, stationId, patch.name, id);
      const key = patch.name === undefined ? {} : { nameKey: nameKey(patch.name) };
      await changes.update('daypart', id, { ...patch, ...key }, revision);
      return id;
    });
  }

  remove({ stationId, clientId }: StationActor, id: string): Promise<Written<string>> {
    return this.store.write({ clientId, stationId, label: 'Delete a daypart' }, async (changes) => {
      await changes.mustSee('daypart', id);
      await refusePromised(changes, stationId, id);
      await dropPlaceFromRules(changes, { kind: 'daypart', id });
      await changes.remove('daypart', id);
      return id;
    });
  }
}

/** Throws IN_USE where a promise to a sponsor is for the daypart. */
async function refusePromised(changes: ChangeSet, stationId: string, id: string): Promise<void> {
  const sponsors = await changes.em.find(SponsorEntity, { stationId }, { disableIdentityMap: true });
  const used = sponsors.find(({ promises }) => promises.some(({ daypartId }) => daypartId === id));
  if (used)
    throw new FullerError('IN_USE', `Messages in this daypart are promised to ${used.name}; change that there first.`);
}

function refuseNoHours(hours: string): void {
  if (!hours.includes('1')) throw new FullerError('INVALID', 'Choose at least one hour of the week.', 'hours');
}

async function refuseTaken(changes: ChangeSet, stationId: string, name: string, ownId: string | null): Promise<void> {
  const rows = await changes.em.find(DaypartEntity, { stationId }, { disableIdentityMap: true });
  if (rows.some((row) => row.id !== ownId && row.nameKey === nameKey(name)))
    throw new FullerError('NAME_TAKEN', `There is a daypart named “${name}” already.`, 'name');
}
