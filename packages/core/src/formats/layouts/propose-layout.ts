import { LAYOUT_DELIMITERS, type ColumnMeaning, type LayoutDelimiter, type TextLayout } from './layout.js';
import { splitCells } from './read-text-log.js';
import { findDate, readClockTime, readPastHour, readSpotLength } from './text-log-values.js';

/** So many lines are looked at. */
const SAMPLE = 400;
/** The share of lines that must be alike. */
const MOST = 0.6;
const LONGEST_SPOT_MS = 600_000;

interface Column {
  readonly from: number;
  readonly length: number | null;
  readonly cells: readonly string[];
}

/**
 * A first layout for a text log, told from the file by itself: what parts its columns, what each holds, which lines hold
 * none. Null where no column holds times and none lengths; a person then points them out.
 */
export function proposeLayout(text: string, name: string): TextLayout | null {
  const lines = text.split(/\r\n|\n|\r/).slice(0, SAMPLE);
  const filled = lines.map((line) => line.replace(/\f/g, '').trimEnd()).filter((line) => line.trim() !== '');
  const delimiter = delimiterOf(filled);
  const data = delimiter ? alikeLines(filled, delimiter) : filled.filter(looksBooked);
  if (data.length === 0) return null;
  const columns = delimiter ? delimitedColumns(data, delimiter) : fixedColumns(data);
  const rest = filled.filter((line) => !data.includes(line));
  const hourHeading = headingOf(rest);
  const meanings = meaningsOf(columns, hourHeading !== null);
  if (!meanings) return null;
  const { times, means } = meanings;
  const last = columns.filter((_, n) => means[n] !== null).at(-1);
  return {
    format: 'fuller-layout',
    version: 1,
    name,
    encoding: 'auto',
    delimiter,
    columns: columns.flatMap((column, n) => {
      const one = means[n];
      if (!one) return [];
      // What comes last goes on to the end of the line.
      return [{ means: one, from: column.from, length: delimiter || column === last ? null : column.length }];
    }),
    times,
    lengths: bareLengths(columns, means),
    dayFirst: !rest.concat(data).some((line) => findDate(line, true) === null && findDate(line, false) !== null),
    hourHeading: times === 'past the hour' ? hourHeading : null,
    comments: commentsOf(
      rest.filter(
        (line) => times !== 'past the hour' || hourHeading === null || !line.trimStart().startsWith(hourHeading),
      ),
      data,
    ),
    skipFirst: 0,
  };
}

/** The delimiter that gives most lines the same number of cells, three at least; null where none does. */
function delimiterOf(lines: readonly string[]): LayoutDelimiter | null {
  let best: { readonly delimiter: LayoutDelimiter; readonly alike: number; readonly cells: number } | null = null;
  for (const delimiter of LAYOUT_DELIMITERS) {
    const counts = new Map<number, number>();
    for (const line of lines) {
      const cells = splitCells(line, delimiter).length;
      if (cells >= 3) counts.set(cells, (counts.get(cells) ?? 0) + 1);
    }
    const [cells, alike] = [...counts].sort((a, b) => b[1] - a[1] || b[0] - a[0])[0] ?? [0, 0];
    if (alike < lines.length * MOST && alike < lines.filter(looksBooked).length) continue;
    if (alike > 0 && (!best || alike > best.alike || (alike === best.alike && cells > best.cells)))
      best = { delimiter, alike, cells };
  }
  return best?.delimiter ?? null;
}

/** The lines with as many cells as most, but for a line of names of columns. */
function alikeLines(lines: readonly string[], delimiter: LayoutDelimiter): string[] {
  const counts = new Map<number, string[]>();
  for (const line of lines) {
    const cells = splitCells(line, delimiter).length;
    counts.set(cells, [...(counts.get(cells) ?? []), line]);
  }
  const [most = []] = [...counts.values()].sort((a, b) => b.length - a.length);
  return most.filter((line) => /\d/.test(line));
}

/** Whether a line seems to book a spot: it begins with a number, and has text and another number after it. */
function looksBooked(line: string): boolean {
  return (
    /^\s*[A-Z]{0,3}\d[\d:.]*\s*(?:[AP]\.?M\.?)?\s+\S+.*\d/i.test(line) &&
    /[A-Za-z]{2}/.test(line) &&
    !/^\s*\d{4}-\d\d-\d\d\s*$/.test(line)
  );
}

function delimitedColumns(lines: readonly string[], delimiter: LayoutDelimiter): Column[] {
  const rows = lines.map((line) => splitCells(line, delimiter).map((cell) => cell.trim()));
  const count = Math.max(0, ...rows.map((cells) => cells.length));
  return Array.from({ length: count }, (_, n) => ({
    from: n + 1,
    length: null,
    cells: rows.map((cells) => cells[n] ?? ''),
  }));
}

