import { formatDuration } from '../time/duration.js';
import type { ReportUnit } from './report.js';
import { withCommas } from './words.js';

const AFTER: Readonly<Partial<Record<ReportUnit, string>>> = { hours: ' h', days: ' d', percent: ' %' };

/** A number of a report in its unit, as screens and paper show it: `1,204`, `39.1 h`, `−1:30`. */
export function numberText(value: number, unit: ReportUnit | 'text'): string {
  const sign = value < 0 ? '−' : '';
  const size = Math.abs(value);
  if (unit === 'seconds') return sign + formatDuration(size * 1000);
  const after = unit === 'text' ? undefined : AFTER[unit];
  return sign + (after === undefined ? withCommas(size) : `${size}${after}`);
}
