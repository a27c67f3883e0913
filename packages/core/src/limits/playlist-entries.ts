import type { CsvTable } from '../formats/csv.js';
import { guessMapping } from '../library/import-fields.js';
import { foldText } from '../text/fold.js';
import { parseDuration } from '../time/duration.js';
import type { LimitEntry } from './check-limits.js';

/** Taken for a song whose length is not told, milliseconds. */
export const USUAL_LENGTH_MS = 210_000;

/** A song of a playlist, with when it starts as a person reads it. */
export interface PlaylistSong extends LimitEntry {
  /** `2026-11-23T10:04:10`; without a date, since the list began: `10:04:10`. */
  readonly startText: string;
  readonly file: string;
  readonly line: number;
}

/** The songs of a playlist, or what in it is not understood. */
export type PlaylistSongs =
  | { readonly ok: true; readonly songs: readonly PlaylistSong[]; readonly withoutLength: number }
  | { readonly ok: false; readonly line: number; readonly column: string | null; readonly why: string };

const OWN_COLUMNS = {
  start: ['start', 'starts', 'start time', 'starttime', 'aired', 'aired at', 'air time', 'airtime', 'played at'],
  set: ['set', 'box set', 'boxed set', 'compilation'],
  albumArtist: ['album artist', 'albumartist'],
} as const;

const START =
  /^(?:(\d{4}-\d{2}-\d{2})[T ]+)?(\d{1,2}):([0-5]\d)(?::([0-5]\d)(?:[.,]\d+)?)? *(?:(am|pm)|Z|[+-]\d{2}:?\d{2})?$/i;
const DAY_SECONDS = 86_400;

/** Seconds of a start and whether it names its date; null for a text that is none. */
function readStart(text: string): { readonly seconds: number; readonly dated: boolean } | null {
  const match = START.exec(text.trim());
  if (!match) return null;
  const [, date, hourText, minutes, seconds, half] = match;
  let hour = Number(hourText);
  if (half) {
    if (hour < 1 || hour > 12) return null;
    hour = (hour % 12) + (half.toLowerCase() === 'pm' ? 12 : 0);
  }
  if (hour > 23) return null;
  const midnight = date ? Date.parse(`${date}T00:00:00Z`) / 1000 : 0;
  if (Number.isNaN(midnight)) return null;
  return { seconds: midnight + hour * 3600 + Number(minutes) * 60 + Number(seconds ?? 0), dated: date !== undefined };
}

/** A start as it is told: with its date, or counted on from the day the list began. */
export function startText(seconds: number, dated: boolean): string {
  if (dated) return new Date(seconds * 1000).toISOString().slice(0, 19);
  const two = (number: number): string => String(Math.floor(number)).padStart(2, '0');
  return `${two(seconds / 3600)}:${two((seconds % 3600) / 60)}:${two(seconds % 60)}`;
}

interface Columns {
  readonly indexOf: (name: string) => number;
  readonly has: (name: string) => boolean;
}

function columnsOf(header: readonly string[]): Columns {
  const places = new Map<string, number>();
  header.forEach((heading, at) => {
    const words = foldText(heading)
      .replaceAll(/[_().-]+/g, ' ')
      .trim();
    for (const [name, known] of Object.entries(OWN_COLUMNS))
      if ((known as readonly string[]).includes(words) && !places.has(name)) places.set(name, at);
  });
  guessMapping(header).forEach((field, at) => {
    if (field !== null && !places.has(field) && ![...places.values()].includes(at)) places.set(field, at);
  });
  return { indexOf: (name) => places.get(name) ?? -1, has: (name) => places.has(name) };
}

/**
 * The songs of a playlist file as rows (`readRows`), the first of which names the columns. Without starts they follow
 * each other from 00:00:00; starts without a date that go back are of the next day; without a length 3:30 is taken.
 */
export function playlistSongs(table: CsvTable): PlaylistSongs {
  if (!table.ok) return { ok: false, line: table.line, column: null, why: table.why };
  const [head, ...rows] = table.rows;
  if (!head || rows.length === 0) return { ok: false, line: 1, column: null, why: 'The file holds no songs.' };
  const { indexOf, has } = columnsOf(head.cells);
  if (!has('title') && !has('artist') && !has('album'))
    return {
      ok: false,
      line: head.line,
      column: null,
      why: 'The first line names none of the columns start, artist, title, album, set, duration.',
    };
  const songs: PlaylistSong[] = [];
  let [next, days, withoutLength] = [0, 0, 0];
  for (const [index, { line, cells }] of rows.entries()) {
    const cell = (name: string): string => cells[indexOf(name)]?.trim() ?? '';
    const length = cell('duration') === '' ? null : parseDuration(cell('duration'));
    if (length === null && cell('duration') !== '')
      return { ok: false, line, column: 'duration', why: `“${cell('duration')}” is not a length.` };
    if (length === null || length <= 0) withoutLength++;
    let [start, dated] = [next, false];
    if (has('start')) {
      const read = readStart(cell('start'));
      if (!read) return { ok: false, line, column: 'start', why: `“${cell('start')}” is not a time of day.` };
      dated = read.dated;
      const before = songs.at(-1)?.start ?? 0;
      // A list that goes on past midnight.
      if (!dated && read.seconds + days < before - DAY_SECONDS / 2) days += DAY_SECONDS;
      start = read.seconds + (dated ? 0 : days);
    }
    next = start + Math.round((length && length > 0 ? length : USUAL_LENGTH_MS) / 1000);
    songs.push({
      position: index + 1,
      start,
      startText: startText(start, dated),
      title: cell('title'),
      artist: cell('artist'),
      album: cell('album'),
      ...(cell('albumArtist') && { albumArtist: cell('albumArtist') }),
      ...(cell('set') && { set: cell('set') }),
      file: cell('file'),
      line,
    });
  }
  return { ok: true, songs, withoutLength: has('start') ? 0 : withoutLength };
}