/** Columns at fixed places: between them every line has two blanks, or one where a number meets a text. */
function fixedColumns(lines: readonly string[]): Column[] {
  const width = Math.max(0, ...lines.map((line) => line.length));
  const isBlank = Array.from({ length: width }, (_, at) => lines.every((line) => (line[at] ?? ' ') === ' '));
  const columns: Column[] = [];
  for (let at = 0; at < width;) {
    if (isBlank[at]) {
      at++;
      continue;
    }
    let end = at;
    while (end < width && !isBlank[end]) end++;
    let next = end;
    while (next < width && isBlank[next]) next++;
    columns.push({
      from: at + 1,
      // A longer value may follow in other files.
      length: Math.max(1, next - at - (next < width ? 1 : 0)),
      cells: lines.map((line) => line.slice(at, end).trim()),
    });
    at = next;
  }
  return merged(columns, lines);
}

/**
 * Words of a text that happen to stand below each other are one column: a single blank parts only numbers from text, but
 * not at the end of the line, and not AM and PM from their time.
 */
function merged(columns: readonly Column[], lines: readonly string[]): Column[] {
  const joined: Column[] = [];
  for (const column of columns) {
    const before = joined.at(-1);
    const gap = before ? column.from - 1 - endOf(before) : 2;
    const isLast = column === columns.at(-1);
    if (before && gap <= 1 && (isHalfOfDay(column) || (isText(before) && (isText(column) || isLast)))) {
      const from = before.from;
      const length = column.from + (column.length ?? 0) - from;
      joined[joined.length - 1] = {
        from,
        length,
        cells: lines.map((line) => line.slice(from - 1, from - 1 + length).trim()),
      };
    } else joined.push(column);
  }
  return joined;
}

function endOf({ from, cells }: Column): number {
  return from - 1 + Math.max(0, ...cells.map((cell) => cell.length));
}

/** What follows the hours of a clock of twelve. */
function isHalfOfDay({ cells }: Column): boolean {
  return share(cells, (cell) => /^[ap]\.?m?\.?$/i.test(cell)) > ALMOST;
}

function isText({ cells }: Column): boolean {
  return share(cells, (cell) => /[A-Za-z]/.test(cell) && !/^\S*\d{2,}\S*$/.test(cell)) > MOST;
}

/** The share of the cells that are filled for which something holds. */
function share(cells: readonly string[], holds: (cell: string) => boolean): number {
  const filled = cells.filter((cell) => cell !== '');
  return filled.length === 0 ? 0 : filled.filter(holds).length / filled.length;
}

const ALMOST = 0.9;
/** Times of a log follow each other, but for some that were typed in later. */
const RISING = 0.7;
/** What is written as a time is one even where many lines were added later. */
const PLAIN_RISING = 0.5;
const HOUR_MS = 3_600_000;

