import { allEntries, type DailyLog, type LogEntry } from '../log/daily-log.js';

/**
 * A day laid out from its clocks, without what a person removed from the log before, and with what they put into it or
 * moved in it at its place there: behind the nearest entry before it that the new day has in that hour, or at the head
 * of the hour.
 */
export function withPlacedByHand(day: DailyLog, previous: DailyLog): DailyLog {
  const placed = allEntries(previous).filter((entry) => entry.placed === 'hand');
  const removed = new Set(previous.hours.flatMap((hour) => hour.removed ?? []));
  if (placed.length === 0 && removed.size === 0) return day;
  const ids = new Set(placed.map(({ id }) => id));
  const laidOut = new Map(allEntries(day).map((entry) => [entry.id, entry]));
  // What the clocks lay out elsewhere goes to where it was moved; what they no longer have comes as it was.
  const asNow = (was: LogEntry): LogEntry => {
    const now = laidOut.get(was.id);
    return now ? { ...now, placed: 'hand' } : was;
  };
  const before = new Map(previous.hours.map((hour) => [hour.index, hour]));
  const hours = day.hours.map((hour) => {
    const then = before.get(hour.index);
    let entries = hour.entries.filter(({ id }) => !ids.has(id) && !removed.has(id));
    for (const [n, was] of (then?.entries ?? []).entries()) {
      if (!ids.has(was.id)) continue;
      const ahead = new Set(then!.entries.slice(0, n).map(({ id }) => id));
      entries = entries.toSpliced(entries.findLastIndex(({ id }) => ahead.has(id)) + 1, 0, asNow(was));
    }
    return { ...hour, entries, ...(then?.removed ? { removed: then.removed } : {}) };
  });
  return { ...day, hours };
}
