import type { LogEntry, LogHour } from '../log/daily-log.js';
import { daypartsAt, type Daypart } from '../rules/daypart.js';
import type { RuleLocation } from '../rules/rule.js';

/** Where an entry of a log stands, as far as rules can ask. */
export function entryLocation(
  entry: LogEntry,
  { clockId, showId, localHour }: Pick<LogHour, 'clockId' | 'showId' | 'localHour'>,
  { weekday, dayparts }: { readonly weekday: number; readonly dayparts: readonly Daypart[] },
): RuleLocation {
  return {
    categoryId: entry.kind === 'pick' ? entry.categoryId : null,
    clockId,
    showId: showId ?? null,
    daypartIds: daypartsAt(dayparts, weekday, localHour),
  };
}
