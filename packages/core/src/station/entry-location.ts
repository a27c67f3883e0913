import type { LogEntry, LogHour } from '../log/daily-log.js';
import type { RuleLocation } from '../rules/rule.js';

/** Where an entry of a log stands, as far as rules can ask. */
export function entryLocation(entry: LogEntry, { clockId, showId }: Pick<LogHour, 'clockId' | 'showId'>): RuleLocation {
  return { categoryId: entry.kind === 'pick' ? entry.categoryId : null, clockId, showId: showId ?? null };
}
