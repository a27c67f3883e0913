import { elementAt } from '../values/look-up.js';
import type { DailyLog } from './daily-log.js';

/** Where an entry stands: in an hour of the log, before another entry of it or, with null, at its end. */
export interface LogPlace {
  readonly hourIndex: number;
  readonly beforeId: string | null;
}

/** Where an entry stands; null when it is not in the log. */
export function placeOf(log: DailyLog, entryId: string): LogPlace | null {
  for (const [hourIndex, { entries }] of log.hours.entries()) {
    const at = entries.findIndex(({ id }) => id === entryId);
    if (at >= 0) return { hourIndex, beforeId: entries[at + 1]?.id ?? null };
  }
  return null;
}

/**
 * Where an entry stands after one step up or down the log, over the border of its hour as well; null at either end of the
 * day, or when it is not in the log.
 */
export function placeBeside(log: DailyLog, entryId: string, step: 1 | -1): LogPlace | null {
  const from = placeOf(log, entryId);
  if (!from) return null;
  const { entries } = elementAt(log.hours, from.hourIndex);
  const at = entries.findIndex(({ id }) => id === entryId);
  const other = entries[at + step];
  if (other) {
    const beforeId = step < 0 ? other.id : (entries[at + 2]?.id ?? null);
    return { hourIndex: from.hourIndex, beforeId };
  }
  const hourIndex = from.hourIndex + step;
  const hour = log.hours[hourIndex];
  return hour ? { hourIndex, beforeId: step < 0 ? null : (hour.entries[0]?.id ?? null) } : null;
}
