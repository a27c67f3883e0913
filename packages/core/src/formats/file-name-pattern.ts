import { DateTime } from 'luxon';

/** What a file name pattern may name. */
export interface FileNameParts {
  readonly station: string;
  /** `2026-11-23` */
  readonly date: string;
  /** Local hour, or null when the file holds the whole day. */
  readonly hour: number | null;
  /** 0 for the first, 1 for the second of a doubled hour. */
  readonly hourRepeat: number;
}

const FORBIDDEN = /[/\\:*?"<>|\u0000-\u001f]/g;
const RESERVED = /^(?:con|prn|aux|nul|com\d|lpt\d)(?:\.|$)/i;

type Writer = (parts: FileNameParts) => string;

/** What the date of a file, or its hour, looks like in a notation of Luxon. */
const dated =
  (notation: string): Writer =>
  ({ date }) =>
    DateTime.fromISO(date, { zone: 'utc', locale: 'en-GB' }).toFormat(notation);
const timed =
  (notation: string): Writer =>
  ({ hour, hourRepeat }) =>
    hour === null
      ? ''
      : DateTime.utc(2000, 1, 1, hour, { locale: 'en-GB' }).toFormat(notation) + (hourRepeat > 0 ? 'b' : '');

/** Parts that tell the hours of a day apart; those of 12 hours need `a` besides. */
const HOURS: Readonly<Record<string, Writer>> = {
  HH: timed('HH'),
  H: timed('H'),
  kk: ({ hour, hourRepeat }) => (hour === null ? '' : String(hour + 1).padStart(2, '0') + (hourRepeat > 0 ? 'b' : '')),
  hh: timed('hh'),
  h: timed('h'),
  hour: timed('HH'),
};

const WRITERS: Readonly<Record<string, Writer>> = {
  station: ({ station }) => station.toLowerCase().replace(/[^\p{L}\p{N}]+/gu, '-'),
  stationName: ({ station }) => station.replace(FORBIDDEN, '-'),
  date: dated('yyyy-MM-dd'),
  yyyy: dated('yyyy'),
  yy: dated('yy'),
  MM: dated('MM'),
  M: dated('M'),
  MMM: dated('MMM'),
  MMMM: dated('MMMM'),
  dd: dated('dd'),
  d: dated('d'),
  DDD: dated('ooo'),
  EEEE: dated('EEEE'),
  EEE: dated('EEE'),
  E: dated('E'),
  WW: dated('WW'),
  ...HOURS,
  a: ({ hour }) => (hour === null ? '' : hour < 12 ? 'AM' : 'PM'),
  year: dated('yyyy'),
  month: dated('MM'),
  day: dated('dd'),
  weekday: dated('EEEE'),
};

/** A part that a pattern may hold between braces, and what it stands for. */
export interface PatternPart {
  readonly part: string;
  readonly means: string;
}

/** The parts that are offered; longer words for some are understood besides. */
export const PATTERN_PARTS: readonly PatternPart[] = [
  { part: 'station', means: 'Station, small letters and hyphens' },
  { part: 'stationName', means: 'Station, as it is written' },
  { part: 'date', means: 'Date, as 2026-11-05' },
  { part: 'yyyy', means: 'Year, 4 digits' },
  { part: 'yy', means: 'Year, 2 digits' },
  { part: 'MM', means: 'Month, 2 digits' },
  { part: 'M', means: 'Month, 1 or 2 digits' },
  { part: 'MMM', means: 'Month, 3 letters' },
  { part: 'MMMM', means: 'Month, as a word' },
  { part: 'dd', means: 'Day, 2 digits' },
  { part: 'd', means: 'Day, 1 or 2 digits' },
  { part: 'DDD', means: 'Day of the year, 3 digits' },
  { part: 'EEE', means: 'Weekday, 3 letters' },
  { part: 'EEEE', means: 'Weekday, as a word' },
  { part: 'E', means: 'Weekday, 1 (Monday) to 7' },
  { part: 'WW', means: 'Week of the year (ISO 8601)' },
  { part: 'HH', means: 'Hour, 00 to 23' },
  { part: 'H', means: 'Hour, 0 to 23' },
  { part: 'kk', means: 'Hour, 01 to 24' },
  { part: 'hh', means: 'Hour, 01 to 12' },
  { part: 'h', means: 'Hour, 1 to 12' },
  { part: 'a', means: 'AM or PM' },
];

/** A file name made from a pattern, or what is wrong with the pattern. */
export type FileNameResult =
  { readonly ok: true; readonly name: string } | { readonly ok: false; readonly why: string };

/** A part between braces; `:upper` or `:lower` after it says in which case it is written. */
const PART = /\{([^}:]*)(?::(upper|lower))?\}/g;

/** A text whose parts in braces are written out; what is not known stays as it stands. */
export function fillPattern(pattern: string, parts: FileNameParts): string {
  return pattern.replace(PART, (all, word: string, letters?: 'upper' | 'lower') => {
    if (!Object.hasOwn(WRITERS, word)) return all;
    const written = WRITERS[word]!(parts);
    if (letters === undefined) return written;
    return letters === 'upper' ? written.toUpperCase() : written.toLowerCase();
  });
}

/**
 * The file name of a pattern such as `{station}_{date}_{HH}.m3u8`. Characters no file name may hold are refused in the
 * pattern; so are unknown parts and, for hourly files, a pattern without an hour, which would give every hour the same
 * name.
 */
export function fileNameOf(pattern: string, parts: FileNameParts): FileNameResult {
  const unknown = [...pattern.matchAll(/\{[^}]*\}/g)].find(([text]) => {
    const [, word = ''] = new RegExp(PART.source).exec(text) ?? [];
    return !Object.hasOwn(WRITERS, word);
  });
  if (unknown)
    return {
      ok: false,
      why: `“${unknown[0]}” is not known; use ${PATTERN_PARTS.map(({ part }) => `{${part}}`).join(', ')}.`,
    };
  if (parts.hour !== null && ![...pattern.matchAll(PART)].some(([, word]) => Object.hasOwn(HOURS, word ?? ''))) {
    return {
      ok: false,
      why: 'Hourly files need an hour such as {HH} in the pattern, or all would have the same name.',
    };
  }
  const forbidden = pattern.replace(PART, '').match(FORBIDDEN);
  if (forbidden) return { ok: false, why: `A file name cannot hold “${forbidden[0]}”.` };
  const name = fillPattern(pattern, parts).trim();
  if (name === '' || name.startsWith('.') || RESERVED.test(name) || new TextEncoder().encode(name).length > 200) {
    return { ok: false, why: 'The pattern does not give a usable file name.' };
  }
  return { ok: true, name };
}
