import { formatLocalDateTime, offsetText } from '../../time/local-day.js';
import { minutesText } from '../../time/duration.js';
import { writeCsv } from '../csv.js';
import { writeCue } from './cue.js';
import { oneLine, type PlaylistAbout, type PlayerRow } from './player-row.js';

const TEXTS = ['kind', 'artist', 'title', 'album', 'cart', 'sponsor', 'product', 'file'] as const;

/** A log as CSV (RFC 4180): `start` by the clock on the wall, `duration` as minutes and seconds. */
export function writeLogCsv(rows: readonly PlayerRow[], { timeZone }: PlaylistAbout): string {
  const withCues = rows.some(({ cue }) => cue !== undefined);
  return writeCsv(
    ['start', 'duration', ...TEXTS, ...(withCues ? ['cue'] : [])],
    rows.map((row) => [
      formatLocalDateTime(row.startMs, timeZone),
      minutesText(row.durationMs),
      ...TEXTS.map((column) => oneLine(row[column])),
      ...(withCues ? [row.cue ? writeCue(row.cue) : ''] : []),
    ]),
  );
}

/** A log as JSON of format `fuller-log`; each `start` carries its offset from UTC. */
export function writeLogJson(rows: readonly PlayerRow[], { station, date, timeZone }: PlaylistAbout): string {
  const entries = rows.map(({ startMs, ...row }) => ({
    start: `${formatLocalDateTime(startMs, timeZone)}${offsetText(startMs, timeZone)}`,
    durationMs: row.durationMs,
    ...Object.fromEntries(TEXTS.map((column) => [column, oneLine(row[column])])),
    ...(row.cue ? { cue: writeCue(row.cue) } : {}),
  }));
  return `${JSON.stringify({ format: 'fuller-log', version: 1, station, date, timeZone, entries }, null, 2)}\n`;
}
