import { formatDuration } from '@fuller/core';
import { plural } from '../shared/text/plural';
import type { HourRow } from './log-model';

/** How an hour ends. */
export function offWords(overMs: number): string {
  if (Math.abs(overMs) < 1000) return 'ends on the hour';
  return `${formatDuration(Math.abs(overMs))} ${overMs > 0 ? 'over' : 'under'}`;
}

/** What an hour holds whose entries are hidden. */
export function insideWords({ hour, open, strained }: HourRow): string {
  const parts = [plural(hour.entries.length, 'entry', 'entries')];
  if (open) parts.push(`${open} open`);
  if (strained) parts.push(`${strained} strained`);
  return parts.join(', ');
}

export function twoDigits(value: number): string {
  return String(value).padStart(2, '0');
}
