import type { NewSponsor, SponsorPatch, SponsorSettings } from '@fuller/contracts';
import { nameKey, type SponsorPolicy } from '@fuller/core';
import type { StationActor } from '../actor.js';
import { nextPosition } from '../db/queries/categories.js';
import { DaypartEntity, SponsorEntity, SponsorSettingsEntity, type SponsorRecord } from '../db/entities/index.js';
import type { Em } from '../db/orm.js';
import { FullerError } from '../errors.js';
import { newId } from '../ids.js';
import { staleRevision, type ChangeSet } from '../store/change-set.js';
import type { Store, Written } from '../store/store.js';

const MINUTE_MS = 60_000;
const USUAL: SponsorSettings = { revision: 0, rivalsApartMinutes: 15, mostPerHour: null };

/** The sponsors of a station and what was agreed with them. */
export class SponsorService {
  constructor(private readonly store: Store) {}

  rows(stationId: string, em: Em = this.store.read): Promise<SponsorRecord[]> {
    return em.find(SponsorEntity, { stationId }, { orderBy: { position: 'asc' } });
  }

  async settings(stationId: string, em: Em = this.store.read): Promise<SponsorSettings> {
    const row = await em.findOne(SponsorSettingsEntity, { id: stationId });
    if (!row) return USUAL;
    const { revision, rivalsApartMinutes, mostPerHour } = row;
    return { revision, rivalsApartMinutes, mostPerHour: mostPerHour ?? null };
  }

  /** What generation holds messages to. */
  async policy(stationId: string, em: Em = this.store.read): Promise<SponsorPolicy> {
    const { rivalsApartMinutes, mostPerHour } = await this.settings(stationId, em);
    const sponsors = (await this.rows(stationId, em)).map(({ id, name, product, startDate, endDate, promises }) => ({
      id,
      name,
      product,
      startDate: startDate ?? null,
      endDate: endDate ?? null,
      promises,
    }));
    return { sponsors, rivalsApartMs: rivalsApartMinutes * MINUTE_MS, mostPerHour };
  }

  create({ stationId, clientId }: StationActor, fields: NewSponsor): Promise<Written<string>> {
    return this.store.write({ clientId, stationId, label: `New sponsor ${fields.name}` }, async (changes) => {
      await this.check(changes, stationId, fields, null);
      const id = newId();
      const position = await nextPosition(changes.em, 'sponsor');
      await changes.insert('sponsor', [
        { ...fields, id, revision: 1, stationId, nameKey: nameKey(fields.name), position },
      ]);
      return id;
    });
  }

  update(
    { stationId, clientId }: StationActor,
    id: string,
    { revision, ...patch }: SponsorPatch,
  ): Promise<Written<string>> {
    return this.store.write({ clientId, stationId, label: 'Change a sponsor' }, async (changes) => {
      const before = await changes.mustSee('sponsor', id);
      await this.check(changes, stationId, { ...(before as unknown as SponsorRecord), ...defined(patch) }, id);
      const key = patch.name === undefined ? {} : { nameKey: nameKey(patch.name) };
      await changes.update('sponsor', id, { ...patch, ...key }, revision);
      return id;
    });
  }

  remove({ stationId, clientId }: StationActor, id: string): Promise<Written<string>> {
    return this.store.write({ clientId, stationId, label: 'Delete a sponsor' }, async (changes) => {
      await changes.mustSee('sponsor', id);
      await changes.remove('sponsor', id);
      return id;
    });
  }

  set({ stationId, clientId }: StationActor, { revision, ...fields }: SponsorSettings): Promise<Written<void>> {
    return this.store.write({ clientId, stationId, label: 'Change how sponsors are kept apart' }, async (changes) => {
      const before = await this.settings(stationId, changes.em);
      if (before.revision !== revision) throw staleRevision('setting');
      if (revision === 0) await changes.insert('sponsorSettings', [{ ...fields, id: stationId, revision: 1 }]);
      else await changes.update('sponsorSettings', stationId, fields, revision);
    });
  }

  /** Names are unique whatever the case, dates in order, dayparts there. */
  private async check(
    changes: ChangeSet,
    stationId: string,
    { name, startDate, endDate, promises }: Pick<SponsorRecord, 'name' | 'startDate' | 'endDate' | 'promises'>,
    ownId: string | null,
  ): Promise<void> {
    const others = await changes.em.find(SponsorEntity, { stationId }, { disableIdentityMap: true });
    if (others.some((one) => one.id !== ownId && one.nameKey === nameKey(name)))
      throw new FullerError('NAME_TAKEN', `There is a sponsor named “${name}” already.`, 'name');
    if (startDate && endDate && endDate < startDate)
      throw new FullerError('INVALID', `${endDate} is before ${startDate}.`, 'endDate');
    for (const [index, { daypartId }] of promises.entries()) {
      if (daypartId !== null && !(await changes.em.findOne(DaypartEntity, { id: daypartId, stationId })))
        throw new FullerError('INVALID', 'The daypart of a promise is not there.', `promises.${index}.daypartId`);
    }
  }
}

function defined<T extends object>(patch: T): Partial<T> {
  return Object.fromEntries(Object.entries(patch).filter(([, value]) => value !== undefined)) as Partial<T>;
}
