import { stringify } from 'csv-stringify/sync';
import { formatAirTime, localTimeOf } from '../../time/local-day.js';
import { minutesText } from '../../time/duration.js';
import { writeCue } from '../playlists/cue.js';
import { oneLine, type PlaylistAbout, type PlayerRow } from '../playlists/player-row.js';
import type { ColumnMeaning, LayoutDelimiter, TextLayout } from './layout.js';

/** A text written by a layout, and how many values were longer than their column. */
export interface WrittenTextLog {
  readonly text: string;
  readonly cut: number;
}

type Writing = NonNullable<TextLayout['writing']>;
const PLAIN_WRITING: Writing = { time: 'hh:mm:ss', length: 'seconds', header: [], footer: [] };

/** Rows as text by a layout: the header, a line each, the footer. Values that do not fit their column are cut. */
export function writeTextLog(
  rows: readonly PlayerRow[],
  layout: TextLayout,
  about: PlaylistAbout,
  named: (line: string) => string = (line) => line,
): WrittenTextLog {
  const writing = layout.writing ?? PLAIN_WRITING;
  const lines: string[] = [];
  let cut = 0;
  let hour: number | null = null;
  for (const [n, row] of rows.entries()) {
    const local = localTimeOf(row.startMs, about.timeZone);
    if (layout.hourHeading !== null && local.hour !== hour) lines.push(`${layout.hourHeading} ${two(local.hour)}:00`);
    hour = local.hour;
    const cells = new Map(
      layout.columns.map(({ means }) => [means, valueOf(means, row, { layout, writing, about, place: n + 1 })]),
    );
    const made = layout.delimiter === null ? fixedLine(layout, cells) : delimitedLine(layout, layout.delimiter, cells);
    cut += made.cut;
    lines.push(made.line);
  }
  const around = (given: readonly string[]): string[] => given.map((line) => oneLine(named(line)));
  return { text: [...around(writing.header), ...lines, ...around(writing.footer), ''].join('\n'), cut };
}

interface About {
  readonly layout: TextLayout;
  readonly writing: Writing;
  readonly about: PlaylistAbout;
  readonly place: number;
}

function valueOf(means: ColumnMeaning, row: PlayerRow, { layout, writing, about, place }: About): string {
  switch (means) {
    case 'time':
      return layout.times === 'clock'
        ? timeText(row.startMs, about.timeZone, writing.time)
        : pastHourText(row.startMs, about.timeZone);
    case 'length':
      return lengthText(row.durationMs, writing.length);
    case 'date':
      return about.date;
    case 'sequence':
      return String(place);
    case 'cue':
      return row.cue ? writeCue(row.cue) : '';
    default:
      return oneLine(row[means]);
  }
}

function timeText(startMs: number, zone: string, notation: Writing['time']): string {
  const clock = formatAirTime(startMs, zone);
  if (notation === 'hh:mm:ss') return clock;
  if (notation === 'hhmmss') return clock.replaceAll(':', '');
  if (notation === 'hhmm') return clock.slice(0, 5).replace(':', '');
  const { hour } = localTimeOf(startMs, zone);
  return `${hour % 12 || 12}${clock.slice(2)} ${hour < 12 ? 'AM' : 'PM'}`;
}

function pastHourText(startMs: number, zone: string): string {
  return formatAirTime(startMs, zone).slice(3);
}

function lengthText(durationMs: number, notation: Writing['length']): string {
  const seconds = Math.round(durationMs / 1000);
  if (notation === 'milliseconds') return String(Math.round(durationMs));
  if (notation === 'seconds') return String(seconds);
  if (notation === 'm:ss.SSS') return minutesText(durationMs);
  const [minutes, rest] = [Math.floor(seconds / 60), two(seconds % 60)];
  if (notation === 'm:ss') return `${minutes}:${rest}`;
  return `${two(Math.floor(minutes / 60))}:${two(minutes % 60)}:${rest}`;
}

const two = (value: number): string => String(value).padStart(2, '0');

interface MadeLine {
  readonly line: string;
  readonly cut: number;
}

function fixedLine({ columns }: TextLayout, cells: ReadonlyMap<ColumnMeaning, string>): MadeLine {
  let line = '';
  let cut = 0;
  for (const { means, from, length } of [...columns].sort((a, b) => a.from - b.from)) {
    const value = cells.get(means) ?? '';
    const letters = [...value];
    const fits = length === null || letters.length <= length;
    if (!fits) cut++;
    line = line.padEnd(from - 1).slice(0, from - 1) + (fits ? value : letters.slice(0, length).join(''));
  }
  return { line: line.trimEnd(), cut };
}

function delimitedLine(
  { columns }: TextLayout,
  delimiter: LayoutDelimiter,
  cells: ReadonlyMap<ColumnMeaning, string>,
): MadeLine {
  const width = Math.max(...columns.map(({ from }) => from));
  const values = Array.from({ length: width }, (_, n) => {
    const column = columns.find(({ from }) => from === n + 1);
    return column ? (cells.get(column.means) ?? '') : '';
  });
  return { line: stringify([values], { delimiter, record_delimiter: '', escape_formulas: false }), cut: 0 };
}
