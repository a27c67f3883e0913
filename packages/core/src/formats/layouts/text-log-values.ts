import { isDate } from '../../time/local-day.js';
import { readTime } from '../../time/read-time.js';

const HOUR_MS = 3_600_000;
const MINUTE_MS = 60_000;

/** A value of a text log, or why a text is none. */
export type ValueRead = { readonly ok: true; readonly ms: number } | { readonly ok: false; readonly why: string };

const CLOCK = /^(\d{1,2})(?:[:.](\d{2}))(?:[:.](\d{2}))?(?:[.,](\d{1,3}))?\s*(?:([ap])\.?\s?m\.?)?$/i;
const DIGITS = /^(\d{1,2})(\d{2})(\d{2})?\s*(?:([ap])\.?\s?m\.?)?$/i;
const HOUR_ALONE = /^(\d{1,2})\s*([ap])\.?\s?m\.?$/i;

/** A time of day: `06:12:00`, `6:12 AM`, `0612`, `061200`, `6 am`. Milliseconds after midnight by the clock on the wall. */
export function readClockTime(text: string): ValueRead {
  const given = text.trim();
  const clock = CLOCK.exec(given);
  const digits = clock ? null : DIGITS.exec(given);
  const alone = clock || digits ? null : HOUR_ALONE.exec(given);
  if (!clock && !digits && !alone) return { ok: false, why: `“${given}” is not a time of day.` };
  const [, hour = '', minute = '0', second = '0'] = clock ?? digits ?? [alone?.[0], alone?.[1], '0', '0'];
  const half = (clock?.[5] ?? digits?.[4] ?? alone?.[2])?.toLowerCase();
  const hours = half ? (Number(hour) % 12) + (half === 'p' ? 12 : 0) : Number(hour);
  const isWrong =
    Number(minute) > 59 || Number(second) > 59 || (half ? Number(hour) < 1 || Number(hour) > 12 : hours > 23);
  if (isWrong) return { ok: false, why: `“${given}” is not a time of day.` };
  const fraction = clock?.[4] ? Number(clock[4].padEnd(3, '0')) : 0;
  return { ok: true, ms: hours * HOUR_MS + Number(minute) * MINUTE_MS + Number(second) * 1000 + fraction };
}

/** Minutes past an hour, with seconds or without: `12`, `:12`, `12:30`. Milliseconds after the hour. */
export function readPastHour(text: string): ValueRead {
  const [, minute, second = '0'] = /^:?(\d{1,2})(?:[:.](\d{2}))?$/.exec(text.trim()) ?? [];
  if (minute === undefined || Number(minute) > 59 || Number(second) > 59)
    return { ok: false, why: `“${text.trim()}” is not minutes past the hour.` };
  return { ok: true, ms: Number(minute) * MINUTE_MS + Number(second) * 1000 };
}

/** A length: `30`, `:30`, `0:30`, `00:30.000`, `00:00:30`; a bare number is of the unit that is told. Milliseconds. */
export function readSpotLength(text: string, bare: 'seconds' | 'milliseconds'): ValueRead {
  const given = text.trim();
  if (/^\d{1,9}$/.test(given)) return { ok: true, ms: Number(given) * (bare === 'seconds' ? 1000 : 1) };
  const read = readTime(given.startsWith(':') ? `0${given}` : given, 'length');
  return read.ok ? read : { ok: false, why: `“${given}” is not a length.` };
}

const MONTHS = ['jan', 'feb', 'mar', 'apr', 'may', 'jun', 'jul', 'aug', 'sep', 'oct', 'nov', 'dec'];

/** The first date in a text, as `yyyy-MM-dd`; null without one. */
export function findDate(text: string, dayFirst: boolean): string | null {
  const iso = /(?<!\d)(\d{4})[-/.](\d{1,2})[-/.](\d{1,2})(?!\d)/.exec(text);
  if (iso) return dateOf(iso[1], iso[2], iso[3]);
  const numbers = /(?<!\d)(\d{1,2})[-/.](\d{1,2})[-/.](\d{4}|\d{2})(?!\d)/.exec(text);
  if (numbers) {
    const [, first, second, year = ''] = numbers;
    const full = year.length === 2 ? `20${year}` : year;
    return dayFirst ? dateOf(full, second, first) : dateOf(full, first, second);
  }
  const solid = /(?<!\d)(20\d{2})(\d{2})(\d{2})(?!\d)/.exec(text);
  if (solid) return dateOf(solid[1], solid[2], solid[3]);
  const worded =
    /(?<!\d)(\d{1,2})(?:st|nd|rd|th)?[ .-]+([a-z]{3})[a-z]*\.?[ ,-]+(\d{4})/i.exec(text) ??
    /([a-z]{3})[a-z]*\.? +(\d{1,2})(?:st|nd|rd|th)?,? +(\d{4})/i.exec(text);
  if (!worded) return null;
  const [, a = '', b = '', year] = worded;
  const [day, month] = /^\d/.test(a) ? [a, b] : [b, a];
  return dateOf(year, String(MONTHS.indexOf(month.toLowerCase()) + 1), day);
}

function dateOf(year = '', month = '', day = ''): string | null {
  const date = `${year}-${month.padStart(2, '0')}-${day.padStart(2, '0')}`;
  return isDate(date) ? date : null;
}
