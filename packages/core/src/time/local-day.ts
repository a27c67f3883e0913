import { DateTime, IANAZone } from 'luxon';

/** Hours of a week. */
export const WEEK_HOURS = 168;

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

const DAY_MS = 86_400_000;

/** Midnight of a date as if the zone were UTC, epoch milliseconds. */
function utcOf(date: string): number {
  return Date.UTC(Number(date.slice(0, 4)), Number(date.slice(5, 7)) - 1, Number(date.slice(8, 10)));
}

/** The date a number of days after (or, negative, before) another. */
export function addDays(date: string, days: number): string {
  return new Date(utcOf(date) + days * DAY_MS).toISOString().slice(0, 10);
}

/** Whole days from one date to another; negative when the second is earlier. */
export function daysBetween(from: string, to: string): number {
  return Math.round((utcOf(to) - utcOf(from)) / DAY_MS);
}

/** Day of the week of a date: 0 is Monday, 6 is Sunday. */
export function weekdayOf(date: string): number {
  return (new Date(utcOf(date)).getUTCDay() + 6) % 7;
}

/** Zones change their offset on quarters of an hour alone. */
const QUARTER_MS = 900_000;
const MOST_KEPT = 100_000;

/** What is known of a zone: its offset over whole UTC days, and by quarter of an hour on days on which it changes. */
interface KnownZone {
  readonly zone: IANAZone;
  readonly days: Map<number, number | null>;
  readonly quarters: Map<number, number>;
}
const zones = new Map<string, KnownZone>();

/** What a zone is ahead of UTC at an instant, milliseconds; throws RangeError for a zone that does not exist. */
function offsetMs(epochMs: number, name: string): number {
  let known = zones.get(name);
  if (!known || known.days.size + known.quarters.size > MOST_KEPT) {
    const zone = IANAZone.create(name);
    if (!zone.isValid) throw new RangeError(`“${name}” is not a time zone`);
    zones.set(name, (known = { zone, days: new Map(), quarters: new Map() }));
  }
  const day = Math.floor(epochMs / DAY_MS);
  let ofDay = known.days.get(day);
  if (ofDay === undefined) {
    const begin = known.zone.offset(day * DAY_MS);
    ofDay = begin === known.zone.offset((day + 1) * DAY_MS - 1) ? begin * 60_000 : null;
    known.days.set(day, ofDay);
  }
  if (ofDay !== null) return ofDay;
  const quarter = Math.floor(epochMs / QUARTER_MS);
  let offset = known.quarters.get(quarter);
  if (offset === undefined) known.quarters.set(quarter, (offset = known.zone.offset(quarter * QUARTER_MS) * 60_000));
  return offset;
}

const dates = new Map<number, string>();

/** The date of a day counted from 1970. */
function dateOfDay(day: number): string {
  let date = dates.get(day);
  if (date === undefined) {
    if (dates.size > MOST_KEPT) dates.clear();
    dates.set(day, (date = new Date(day * DAY_MS).toISOString().slice(0, 10)));
  }
  return date;
}

/** The station-local date and time of day of an instant. */
export function localTimeOf(
  epochMs: number,
  zone: string,
): { date: string; hour: number; minute: number; second: number } {
  const local = epochMs + offsetMs(epochMs, zone);
  const day = Math.floor(local / DAY_MS);
  const seconds = Math.floor((local - day * DAY_MS) / 1000);
  return {
    date: dateOfDay(day),
    hour: Math.floor(seconds / 3600),
    minute: Math.floor((seconds % 3600) / 60),
    second: seconds % 60,
  };
}

const two = (value: number): string => (value < 10 ? `0${value}` : String(value));

/** `06:12:07` on the station's clock. */
export function formatAirTime(epochMs: number, zone: string): string {
  const { hour, minute, second } = localTimeOf(epochMs, zone);
  return `${two(hour)}:${two(minute)}:${two(second)}`;
}

/** `2026-11-24T06:12:07` on the station's clock, without an offset. */
export function formatLocalDateTime(epochMs: number, zone: string): string {
  return `${localTimeOf(epochMs, zone).date}T${formatAirTime(epochMs, zone)}`;
}

/** `+01:00`, how far the station's clock is from UTC at an instant. */
export function offsetText(epochMs: number, zone: string): string {
  const minutes = Math.round(offsetMs(epochMs, zone) / 60_000);
  const size = Math.abs(minutes);
  return `${minutes < 0 ? '-' : '+'}${two(Math.floor(size / 60))}:${two(size % 60)}`;
}
