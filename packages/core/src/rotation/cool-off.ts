import { elementAt } from '../values/look-up.js';
import { addDays } from '../time/local-day.js';

/** A rest a category gives an item after many plays: after so many plays within so many days, so many days. */
export interface CoolOff {
  readonly plays: number;
  readonly days: number;
  readonly rest: number;
}

/** Plays further back are not known, days. */
export const LONGEST_COOL_OFF = 28;

/**
 * The last day of an item's cool-off as of a date, from the station-local dates of its plays before that date, in any
 * order; null when it is not cooling off.
 */
export function coolingUntil(
  { plays, days, rest }: CoolOff,
  playDates: readonly string[],
  date: string,
): string | null {
  const sorted = playDates.filter((one) => one < date).sort();
  let until: string | null = null;
  for (let i = plays - 1; i < sorted.length; i++) {
    const last = elementAt(sorted, i);
    // What was played while it should have rested counts towards no new rest.
    if (until !== null && last <= until) continue;
    if (elementAt(sorted, i - plays + 1) > addDays(last, -days)) until = addDays(last, rest);
  }
  return until !== null && until >= date ? until : null;
}
