import type { DayState, HandEdit, RunDecision } from '@fuller/contracts';
import { applyEdit, type DailyLog, type LogEdit, type LogHour } from '@fuller/core';
import type { KeptDecision } from '../db/entities/index.js';
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
    case 'insert':
      return 'Add an entry';
    case 'length':
      return 'Change a length';
    case 'spots':
      return 'Change the spots of a break';
    case 'batch':
      return edit.edits.length === 1 ? labelOf(edit.edits[0]!) : batchLabel(edit.edits);
  }
}

function batchLabel(edits: readonly HandEdit[]): string {
  const types = new Set(edits.map(({ type }) => type));
  const many = `${edits.length} entries`;
  if (types.size > 1) return `Change ${many}`;
  const [type] = types;
  const verbs: Partial<Record<HandEdit['type'], string>> = {
    replace: 'Replace',
    open: 'Open',
    remove: 'Remove',
    move: 'Move',
    insert: 'Add',
    lock: 'Lock or unlock',
  };
  return `${verbs[type!] ?? 'Change'} ${many}`;
}

export function dayState(log: { open: number } | undefined, handedOver: boolean, aired: boolean): DayState {
  if (aired) return 'aired';
  if (!log) return 'none';
  if (handedOver) return 'handed over';
  return log.open > 0 ? 'open' : 'complete';
}

export function shownDecision({ atMs, entryId, airTime, title, breaks }: KeptDecision): RunDecision {
  return { atMs, entryId, airTime, title, breaks };
}
