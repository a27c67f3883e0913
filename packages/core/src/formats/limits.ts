import { elementAt } from '../values/look-up.js';
/** What a text to be imported may hold; more than this is refused before it fills the memory. */
export const MOST_ROWS = 500_000;
/** The most columns a table may have. */
export const MOST_COLUMNS = 200;
/** Letters in one cell. */
export const MOST_CELL = 50_000;
/** How deep lists and objects, or elements, may stand in each other. */
export const MOST_DEPTH = 60;

/** Why a table with too many rows is refused. */
export const TOO_MANY_ROWS = `The file has more than ${MOST_ROWS.toLocaleString('en-GB')} rows; split it and import the parts.`;
/** Why a file that is nested too deep is refused. */
export const TOO_DEEP = `The file is nested more than ${MOST_DEPTH} levels deep.`;

/** What is wrong with the size of a row's cells; null when nothing is. */
export function rowTooLarge(cells: readonly string[]): string | null {
  if (cells.length > MOST_COLUMNS)
    return `The row has ${cells.length.toLocaleString('en-GB')} columns; at most ${MOST_COLUMNS} are read.`;
  const long = cells.findIndex((cell) => cell.length > MOST_CELL);
  if (long < 0) return null;
  return `Column ${long + 1} holds ${elementAt(cells, long).length.toLocaleString('en-GB')} characters; at most ${MOST_CELL.toLocaleString('en-GB')} are read.`;
}

/** Whether brackets stand too deep in each other; what is in quotation marks does not count. */
export function isTooDeep(json: string): boolean {
  let depth = 0;
  let quoted = false;
  for (let at = 0; at < json.length; at++) {
    const code = json.charCodeAt(at);
    if (quoted) {
      if (code === 92) at++;
      else if (code === 34) quoted = false;
    } else if (code === 34) quoted = true;
    else if (code === 91 || code === 123) {
      if (++depth > MOST_DEPTH) return true;
    } else if (code === 93 || code === 125) depth--;
  }
  return false;
}

/** The lines of a text; null when there are more than rows are read, empty ones and comments included. */
export function linesOf(text: string): string[] | null {
  let lines = 0;
  for (let at = text.indexOf('\n'); at >= 0; at = text.indexOf('\n', at + 1)) if (++lines > 4 * MOST_ROWS) return null;
  return text.split(/\r\n|\n|\r/);
}
