import type { ReportAnswer } from '@fuller/contracts';
import { formatDuration } from '@fuller/core';

type Unit = ReportAnswer['columns'][number]['unit'];

/** A number of a report as it is printed. */
export function shownCell(value: string | number | null, unit: Unit): string {
  if (value === null) return '';
  if (typeof value === 'string') return value;
  switch (unit) {
    case 'seconds':
      return `${value < 0 ? '−' : ''}${formatDuration(Math.abs(value) * 1000)}`;
    case 'hours':
      return `${value} h`;
    case 'days':
      return `${value} d`;
    case 'percent':
      return `${value} %`;
    default:
      return String(value);
  }
}
