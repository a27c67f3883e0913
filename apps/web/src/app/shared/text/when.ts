import { DateTime } from 'luxon';

/** An instant on the station's clock as people say it: `today 06:12`, `yesterday 22:40`, `Tue 3 Nov 14:05`. */
export function whenText(epochMs: number | null, zone: string, todayDate: string): string {
  if (epochMs === null) return 'never';
  const at = DateTime.fromMillis(epochMs, { zone });
  const days = at.startOf('day').diff(DateTime.fromISO(todayDate, { zone }), 'days').days;
  const time = at.toFormat('HH:mm');
  if (days === 0) return `today ${time}`;
  if (days === -1) return `yesterday ${time}`;
  if (days === 1) return `tomorrow ${time}`;
  return at
    .setLocale('en-GB')
    .toFormat(at.year === DateTime.fromISO(todayDate).year ? 'ccc d LLL HH:mm' : 'd LLL yyyy');
}

/** `Mon 23 Nov 2026` */
export function dayYearText(date: string): string {
  return DateTime.fromISO(date).setLocale('en-GB').toFormat('ccc d LLL yyyy');
}

/** `23 Nov` */
export function shortDayText(date: string): string {
  return DateTime.fromISO(date).setLocale('en-GB').toFormat('d LLL');
}

/** `Monday 23 November 2026` */
export function longDayText(date: string): string {
  return DateTime.fromISO(date).setLocale('en-GB').toFormat('cccc d LLLL yyyy');
}

/** How long something rests, in the unit a person would use: `42 min`, `6 h`, `12 days`. */
export function restText(restMs: number | null): string {
  if (restMs === null) return 'never played';
  const minutes = restMs / 60_000;
  if (minutes < 100) return `${Math.round(minutes)} min`;
  if (minutes < 48 * 60) return `${Math.round(minutes / 60)} h`;
  return `${Math.round(minutes / 1440)} days`;
}
