import { addDays, daysBetween, isDate, weekdayOf } from '../time/local-day.js';

/** Ranges that move with the date. */
export const MOVING_RANGES = [
  'last 7 days',
  'last week',
  'this week',
  'last 4 weeks',
  'last 13 weeks',
  'last month',
  'last year',
] as const;
export type MovingRange = (typeof MOVING_RANGES)[number];

/** Dates of a report, both included. */
export interface DateRange {
  readonly from: string;
  readonly to: string;
}

/** The dates of a moving range on a date; weeks begin on Monday, and a range that ends does so the day before. */
export function datesOfRange(range: MovingRange, today: string): DateRange {
  const yesterday = addDays(today, -1);
  const monday = addDays(today, -weekdayOf(today));
  switch (range) {
    case 'last 7 days':
      return { from: addDays(today, -7), to: yesterday };
    case 'last week':
      return { from: addDays(monday, -7), to: addDays(monday, -1) };
    case 'this week':
      return { from: monday, to: addDays(monday, 6) };
    case 'last 4 weeks':
      return { from: addDays(today, -28), to: yesterday };
    case 'last 13 weeks':
      return { from: addDays(today, -91), to: yesterday };
    case 'last month': {
      const to = addDays(`${today.slice(0, 7)}-01`, -1);
      return { from: `${to.slice(0, 7)}-01`, to };
    }
    case 'last year':
      return { from: addDays(today, -365), to: yesterday };
  }
}

/** The range of the same length that ends the day before another begins. */
export function rangeBefore({ from, to }: DateRange): DateRange {
  return { from: addDays(from, -(daysBetween(from, to) + 1)), to: addDays(from, -1) };
}

/** Every date of a range in order; none where it ends before it begins. Throws RangeError for what is no date. */
export function datesIn({ from, to }: DateRange): string[] {
  if (!isDate(from) || !isDate(to)) throw new RangeError(`“${from}” to “${to}” is not a range of dates`);
  return Array.from({ length: Math.max(0, daysBetween(from, to) + 1) }, (_, n) => addDays(from, n));
}
