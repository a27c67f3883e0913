import {
  ClockEntity,
  DatePlanEntity,
  RollingSettingsEntity,
  StationEntity,
  WeekPlanEntity,
} from '../db/entities/index.js';
import type { Em } from '../db/orm.js';

/** What plays a set list, in words: clocks, weeks, dates, live queues. */
export async function usesOfList(em: Em, listId: string): Promise<string[]> {
  const fresh = { disableIdentityMap: true };
  const clocks = await em.find(ClockEntity, {}, fresh);
  const stations = new Map((await em.find(StationEntity, {}, fresh)).map(({ id, name }) => [id, name]));
  const paints = (blocks: readonly { readonly runs: string; readonly id: string }[]): boolean =>
    blocks.some(({ runs, id }) => runs === 'set list' && id === listId);
  return [
    ...clocks
      .filter(({ lines }) => lines.some((line) => line.kind === 'set list' && line.setListId === listId))
      .map(({ name }) => `the clock ${name}`),
    ...(await em.find(WeekPlanEntity, {}, fresh))
      .filter(({ blocks }) => paints(blocks))
      .map(({ id }) => `the week of ${stations.get(id) ?? 'a station'}`),
    ...(await em.find(DatePlanEntity, {}, fresh)).filter(({ blocks }) => paints(blocks)).map(({ name }) => name),
    ...(await em.find(RollingSettingsEntity, { setListId: listId }, fresh))
      .filter(({ mode }) => mode === 'set list')
      .map(({ id }) => `the live queue of ${stations.get(id) ?? 'a station'}`),
  ];
}
