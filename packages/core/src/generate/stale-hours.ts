import { elementAt } from '../values/look-up.js';
import type { DailyLog, LogEntry, LogHour } from '../log/daily-log.js';
import { emptyDay, type DayGround } from './starting-log.js';
import { MORE_FILL } from './planned-entries.js';

/**
 * The hours of a log, by their place in it, that clocks, shows and dates would make otherwise now. What has begun to
 * air stays as it is, so of an hour on the air only the rest is looked at.
 */
export function staleHours(ground: DayGround, log: DailyLog, aired: ReadonlySet<string> = new Set()): number[] {
  const now = emptyDay(ground, { date: log.date, previous: log });
  return now.hours.flatMap((hour, index) => (sameRecipe(hour, log.hours[index], aired) ? [] : [index]));
}

function sameRecipe(now: LogHour, then: LogHour | undefined, aired: ReadonlySet<string>): boolean {
  if (!then) return false;
  const planned = ({ entries }: LogHour): LogEntry[] => entries.filter(({ id }) => !MORE_FILL.test(id));
  let [asked, logged] = [planned(now), planned(then)];
  if (then.entries.some(({ id }) => aired.has(id))) {
    logged = logged.filter(({ id }) => !aired.has(id));
    asked = logged.length === 0 ? [] : asked.slice(-logged.length);
  }
  if (asked.length !== logged.length || now.runsOn !== then.runsOn) return false;
  return asked.every((entry, n) => {
    const other = elementAt(logged, n);
    return recipeOf(entry) === recipeOf(other) && asksNoMore(entry, other);
  });
}

/** What the clock says of an entry; what was chosen for it is left aside. */
function recipeOf(entry: LogEntry): string {
  const { id, kind, mark } = entry;
  const base = [id, kind, mark?.atMs, mark?.hard, mark?.exactMs];
  switch (entry.kind) {
    case 'pick':
      return JSON.stringify([
        ...base,
        entry.categoryId,
        entry.turnOrder,
        entry.rules,
        entry.spare,
        entry.fill,
        entry.theme?.by,
        entry.theme?.group,
      ]);
    case 'item':
      return JSON.stringify([...base, entry.itemId, entry.spare]);
    case 'break':
      return JSON.stringify([...base, entry.bookedAtMs, entry.durationMs]);
    case 'tease':
      return JSON.stringify([...base, entry.target]);
    case 'sweeper':
      return JSON.stringify([...base, entry.categoryId, entry.filters]);
    case 'note':
      return JSON.stringify([...base, entry.text]);
  }
}

/** Filters that were answered when the log was made are in it and not in the clock. */
function asksNoMore(now: LogEntry, then: LogEntry): boolean {
  if (now.kind !== 'pick' || then.kind !== 'pick') return true;
  const asked = now.filters ?? [];
  const had = then.filters ?? [];
  return asked.every((filter) => had.includes(filter)) && had.length - asked.length <= 1;
}
