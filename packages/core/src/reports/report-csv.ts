import { writeCsv } from '../formats/csv.js';
import type { Report } from './report.js';

/** The numbers of a report as CSV, each in the unit its heading names. */
export function reportCsv({ columns, rows }: Pick<Report, 'columns' | 'rows'>): string {
  const headings = columns.map(({ label, unit }) =>
    unit === 'text' || unit === 'count' ? label : `${label} (${unit})`,
  );
  return writeCsv(
    headings,
    rows.map(({ cells }) => cells.map((cell) => (cell === null ? '' : String(cell)))),
  );
}
