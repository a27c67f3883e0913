import { elementAt } from '../values/look-up.js';
import { WEEK_HOURS } from '../time/local-day.js';
import type { LibraryItem } from './item.js';

/** What decides when an item may air. */
export type Availability = Pick<LibraryItem, 'startDate' | 'endDate' | 'hours' | 'pausedUntil'>;

/** Why an item may not air, whatever the rules say. Dates are station-local. */
export type Unavailability =
  | { readonly because: 'not yet'; readonly from: string }
  | { readonly because: 'over'; readonly until: string }
  | { readonly because: 'paused'; readonly until: string }
  | { readonly because: 'cooling off'; readonly until: string }
  | { readonly because: 'hour' }
  | { readonly because: 'no length' }
  | { readonly because: 'not approved' };

/** The last day of a pause that has no end. */
export const PAUSED_FOR_GOOD = '9999-12-31';

/** What bars an item from a whole station-local date; null when nothing does. */
export function unavailabilityOnDate(
  { startDate, endDate, pausedUntil }: Availability,
  date: string,
): Unavailability | null {
  if (startDate !== null && date < startDate) return { because: 'not yet', from: startDate };
  if (endDate !== null && date > endDate) return { because: 'over', until: endDate };
  if (pausedUntil !== null && date <= pausedUntil) return { because: 'paused', until: pausedUntil };
  return null;
}

/** True when an item may air in an hour; weekday 0 is Monday. No hours at all means every hour. */
export function mayAirInHour({ hours }: Pick<Availability, 'hours'>, weekday: number, hour: number): boolean {
  return hours === null || hours[weekday * 24 + hour] === '1';
}

/** Allowed hours with some cells (Monday 00:00 is 0) allowed or not; null once every hour is allowed. */
export function paintHours(hours: string | null, cells: Iterable<number>, allowed: boolean): string | null {
  const marks = [...(hours ?? '1'.repeat(WEEK_HOURS))];
  for (const cell of cells) if (cell >= 0 && cell < WEEK_HOURS) marks[cell] = allowed ? '1' : '0';
  return marks.includes('0') ? marks.join('') : null;
}

const DAYS = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'] as const;

/** Allowed hours as people say them: `Mon to Fri 06–10, Sat and Sun 20–24`. */
export function hoursInWords(hours: string | null): string {
  if (hours === null) return 'at any hour';
  const ofDay = DAYS.map((_, day) => spansOf(hours.slice(day * 24, day * 24 + 24)));
  const parts: string[] = [];
  for (let day = 0; day < 7;) {
    let last = day;
    while (last < 6 && ofDay[last + 1] === ofDay[day]) last++;
    if (ofDay[day] !== '') parts.push(`${daysInWords(day, last)} ${ofDay[day]}`.trim());
    day = last + 1;
  }
  return parts.length > 0 ? parts.join(', ') : 'at no hour';
}

function daysInWords(from: number, to: number): string {
  if (from === 0 && to === 6) return 'every day';
  if (from === to) return elementAt(DAYS, from);
  return `${elementAt(DAYS, from)} ${to === from + 1 ? 'and' : 'to'} ${elementAt(DAYS, to)}`;
}

function spansOf(day: string): string {
  const spans = [...day.matchAll(/1+/g)].map(({ index, 0: run }) => {
    const two = (hour: number): string => String(hour).padStart(2, '0');
    return run.length === 24 ? 'all day' : `${two(index)}–${two(index + run.length)}`;
  });
  return spans.join(' and ');
}
