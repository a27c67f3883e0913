import { parseDuration } from '../../time/duration.js';
import { WallTimes } from '../../time/wall-time.js';
import { detectDelimiter } from '../csv.js';
import type { TextLayout } from '../layouts/layout.js';
import { readTextRows } from '../layouts/read-text-log.js';
import { readClockTime } from '../layouts/text-log-values.js';
import { detectFormat, readRows } from '../playlist-rows.js';
import { readCue } from './cue.js';
import type { PlayerRow } from './player-row.js';

/** What is known of a player's file besides its text. */
export interface PlayerFileAbout {
  /** `2026-11-24` */
  readonly date: string;
  readonly timeZone: string;
  /** When its first row begins where rows do not tell, UTC epoch milliseconds. */
  readonly fromMs: number;
  /** How a text is read that is no table with a head line. */
  readonly layout: TextLayout | null;
}

/** The rows of a player's file, or what is wrong with it and in which line. */
export type PlayerRowsRead =
  | { readonly ok: true; readonly rows: readonly PlayerRow[] }
  | { readonly ok: false; readonly line: number; readonly why: string };

/** Names of columns, for each what it may be called. */
const NAMES = {
  start: ['start', 'time', 'aired', 'air time', 'at'],
  duration: ['duration', 'duration ms', 'length'],
  kind: ['kind', 'type'],
  artist: ['artist', 'performer'],
  title: ['title', 'song'],
  album: ['album'],
  cart: ['cart', 'number', 'id'],
  sponsor: ['sponsor', 'client'],
  product: ['product'],
  file: ['file', 'path', 'location'],
  cue: ['cue'],
} as const;
type Column = keyof typeof NAMES;

/** Reads the rows of a player's file in any of the formats it is written in; rows that do not tell their start follow each other. */
export function readPlayerRows(text: string, about: PlayerFileAbout): PlayerRowsRead {
  const format = detectFormat(text);
  if (format === 'table' && about.layout) return rowsByLayout(text, about.layout, about);
  const table = readRows(text, format, detectDelimiter(text));
  if (!table.ok) return table;
  const [head, ...rows] = table.rows;
  const places = columnsOf(head?.cells ?? []);
  if (places.title === undefined && places.file === undefined && places.cart === undefined)
    return { ok: false, line: head?.line ?? 1, why: 'No column is named title, cart or file.' };
  const wall = new WallTimes(about.date, about.timeZone);
  const read: PlayerRow[] = [];
  let nextMs = about.fromMs;
  for (const { line, cells } of rows) {
    const say = (column: Column): string => cells[places[column] ?? -1] ?? '';
    const cue = readCue(say('cue')) ?? undefined;
    const durationMs = parseDuration(say('duration')) ?? 0;
    const startMs = cue?.startMs ?? instantOf(say('start'), wall) ?? (say('start') === '' ? nextMs : null);
    if (startMs === null) return { ok: false, line, why: `“${say('start')}” is no time.` };
    nextMs = startMs + durationMs;
    read.push({ ...textsOf(say, cue), startMs, durationMs, ...(cue ? { cue } : {}) });
  }
  return { ok: true, rows: read };
}

function textsOf(say: (column: Column) => string, cue?: PlayerRow['cue']): Omit<PlayerRow, 'startMs' | 'durationMs'> {
  return {
    kind: say('kind') || (cue?.kind ?? ''),
    artist: say('artist'),
    title: say('title'),
    album: say('album'),
    cart: say('cart') || (cue?.cart ?? ''),
    sponsor: say('sponsor'),
    product: say('product'),
    file: say('file'),
  };
}

function rowsByLayout(text: string, layout: TextLayout, { date, timeZone }: PlayerFileAbout): PlayerRowsRead {
  const { rows, errors } = readTextRows(text, layout);
  const [wrong] = errors;
  if (wrong) return { ok: false, line: wrong.line, why: wrong.why };
  const wall = new WallTimes(date, timeZone);
  return {
    ok: true,
    rows: rows.map(({ atMs, lengthMs, cell }) => {
      const cue = readCue(cell('cue')) ?? undefined;
      const say = (column: Column): string =>
        column === 'start' || column === 'duration' || column === 'album' ? '' : cell(column);
      const startMs = cue?.startMs ?? wall.instantOf(atMs);
      return { ...textsOf(say, cue), startMs, durationMs: lengthMs, ...(cue ? { cue } : {}) };
    }),
  };
}

function columnsOf(head: readonly string[]): Partial<Record<Column, number>> {
  const names = head.map((name) => name.trim().toLowerCase());
  return Object.fromEntries(
    Object.entries(NAMES).flatMap(([column, known]) => {
      const at = names.findIndex((name) => (known as readonly string[]).includes(name));
      return at < 0 ? [] : [[column, at]];
    }),
  );
}

/** An instant written with its offset, or a time of the date by the clock on the wall; null where it is neither. */
function instantOf(text: string, wall: WallTimes): number | null {
  if (/T.*(?:Z|[+-]\d{2}:\d{2})$/.test(text)) {
    const instant = Date.parse(text);
    return Number.isNaN(instant) ? null : instant;
  }
  const time = readClockTime(text.includes('T') ? text.slice(text.indexOf('T') + 1) : text);
  return time.ok ? wall.instantOf(time.ms) : null;
}
