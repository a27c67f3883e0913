import type { DayState, HandEdit } from '@fuller/contracts';
import { applyEdit, type DailyLog, type LogEdit, type LogHour } from '@fuller/core';
import { FullerError } from '../errors.js';

/** The log after an edit; throws INVALID with the reason when it does not apply. */
export function afterEdit(log: DailyLog, edit: LogEdit): DailyLog {
  const outcome = applyEdit(log, edit);
  if (!outcome.ok) throw new FullerError('INVALID', `That cannot be done: ${outcome.why}.`, 'edit');
  return outcome.log;
}

export function sameShape(a: DailyLog, b: DailyLog): boolean {
  const shapeOf = ({ hours }: DailyLog): string =>
    JSON.stringify(hours.map(({ entries, ...hour }) => [Object.entries(hour).sort(), entries.length]));
  return shapeOf(a) === shapeOf(b);
}

/** Of some hours of a log those that are not over. */
export function hoursToCome(log: DailyLog, indexes: readonly number[], nowMs: number): LogHour[] {
  return indexes
    .flatMap((index) => log.hours[index] ?? [])
    .filter(({ startMs, durationMs }) => startMs + durationMs > nowMs);
}

const MOST_LISTED = 5;

export function listed(times: readonly string[]): string {
  const shown = times.slice(0, MOST_LISTED).join(', ');
  return times.length > MOST_LISTED ? `${shown} and ${times.length - MOST_LISTED} more` : shown;
}

export function labelOf(edit: HandEdit): string {
  switch (edit.type) {
    case 'replace':
      return 'Replace an entry';
    case 'open':
      return 'Open a slot';
    case 'swap':
      return 'Swap two entries';
    case 'remove':
      return 'Remove an entry';
    case 'move':
      return 'Move an entry';
    case 'lock':
      return edit.locked ? 'Lock an entry' : 'Unlock an entry';
    case 'note':
      return 'Write a note';
  }
}

export function dayState(log: { open: number } | undefined, handedOver: boolean, aired: boolean): DayState {
  if (aired) return 'aired';
  if (!log) return 'none';
  if (handedOver) return 'handed over';
  return log.open > 0 ? 'open' : 'complete';
}
