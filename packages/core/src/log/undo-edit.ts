import { allEntries, findEntry, type DailyLog, type LogEntry, type LogHour } from './daily-log.js';
import type { LogEdit } from './log-edit.js';

/** What undoing an edit comes to when others have changed the log since. */
export type UndoOutcome =
  | {
      readonly ok: true;
      readonly edit: LogEdit;
      /** Entries left as they are, changed again since. */ readonly left: readonly string[];
    }
  | { readonly ok: false; readonly why: string };

/**
 * The edit that undoes another in a log that may have been changed since. What the edit set and nobody has touched
 * since goes back; everything else stays and is named. Refused where nothing can go back. `inverse` is the edit that
 * undid it in the log it was made in; of a refill, entries in `fixed` (what has aired) stay as they are.
 */
export function undoEdit(
  log: DailyLog,
  edit: LogEdit,
  inverse: LogEdit,
  fixed: ReadonlySet<string> = new Set(),
): UndoOutcome {
  if (edit.type === 'refill' && inverse.type === 'refill') return undoRefill(log, edit.hours, inverse.hours, fixed);
  if (!stands(log, edit)) return { ok: false, why: 'the entry has been changed again since' };
  return { ok: true, edit: inverse, left: [] };
}

/** Whether a log still has what an edit set. */
function stands(log: DailyLog, edit: LogEdit): boolean {
  if (edit.type === 'batch') return lastOfEach(edit.edits).every((one) => stands(log, one));
  if (edit.type === 'refill') return same(log.hours, edit.hours);
  const entry = findEntry(log, edit.entryId);
  if (!entry) return false;
  switch (edit.type) {
    case 'replace':
      return entry.kind === 'pick' && entry.itemId === edit.itemId && entry.origin === edit.origin && !entry.locked;
    case 'lock':
      return entry.kind === 'pick' && entry.locked === edit.locked;
    case 'note':
      return entry.note === edit.note;
  }
}

/** Of edits of one kind to one entry only the last can still stand. */
function lastOfEach(edits: readonly LogEdit[]): LogEdit[] {
  const last = new Map<string, LogEdit>();
  for (const edit of edits) {
    const key =
      edit.type === 'batch' || edit.type === 'refill' ? edit.type + String(last.size) : `${edit.type} ${edit.entryId}`;
    last.set(key, edit);
  }
  return [...last.values()];
}

function undoRefill(
  log: DailyLog,
  made: readonly LogHour[],
  earlier: readonly LogHour[],
  fixed: ReadonlySet<string>,
): UndoOutcome {
  const left: string[] = [];
  const madeAt = new Map(made.map((hour) => [hour.index, hour]));
  const earlierAt = new Map(earlier.map((hour) => [hour.index, hour]));
  const hours = log.hours.map((now): LogHour => {
    const then = madeAt.get(now.index);
    const before = earlierAt.get(now.index);
    if (!then || !before || same(then, before)) return now;
    if (same(now, then) && !now.entries.some(({ id }) => fixed.has(id))) return before;
    if (sameEntries(now, then) && sameEntries(now, before))
      return { ...now, entries: undoEntries(now, then, before, fixed, left) };
    left.push(...now.entries.map(({ id }) => id));
    return now;
  });
  if (hours.every((hour, n) => hour === log.hours[n] || same(hour, log.hours[n])))
    return {
      ok: false,
      why: left.length > 0 ? 'all it changed has been changed again or has aired' : 'nothing is left of it',
    };
  return { ok: true, edit: { type: 'refill', hours }, left };
}

function undoEntries(
  now: LogHour,
  then: LogHour,
  before: LogHour,
  fixed: ReadonlySet<string>,
  left: string[],
): LogEntry[] {
  return now.entries.map((entry, n) => {
    if (same(then.entries[n], before.entries[n])) return entry;
    if (same(entry, then.entries[n]) && !fixed.has(entry.id)) return before.entries[n]!;
    if (!same(entry, before.entries[n])) left.push(entry.id);
    return entry;
  });
}

function sameEntries(a: LogHour, b: LogHour): boolean {
  return a.entries.length === b.entries.length && a.entries.every(({ id }, n) => id === b.entries[n]!.id);
}

/** Deep, whatever the order of fields. */
function same(a: unknown, b: unknown): boolean {
  if (a === b) return true;
  if (typeof a !== 'object' || typeof b !== 'object' || a === null || b === null) return false;
  if (Array.isArray(a) !== Array.isArray(b)) return false;
  const [left, right] = [a as Record<string, unknown>, b as Record<string, unknown>];
  const keys = new Set([...Object.keys(left), ...Object.keys(right)]);
  return [...keys].every((key) => same(left[key], right[key]));
}

/** Ids of the entries of a log that differ from those of another by the same id. */
export function changedEntries(log: DailyLog, from: DailyLog): string[] {
  const before = new Map(allEntries(from).map((entry) => [entry.id, entry]));
  return allEntries(log).flatMap((entry) => (same(entry, before.get(entry.id)) ? [] : [entry.id]));
}
