import { lookUpIn } from '../values/look-up.js';
/** The longest time that is read at all, a year and a day, in milliseconds. */
const LONGEST_MS = 366 * 86_400_000;

/** A time in milliseconds, or why a text is none. */
export type TimeRead = { readonly ok: true; readonly ms: number } | { readonly ok: false; readonly why: string };

/** How a time is meant: a `length` is minutes and seconds (3:38), a `distance` is minutes, hours or days (90 min). */
export type TimeSense = 'length' | 'distance';

const UNIT_MS: Readonly<Record<string, number>> = {
  ms: 1,
  s: 1000,
  m: 60_000,
  h: 3_600_000,
  d: 86_400_000,
  w: 604_800_000,
};
const UNIT_WORDS: readonly (readonly [string, RegExp])[] = [
  ['ms', /^(?:ms|msecs?|milliseconds?)$/],
  ['s', /^(?:s|secs?|seconds?)$/],
  ['m', /^(?:m|mins?|minutes?)$/],
  ['h', /^(?:h|hrs?|hours?)$/],
  ['d', /^(?:d|days?)$/],
  ['w', /^(?:w|wks?|weeks?)$/],
];
/** The unit of a bare number after a part in another unit, as in `2 h 30`. */
const NEXT_UNIT: Readonly<Record<string, string>> = { w: 'd', d: 'h', h: 'm', m: 's' };
/** A bare length this large is milliseconds: as seconds it would be over 2 h 46. */
const MILLISECONDS_FROM = 10_000;

const CLOCK = /^(\d{1,4}):(\d{1,2})(?::(\d{1,2}))?(?:[.,](\d{1,3}))?$/;
const PARTS = /((?:half an?|an?|one)(?![a-z])|\d+(?:[.,]\d+)*(?::\d+)*) *([a-z]*)/g;

/**
 * A time as people type it: `90 min`, `1.5 h`, `1,5 h`, `1 h 30`, `1:30 h`, `2 d`, `3:38`, `1:02:03`. Colons alone mean
 * minutes and seconds in a length; of a distance they are refused, as 1:30 is an hour and a half to one and ninety
 * seconds to another. A bare number is seconds or milliseconds of a length, minutes of a distance. What cannot be
 * read, or in two ways, is refused with the reason.
 */
export function readTime(text: string, sense: TimeSense): TimeRead {
  const spoken = text.trim().toLowerCase();
  if (spoken === '') return refuse('Nothing is typed.');
  const clock = CLOCK.exec(spoken);
  if (clock) return sense === 'distance' && clock[3] === undefined ? ambiguousClock(spoken) : colons(spoken, 's');
  return inRange(spoken, sumOfParts(spoken, sense));
}

function sumOfParts(typed: string, sense: TimeSense): TimeRead {
  const spoken = typed.replace(/\band\b/g, ' ').trim();
  const like = sense === 'length' ? 'like 3:38, 218 s or 4 min' : 'like 90 min, 1.5 h or 2 days';
  const unread = (): TimeRead => refuse(`“${typed}” is not a time; write it ${like}.`);
  if (spoken.replace(PARTS, '').replace(/[,\s]/g, '') !== '') return unread();
  let ms = 0;
  let previous = '';
  for (const [, number = '', word = ''] of spoken.matchAll(PARTS)) {
    const unit = word === '' ? bareUnit(previous, sense, number) : unitOf(word);
    if (unit === null || UNIT_MS[unit] === undefined) return unread();
    if (previous !== '' && lookUpIn(UNIT_MS, unit) >= lookUpIn(UNIT_MS, previous)) return unread();
    const value = number.includes(':') ? colons(number, unit) : amount(number);
    if (!value.ok) return value;
    // Who writes 1 h 75 has mistyped; 1 h 75 min is plain.
    if (word === '' && previous !== '' && value.ms >= lookUpIn(UNIT_MS, previous) / lookUpIn(UNIT_MS, unit))
      return refuse(`“${typed}”: ${number} is too many after the unit before it; write the unit of ${number} too.`);
    ms += number.includes(':') ? value.ms : value.ms * lookUpIn(UNIT_MS, unit);
    previous = unit;
  }
  return previous === '' ? unread() : { ok: true, ms: Math.round(ms) };
}

function unitOf(word: string): string | null {
  return UNIT_WORDS.find(([, pattern]) => pattern.test(word))?.[0] ?? null;
}

function bareUnit(previous: string, sense: TimeSense, number: string): string | null {
  if (previous !== '') return NEXT_UNIT[previous] ?? null;
  if (/[a-z]/.test(number)) return null;
  if (sense === 'distance') return 'm';
  return Number(number.replace(',', '.')) >= MILLISECONDS_FROM ? 'ms' : 's';
}

/** A number, as `ms` for want of a unit yet. */
function amount(number: string): TimeRead {
  if (number.startsWith('half')) return { ok: true, ms: 0.5 };
  if (/^[a-z]/.test(number)) return { ok: true, ms: 1 };
  if (/^\d{1,3},\d{3}$/.test(number) && !number.startsWith('0'))
    return refuse(
      `“${number}” could be a thousand or a fraction; write ${number.replace(',', '')} or ${number.replace(',', '.')}.`,
    );
  if (!/^\d{1,12}(?:[.,]\d{1,9})?$/.test(number)) return refuse(`“${number}” is not a number.`);
  return { ok: true, ms: Number(number.replace(',', '.')) };
}

/** `1:30` of a unit, `1:02:03` counted from hours, with a fraction of a second; milliseconds. */
function colons(text: string, unit: string): TimeRead {
  const [, first = '', second = '', third, fraction] = CLOCK.exec(text) ?? [];
  const wrong = (): TimeRead => refuse(`“${text}” is not a time; minutes and seconds go up to 59.`);
  if (first === '') return wrong();
  if (third !== undefined) {
    if (Number(second) > 59 || Number(third) > 59) return wrong();
    return inRange(text, {
      ok: true,
      ms: (Number(first) * 3600 + Number(second) * 60 + Number(third)) * 1000 + thousandths(fraction),
    });
  }
  if (Number(second) > 59) return wrong();
  // 1:30 h is hours and minutes; of minutes, and without a unit, minutes and seconds.
  const scale = unit === 'h' ? 60 : 1;
  if (unit !== 'h' && unit !== 'm' && unit !== 's') return refuse(`“${text}” has no days; write it like 1:30 h.`);
  return inRange(text, { ok: true, ms: (Number(first) * 60 + Number(second)) * 1000 * scale + thousandths(fraction) });
}

function thousandths(fraction: string | undefined): number {
  return fraction ? Number(fraction.padEnd(3, '0')) : 0;
}

function ambiguousClock(text: string): TimeRead {
  return refuse(`“${text}” could be hours and minutes or minutes and seconds; write ${text} h or ${text} min.`);
}

function inRange(text: string, read: TimeRead): TimeRead {
  if (!read.ok || read.ms <= LONGEST_MS) return read;
  return refuse(`“${text.slice(0, 40)}” is more than a year.`);
}

function refuse(why: string): TimeRead {
  return { ok: false, why };
}
