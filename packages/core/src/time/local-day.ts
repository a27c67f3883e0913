import { DateTime, IANAZone } from 'luxon';

/** One hour of a station's day. A day has 23 or 25 of them when clocks change. */
export interface LocalHour {
  /** Place of the hour in its day, from 0. */
  readonly index: number;
  /** What the station's clock shows, 0 to 23; a value is missing or doubled when clocks change. */
  readonly localHour: number;
  /** UTC start, epoch milliseconds. */
  readonly startMs: number;
  /** Length in milliseconds: 3,600,000 but in zones that shift by half an hour. */
  readonly durationMs: number;
}

/** True for a name such as `Europe/Dublin` that this machine knows. */
export function isTimeZone(zone: string): boolean {
  return zone.includes('/') || zone === 'UTC' ? IANAZone.isValidZone(zone) : false;
}

/** True for a calendar date written `2026-11-23` that exists. */
export function isDate(date: string): boolean {
  return /^\d{4}-\d{2}-\d{2}$/.test(date) && DateTime.fromISO(date, { zone: 'UTC' }).isValid;
}

function midnight(date: string, zone: string): DateTime {
  const start = DateTime.fromISO(date, { zone });
  if (!start.isValid || !isDate(date)) throw new RangeError(`“${date}” in “${zone}” is not a date`);
  return start.startOf('day');
}

/** The hours of a station-local date, in order; throws RangeError for a date or zone that does not exist. */
export function hoursOfDay(date: string, zone: string): LocalHour[] {
  const start = midnight(date, zone);
  const end = start.plus({ days: 1 }).startOf('day').toMillis();
  const hours: LocalHour[] = [];
  let at = start;
  while (at.toMillis() < end) {
    // Adding real time and then looking at the local hour keeps both halves of a doubled hour.
    let next = at.plus({ hours: 1 });
    if (next.minute !== 0) next = next.plus({ minutes: 60 - next.minute });
    const nextMs = Math.min(next.toMillis(), end);
    hours.push({
      index: hours.length,
      localHour: at.hour,
      startMs: at.toMillis(),
      durationMs: nextMs - at.toMillis(),
    });
    at = next;
  }
  return hours;
}

/** The date a number of days after (or, negative, before) another. */
export function addDays(date: string, days: number): string {
  return DateTime.fromISO(date, { zone: 'UTC' }).plus({ days }).toISODate()!;
}

/** Whole days from one date to another; negative when the second is earlier. */
export function daysBetween(from: string, to: string): number {
  const start = DateTime.fromISO(from, { zone: 'UTC' });
  return Math.round(DateTime.fromISO(to, { zone: 'UTC' }).diff(start, 'days').days);
}

/** Day of the week of a date: 0 is Monday, 6 is Sunday. */
export function weekdayOf(date: string): number {
  return DateTime.fromISO(date, { zone: 'UTC' }).weekday - 1;
}

/** The station-local date and time of day of an instant. */
export function localTimeOf(
  epochMs: number,
  zone: string,
): { date: string; hour: number; minute: number; second: number } {
  const at = DateTime.fromMillis(epochMs, { zone });
  return { date: at.toISODate()!, hour: at.hour, minute: at.minute, second: at.second };
}

/** `06:12:07` on the station's clock. */
export function formatAirTime(epochMs: number, zone: string): string {
  return DateTime.fromMillis(epochMs, { zone }).toFormat('HH:mm:ss');
}

/** `2026-11-24T06:12:07` on the station's clock, without an offset. */
export function formatLocalDateTime(epochMs: number, zone: string): string {
  return DateTime.fromMillis(epochMs, { zone }).toFormat("yyyy-MM-dd'T'HH:mm:ss");
}
