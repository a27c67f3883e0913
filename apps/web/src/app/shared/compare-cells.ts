/** The order of two cells of a table: numbers as numbers, text as text, what is not there last. */
export function compareCells(a: string | number | null, b: string | number | null): number {
  if (a === null || b === null) return a === b ? 0 : a === null ? -1 : 1;
  return typeof a === 'number' && typeof b === 'number' ? a - b : String(a).localeCompare(String(b));
}
