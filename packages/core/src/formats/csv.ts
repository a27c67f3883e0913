import { elementAt } from '../values/look-up.js';
import { CsvError, parse } from 'csv-parse/sync';
import { stringify } from 'csv-stringify/sync';
import { DELIMITERS, type Delimiter } from './delimiters.js';
import { MOST_ROWS, rowTooLarge, TOO_MANY_ROWS } from './limits.js';

/** The longest row, characters. */
const MOST_RECORD = 1_000_000;

/** A row of a delimited text. */
export interface CsvRow {
  /** Line of the file on which the row ends, counted from 1. */
  readonly line: number;
  readonly cells: readonly string[];
}

/** The rows of a delimited text, or the line that cannot be read and why. */
export type CsvTable =
  | { readonly ok: true; readonly rows: readonly CsvRow[] }
  | { readonly ok: false; readonly line: number; readonly why: string };

/** The delimiter that gives the first lines the same number of cells, most cells first. */
export function detectDelimiter(text: string): Delimiter {
  const head = text.slice(0, 20_000).split(/\r?\n/).slice(0, 20).join('\n');
  let best: Delimiter = ',';
  let bestScore = 0;
  for (const delimiter of DELIMITERS) {
    const table = readCsv(head, delimiter);
    if (!table.ok || table.rows.length === 0) continue;
    const widths = table.rows.map((row) => row.cells.length);
    const common = elementAt(widths, 0);
    const score = common > 1 ? common * (widths.filter((width) => width === common).length / widths.length) : 0;
    if (score > bestScore) [best, bestScore] = [delimiter, score];
  }
  return best;
}

/** The first rows of a delimited text (RFC 4180), all of them where no limit is given; empty lines are skipped, ragged rows are kept as they are. */
export function readCsv(text: string, delimiter: Delimiter, most = MOST_ROWS): CsvTable {
  try {
    const records = parse(text, {
      bom: true,
      delimiter,
      info: true,
      relax_column_count: true,
      skip_empty_lines: true,
      trim: true,
      // One more than are read, so that it is seen when there are more.
      to: most + 1,
      max_record_size: MOST_RECORD,
    }) as unknown as { record: string[]; info: { lines: number } }[];
    if (most === MOST_ROWS && records.length > MOST_ROWS) return { ok: false, line: 1, why: TOO_MANY_ROWS };
    const wrong = records.find(({ record }) => rowTooLarge(record) !== null);
    if (wrong) return { ok: false, line: wrong.info.lines, why: rowTooLarge(wrong.record)! };
    return { ok: true, rows: records.slice(0, most).map(({ record, info }) => ({ line: info.lines, cells: record })) };
  } catch (error) {
    if (!(error instanceof CsvError)) throw error;
    const line = Number((error as unknown as { lines?: number }).lines ?? 1);
    if (error.code === 'CSV_MAX_RECORD_SIZE')
      return { ok: false, line, why: `The row is longer than ${MOST_RECORD.toLocaleString('en-GB')} characters.` };
    return { ok: false, line, why: 'A quoted cell is not closed, or text follows its closing quote.' };
  }
}

/** A table as CSV text with CRLF ends; cells that a spreadsheet would run as a formula are made harmless. */
export function writeCsv(header: readonly string[], rows: readonly (readonly (string | number | null)[])[]): string {
  return stringify([header, ...rows] as unknown[][], { record_delimiter: 'windows', escape_formulas: true });
}
