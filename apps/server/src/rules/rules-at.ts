import { RuleEntity, StationEntity, type RuleRecord } from '../db/entities/index.js';
import type { Em } from '../db/orm.js';
import { visibleTo } from '../db/visible.js';

/** The rules of a station in their order: its own, and the shared ones that do not leave it out. */
export async function rulesAt(em: Em, stationId: string): Promise<RuleRecord[]> {
  const rows = await em.find(RuleEntity, visibleTo(stationId), {
    orderBy: { position: 'asc' },
    disableIdentityMap: true,
  });
  return rows.filter(({ notAt }) => !notAt.includes(stationId));
}

/** The stations that have a rule across stations which applies. */
export async function stationsLookingAcross(em: Em): Promise<string[]> {
  const rules = await em.find(RuleEntity, { shape: 'across', resting: false }, { disableIdentityMap: true });
  if (rules.length === 0) return [];
  const stations = await em.find(StationEntity, {}, { fields: ['id'] });
  return stations
    .map(({ id }) => id)
    .filter((id) => rules.some((one) => (one.scope === 'group' ? !one.notAt.includes(id) : one.stationId === id)));
}
