import type { KeptReport, KeptReportPatch, NewKeptReport } from '@fuller/contracts';
import { nameKey } from '@fuller/core';
import type { StationActor } from '../actor.js';
import { nextPosition } from '../db/queries/categories.js';
import { KeptReportEntity } from '../db/entities/index.js';
import { FullerError } from '../errors.js';
import { newId } from '../ids.js';
import type { ChangeSet } from '../store/change-set.js';
import type { Store, Written } from '../store/store.js';

/** Reports kept under a name. */
export class KeptReportService {
  constructor(private readonly store: Store) {}

  async list(stationId: string): Promise<KeptReport[]> {
    const rows = await this.store.read.find(KeptReportEntity, { stationId }, { orderBy: { position: 'asc' } });
    return rows.map(({ id, revision, name, report, asked }) => ({ id, revision, name, report, asked }));
  }

  create({ stationId, clientId }: StationActor, fields: NewKeptReport): Promise<Written<string>> {
    return this.store.write({ clientId, stationId, label: `Keep report ${fields.name}` }, async (changes) => {
      await refuseTaken(changes, stationId, fields.name, null);
      const id = newId();
      const position = await nextPosition(changes.em, 'kept_report');
      const row = { ...fields, id, revision: 1, stationId, nameKey: nameKey(fields.name), position };
      await changes.insert('keptReport', [row]);
      return id;
    });
  }

  update(
    { stationId, clientId }: StationActor,
    id: string,
    { revision, ...patch }: KeptReportPatch,
  ): Promise<Written<string>> {
    return this.store.write({ clientId, stationId, label: 'Change a kept report' }, async (changes) => {
      await changes.mustSee('keptReport', id);
      const { name } = patch;
      if (name !== undefined) await refuseTaken(changes, stationId, name, id);
      const key = name === undefined ? {} : { nameKey: nameKey(name) };
      await changes.update('keptReport', id, { ...patch, ...key }, revision);
      return id;
    });
  }

  remove({ stationId, clientId }: StationActor, id: string): Promise<Written<string>> {
    return this.store.write({ clientId, stationId, label: 'No longer keep a report' }, async (changes) => {
      await changes.mustSee('keptReport', id);
      await changes.remove('keptReport', id);
      return id;
    });
  }
}

async function refuseTaken(changes: ChangeSet, stationId: string, name: string, ownId: string | null): Promise<void> {
  const taken = await changes.em.findOne(KeptReportEntity, { stationId, nameKey: nameKey(name) });
  if (taken && taken.id !== ownId)
    throw new FullerError('NAME_TAKEN', `There is a report named “${name}” already.`, 'name');
}
