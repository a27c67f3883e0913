import { parse } from 'csv-parse/browser/esm/sync';
import { linesOf } from '../limits.js';
import type { ColumnMeaning, LayoutDelimiter, TextLayout } from './layout.js';
import { findDate, readClockTime, readPastHour, readSpotLength, type ValueRead } from './text-log-values.js';

/** A commercial as a traffic log books it. */
export interface BookedSpot {
  /** The line of the file, from 1. */
  readonly line: number;
  /** The booked time of its break, milliseconds after midnight by the clock on the wall. */
  readonly atMs: number;
  readonly lengthMs: number;
  readonly cart: string;
  readonly sponsor: string;
  readonly title: string;
  readonly product: string;
  /** Its place in the break; null where the file does not tell. */
  readonly sequence: number | null;
}

/** A line of a text log as a layout reads it. */
export interface TextRow {
  /** From 1. */
  readonly line: number;
  /** Milliseconds after midnight by the clock on the wall. */
  readonly atMs: number;
  readonly lengthMs: number;
  /** What its cells hold; empty for a column the layout does not have. */
  readonly cell: (means: ColumnMeaning) => string;
}

/** What a text holds by a layout: every line is a row, an error, or passed. */
export interface TextRowsRead extends Omit<TextLogRead, 'spots'> {
  readonly rows: readonly TextRow[];
}

/** A line that holds no spot though it should. */
export interface LineError {
  /** From 1. */
  readonly line: number;
  readonly text: string;
  readonly why: string;
}

/** What a text log holds: every line is a spot, an error, or passed. */
export interface TextLogRead {
  /** The date the file says it is for; null where it says none. */
  readonly date: string | null;
  readonly spots: readonly BookedSpot[];
  readonly errors: readonly LineError[];
  /** Lines without a spot: blank ones, comments, headings. From 1. */
  readonly passed: readonly number[];
}

const LONGEST_SPOT_MS = 3_600_000;
const MOST_SHOWN = 200;
/** The longest text of a spot, characters. */
const LONGEST_TEXT = 500;

/** Reads a traffic log by a layout. Throws RangeError where the text has too many lines, or lines too long, to be one. */
export function readTextLog(text: string, layout: TextLayout): TextLogRead {
  const { rows, errors, ...read } = readTextRows(text, layout);
  const spots: BookedSpot[] = [];
  const refused: LineError[] = [];
  for (const row of rows) {
    const spot = spotOf(row);
    if (typeof spot === 'string') refused.push({ line: row.line, text: row.text, why: spot });
    else spots.push(spot);
  }
  return { ...read, spots, errors: [...errors, ...refused].sort((a, b) => a.line - b.line) };
}

/** Reads a text by a layout, whatever its rows are. Throws RangeError where it has too many lines, or lines too long. */
export function readTextRows(
  text: string,
  layout: TextLayout,
): TextRowsRead & { rows: (TextRow & { text: string })[] } {
  const lines = linesOf(text);
  if (lines === null) throw new RangeError('The file has too many lines, or lines too long, to be a log.');
  const rows: (TextRow & { text: string })[] = [];
  const errors: LineError[] = [];
  const passed: number[] = [];
  let date: string | null = null;
  let hour: number | null = null;
  for (const [n, raw] of lines.entries()) {
    const line = n + 1;
    const whole = raw.replace(/\f/g, '').trimEnd();
    const fail = (why: string): void => void errors.push({ line, text: whole.slice(0, MOST_SHOWN), why });
    if (layout.hourHeading !== null && whole.trimStart().startsWith(layout.hourHeading)) {
      hour = headingHour(whole.trimStart().slice(layout.hourHeading.length));
      if (hour === null) fail('This heading names no hour.');
      else passed.push(line);
      continue;
    }
    if (n < layout.skipFirst || whole.trim() === '' || isComment(whole, layout)) {
      passed.push(line);
      date ??= findDate(whole, layout.dayFirst);
      continue;
    }
    const cells = cellsOf(whole, layout);
    date ??= findDate(cells.get('date') ?? '', layout.dayFirst);
    const row = rowOf(cells, layout, hour);
    if (typeof row === 'string') fail(row);
    else rows.push({ ...row, line, text: whole.slice(0, MOST_SHOWN) });
  }
  return { date, rows, errors, passed };
}

function isComment(line: string, { comments }: TextLayout): boolean {
  const text = line.trimStart();
  return comments.some((begins) => text.startsWith(begins));
}

/** The cells of a line by what they hold. */
function cellsOf(line: string, { delimiter, columns }: TextLayout): Map<ColumnMeaning, string> {
  const parted = delimiter === null ? null : splitCells(line, delimiter);
  return new Map(
    columns.map(({ means, from, length }) => {
      const cell = parted
        ? (parted[from - 1] ?? '')
        : line.slice(from - 1, length === null ? undefined : from - 1 + length);
      return [means, cell.trim()];
    }),
  );
}

/** The cells of a delimited line; a quoted one may hold the delimiter. */
export function splitCells(line: string, delimiter: LayoutDelimiter): string[] {
  try {
    const [cells] = parse(line, { delimiter, relax_quotes: true, relax_column_count: true }) as string[][];
    return cells ?? [];
  } catch {
    // A quotation mark that is never closed is a letter, as in 7" RECORDS.
    return line.split(delimiter);
  }
}

/** The hour a heading names after its first word, 0 to 23; null without one. */
function headingHour(text: string): number | null {
  const [, hour, half] = /(\d{1,2})(?::?00)?(?::?00)?\s*(?:([ap])\.?\s?m)?/i.exec(text) ?? [];
  if (hour === undefined) return null;
  const read = readClockTime(half ? `${hour} ${half}m` : `${hour}:00`);
  return read.ok ? read.ms / 3_600_000 : null;
}

function rowOf(
  cells: ReadonlyMap<ColumnMeaning, string>,
  layout: TextLayout,
  hour: number | null,
): Omit<TextRow, 'line'> | string {
  const cell = (means: ColumnMeaning): string => cells.get(means) ?? '';
  const at = timeOf(cell('time'), layout, hour);
  if (!at.ok) return at.why;
  const length = readSpotLength(cell('length'), layout.lengths);
  if (!length.ok) return length.why;
  const long = [...cells].find(([, text]) => text.length > LONGEST_TEXT);
  if (long) return `The ${long[0]} is longer than ${LONGEST_TEXT} characters.`;
  return { atMs: at.ms, lengthMs: length.ms, cell };
}

function spotOf({ line, atMs, lengthMs, cell }: TextRow): BookedSpot | string {
  if (lengthMs <= 0 || lengthMs > LONGEST_SPOT_MS) return `A spot of ${cell('length')} is not possible.`;
  const sequence = cell('sequence');
  if (sequence !== '' && !/^\d{1,4}$/.test(sequence)) return `“${sequence}” is not a place in a break.`;
  return {
    line,
    atMs,
    lengthMs,
    cart: cell('cart'),
    sponsor: cell('sponsor'),
    title: cell('title'),
    product: cell('product'),
    sequence: sequence === '' ? null : Number(sequence),
  };
}

function timeOf(text: string, { times }: TextLayout, hour: number | null): ValueRead {
  if (text === '') return { ok: false, why: 'There is no time on this line.' };
  if (times === 'clock') return readClockTime(text);
  if (hour === null) return { ok: false, why: 'No heading before this line names its hour.' };
  const past = readPastHour(text);
  return past.ok ? { ok: true, ms: hour * 3_600_000 + past.ms } : past;
}
