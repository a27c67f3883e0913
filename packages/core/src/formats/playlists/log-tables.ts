import { formatLocalDateTime, offsetText } from '../../time/local-day.js';
import { minutesText } from '../../time/duration.js';
import { writeCsv } from '../csv.js';
import { writeCue } from './cue.js';
import { oneLine, type PlaylistAbout, type PlayerRow } from './player-row.js';

const TEXTS = ['kind', 'artist', 'title', 'album', 'cart', 'sponsor', 'product', 'file'] as const;

/** A log as CSV (RFC 4180): `start` by the clock on the wall where it has a day, `duration` as minutes and seconds. */
export function writeLogCsv(rows: readonly PlayerRow[], { timeZone, listName }: PlaylistAbout): string {
  const isTimed = listName === undefined;
  const withCues = rows.some(({ cue }) => cue !== undefined);
  return writeCsv(
    [...(isTimed ? ['start'] : []), 'duration', ...TEXTS, ...(withCues ? ['cue'] : [])],
    rows.map((row) => [
      ...(isTimed ? [formatLocalDateTime(row.startMs, timeZone)] : []),
      minutesText(row.durationMs),
      ...TEXTS.map((column) => oneLine(row[column])),
      ...(withCues ? [row.cue ? writeCue(row.cue) : ''] : []),
    ]),
  );
}

/** A log as JSON of format `fuller-log`; each `start` carries its offset from UTC. A list without a day has a name in place of these. */
export function writeLogJson(rows: readonly PlayerRow[], { station, date, timeZone, listName }: PlaylistAbout): string {
  const isTimed = listName === undefined;
  const entries = rows.map(({ startMs, ...row }) => ({
    ...(isTimed ? { start: `${formatLocalDateTime(startMs, timeZone)}${offsetText(startMs, timeZone)}` } : {}),
    durationMs: row.durationMs,
    ...Object.fromEntries(TEXTS.map((column) => [column, oneLine(row[column])])),
    ...(row.cue ? { cue: writeCue(row.cue) } : {}),
  }));
  const about = isTimed ? { station, date, timeZone } : { station, name: listName };
  return `${JSON.stringify({ format: 'fuller-log', version: 1, ...about, entries }, null, 2)}\n`;
}
