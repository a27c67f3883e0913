import { allEntries, type DailyLog } from '../log/daily-log.js';
import type { AirPlan } from '../week/air-plan.js';

/** Of the set lists that go on, the row a log plays last, by the id of the list. */
export function lastListRows(log: DailyLog): ReadonlyMap<string, string> {
  const last = new Map<string, string>();
  for (const { listPlace } of allEntries(log)) if (listPlace?.goesOn) last.set(listPlace.listId, listPlace.rowId);
  return last;
}

/** A plan whose set lists go on after some rows, by the id of the list; others as they were. */
export function withListPlaces<P extends Pick<AirPlan, 'setLists'>>(plan: P, last: ReadonlyMap<string, string>): P {
  if (!plan.setLists?.length || last.size === 0) return plan;
  return {
    ...plan,
    setLists: plan.setLists.map((list) => ({ ...list, lastRowId: last.get(list.id) ?? list.lastRowId })),
  };
}