/** What each column holds, null for what is not needed; null altogether where there is no time or no length. */
function meaningsOf(
  columns: readonly Column[],
  hasHeadings: boolean,
): { readonly times: TextLayout['times']; readonly means: (ColumnMeaning | null)[] } | null {
  const means: (ColumnMeaning | null)[] = columns.map(() => null);
  const take = (meaning: ColumnMeaning, fits: (column: Column) => boolean): number => {
    const at = columns.findIndex((column, n) => means[n] === null && fits(column));
    if (at >= 0) means[at] = meaning;
    return at;
  };
  take(
    'date',
    ({ cells }) => share(cells, (cell) => findDate(cell, true) !== null || findDate(cell, false) !== null) > ALMOST,
  );
  const clocks = columns
    .map((column, n) => ({ n, rising: risingShare(column), isPlain: /[:.]|[ap]m/i.test(column.cells.join('')) }))
    .filter(({ n, rising, isPlain }) => means[n] === null && rising > (isPlain ? PLAIN_RISING : RISING))
    // What is written as a time comes before bare figures, which may count the lines.
    .sort((one, other) => Number(other.isPlain) - Number(one.isPlain) || other.rising - one.rising);
  const isPast = ({ cells }: Column): boolean => share(cells, (cell) => readPastHour(cell).ok) > ALMOST;
  let times: TextLayout['times'] = 'clock';
  const [clock] = clocks;
  if (clock && (clock.isPlain || !hasHeadings)) means[clock.n] = 'time';
  else if (hasHeadings && take('time', isPast) >= 0) times = 'past the hour';
  else return null;
  const isLength = ({ cells }: Column): boolean =>
    share(cells, (cell) => {
      const read = readSpotLength(cell, Number(cell) >= 1000 ? 'milliseconds' : 'seconds');
      return read.ok && read.ms >= 3000 && read.ms <= LONGEST_SPOT_MS;
    }) > ALMOST;
  // What is written as a length comes before bare numbers, which may be places in the break.
  if (
    take('length', (column) => isLength(column) && column.cells.join('').includes(':')) < 0 &&
    take('length', isLength) < 0
  )
    return null;
  take(
    'sequence',
    (column) =>
      !countsLines(column) && share(column.cells, (cell) => /^\d{1,3}$/.test(cell) && Number(cell) <= 60) > ALMOST,
  );
  const isCode = (column: Column): boolean =>
    !countsLines(column) && share(column.cells, (cell) => /^[\w./-]*\d[\w./-]*$/.test(cell)) > ALMOST;
  const differing = (column: Column): number => new Set(column.cells).size / Math.max(1, column.cells.length);
  const codes = columns.filter((column, n) => means[n] === null && isCode(column));
  const carts = [...codes].sort((a, b) => differing(b) - differing(a));
  if (carts[0]) means[columns.indexOf(carts[0])] = 'cart';
  if (carts[1]) means[columns.indexOf(carts[1])] = 'product';
  const texts = columns.flatMap((column, n) =>
    means[n] === null && share(column.cells, (cell) => /[A-Za-z]/.test(cell)) > MOST ? [n] : [],
  );
  const short = texts.find((n) => share(columns[n]?.cells ?? [], (cell) => /^[A-Z0-9]{2,6}$/.test(cell)) > ALMOST);
  if (short !== undefined && texts.length > 2 && !carts[1]) means[short] = 'product';
  const names = texts.filter((n) => means[n] === null);
  const [sponsor, title] = names;
  if (sponsor !== undefined) means[sponsor] = 'sponsor';
  if (title !== undefined) means[title] = 'title';
  return { times, means };
}

/** Whether a column does nothing but count the lines. */
function countsLines({ cells }: Column): boolean {
  return (
    cells.length > 2 &&
    cells.every((cell) => /^\d+$/.test(cell)) &&
    // A line that was added later has a number of its own.
    cells.filter((cell, n) => n === 0 || Number(cell) === Number(cells[n - 1]) + 1).length > cells.length * ALMOST
  );
}

/** The share of times in a column that do not come before the one above them; 0 where it holds no times of day. */
function risingShare({ cells }: Column): number {
  const times = cells.map((cell) => (cell.length >= 4 ? readClockTime(cell) : null));
  const read = times.flatMap((one) => (one?.ok ? [one.ms] : []));
  // What never reaches one in the morning is a length.
  if (read.length < cells.filter((cell) => cell !== '').length * MOST || Math.max(0, ...read) < HOUR_MS) return 0;
  return read.filter((ms, n) => n === 0 || ms >= (read[n - 1] ?? 0)).length / read.length;
}

function bareLengths(columns: readonly Column[], means: readonly (ColumnMeaning | null)[]): TextLayout['lengths'] {
  const at = means.indexOf('length');
  const cells = columns[at]?.cells ?? [];
  return share(cells, (cell) => /^\d+$/.test(cell) && Number(cell) >= 1000) > MOST ? 'milliseconds' : 'seconds';
}

/** The words that hours are named after: two lines at least that begin alike and name different hours. */
function headingOf(lines: readonly string[]): string | null {
  const hours = new Map<string, Set<string>>();
  for (const line of lines) {
    const [, words, hour] = /^\s*(\D{0,30}?)(\d{1,2})(?::?00)?(?::00)?\s*(?:[ap]\.?m\.?)?\D{0,20}$/i.exec(line) ?? [];
    if (words === undefined || hour === undefined || words.trim() === '') continue;
    hours.set(words.trim(), (hours.get(words.trim()) ?? new Set()).add(hour));
  }
  const [best] = [...hours]
    .filter(([words, of]) => of.size >= 2 && !/page/i.test(words))
    .sort((a, b) => b[1].size - a[1].size);
  return best?.[0] ?? null;
}

/** How lines without a spot begin, as long as no line with one begins so. */
function commentsOf(lines: readonly string[], data: readonly string[]): string[] {
  const found = new Set<string>();
  for (const line of lines) {
    const text = line.trimStart();
    if ([...found].some((begins) => text.startsWith(begins))) continue;
    const sign = /^[^\w\s"']+/.exec(text)?.[0].charAt(0);
    const begins = sign ?? /^\S+/.exec(text)?.[0] ?? '';
    if (begins !== '' && !data.some((one) => one.trimStart().startsWith(begins))) found.add(begins);
  }
  return [...found].slice(0, 20);
}
