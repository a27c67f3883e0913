import { elementAt, lookUpIn } from '../values/look-up.js';
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

const WEEKDAYS = ['Sunday', 'Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday'];
const FORBIDDEN = /[/\\:*?"<>|\u0000-\u001f]/g;
const RESERVED = /^(?:con|prn|aux|nul|com\d|lpt\d)(?:\.|$)/i;

const WRITERS: Readonly<Record<string, (parts: FileNameParts) => string>> = {
  station: (parts) => parts.station.toLowerCase().replace(/[^\p{L}\p{N}]+/gu, '-'),
  date: (parts) => parts.date,
  year: (parts) => parts.date.slice(0, 4),
  month: (parts) => parts.date.slice(5, 7),
  day: (parts) => parts.date.slice(8, 10),
  weekday: (parts) => elementAt(WEEKDAYS, new Date(`${parts.date}T00:00:00Z`).getUTCDay()),
  hour: (parts) => (parts.hour === null ? '' : String(parts.hour).padStart(2, '0') + (parts.hourRepeat > 0 ? 'b' : '')),
};

/** Words a pattern may hold between braces. */
export const PATTERN_WORDS = Object.keys(WRITERS);

/** A file name made from a pattern, or what is wrong with the pattern. */
export type FileNameResult =
  { readonly ok: true; readonly name: string } | { readonly ok: false; readonly why: string };

/**
 * The file name of a pattern such as `{station}_{date}_{hour}.m3u8`. Characters no file name may
 * hold are refused in the pattern; so are unknown words and, for hourly files, a pattern without
 * `{hour}`, which would give every hour the same name.
 */
export function fileNameOf(pattern: string, parts: FileNameParts): FileNameResult {
  const unknown = [...pattern.matchAll(/\{([^}]*)\}/g)].find(([, word]) => !Object.hasOwn(WRITERS, word!));
  if (unknown)
    return {
      ok: false,
      why: `“${unknown[0]}” is not known; use ${PATTERN_WORDS.map((word) => `{${word}}`).join(', ')}.`,
    };
  if (parts.hour !== null && !pattern.includes('{hour}')) {
    return { ok: false, why: 'Hourly files need {hour} in the pattern, or every hour would have the same name.' };
  }
  const plain = pattern.replace(/\{[^}]*\}/g, '');
  const forbidden = plain.match(FORBIDDEN);
  if (forbidden) return { ok: false, why: `A file name cannot hold “${forbidden[0]}”.` };
  const name = pattern.replace(/\{([^}]*)\}/g, (_, word: string) => lookUpIn(WRITERS, word)(parts)).trim();
  if (name === '' || name.startsWith('.') || RESERVED.test(name) || name.length > 200) {
    return { ok: false, why: 'The pattern does not give a usable file name.' };
  }
  return { ok: true, name };
}
