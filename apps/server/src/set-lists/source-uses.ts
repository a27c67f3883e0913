import { DatePlanEntity, SetListEntity, StationEntity, WeekPlanEntity } from '../db/entities/index.js';
import type { Em } from '../db/orm.js';
import { FullerError } from '../errors.js';
import { listNames } from '../store/list-names.js';

/** Throws IN_USE while a set list draws from a category or pool, or a week plays it without a clock. */
export async function refuseDrawn(em: Em, sourceId: string, name: string): Promise<void> {
  const fresh = { disableIdentityMap: true };
  const paints = (blocks: readonly { readonly runs: string; readonly id: string }[]): boolean =>
    blocks.some(({ runs, id }) => runs === 'draw' && id === sourceId);
  const lists = (await em.find(SetListEntity, {}, fresh)).filter(({ rows }) =>
    rows.some((row) => 'categoryId' in row && row.categoryId === sourceId),
  );
  const weeks = (await em.find(WeekPlanEntity, {}, fresh)).filter(({ blocks }) => paints(blocks));
  const dates = (await em.find(DatePlanEntity, {}, fresh)).filter(({ blocks }) => paints(blocks));
  const stations = await em.find(StationEntity, { id: { $in: weeks.map(({ id }) => id) } }, fresh);
  const uses = [
    ...lists.map((list) => `the set list ${list.name}`),
    ...stations.map((station) => `the week of ${station.name}`),
    ...dates.map((date) => date.name),
  ];
  if (uses.length > 0)
    throw new FullerError('IN_USE', `${name} is played by ${listNames(uses)}; take it out there first.`);
}
