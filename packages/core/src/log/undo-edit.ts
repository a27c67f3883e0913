import { elementAt } from '../values/look-up.js';
import { withBinding } from './binding.js';
import {
  allEntries,
  findEntry,
  isBound,
  type DailyLog,
  type LogEntry,
  type LogHour,
  type PickEntry,
} from './daily-log.js';
import { applyEdit } from './apply-edit.js';
import { ownLength } from './invert-edit.js';
import { touchedEntries, type LogEdit } from './log-edit.js';
import { placeOf } from './log-place.js';

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
  if (!lastOfEach(singleEdits(edit, inverse)).every((one) => stands(log, one)))
    return { ok: false, why: 'the entry has been changed again since' };
  const outcome = applyEdit(log, inverse);
  return outcome.ok ? { ok: true, edit: inverse, left: [] } : outcome;
}

/** The edits that an edit is made of; a swap is the two items it set, which its inverse tells. */
function singleEdits(edit: LogEdit, inverse: LogEdit): LogEdit[] {
  if (edit.type === 'batch' && inverse.type === 'batch')
    return edit.edits.flatMap((one, index) => singleEdits(one, inverse.edits.at(-1 - index)!));
  if (edit.type !== 'swap' || inverse.type !== 'batch') return [edit];
  const was = new Map(inverse.edits.flatMap((one) => (one.type === 'replace' ? [[one.entryId, one.itemId]] : [])));
  const set = (entryId: string, other: string): LogEdit[] => {
    const itemId = was.get(other);
    return itemId === undefined ? [] : [{ type: 'replace', entryId, itemId, origin: 'hand' }];
  };
  return [...set(edit.entryId, edit.withId), ...set(edit.withId, edit.entryId)];
}

/** What a tease or a sweeper plays follows from the log, whoever changed it. */
function sameButBinding(a: LogEntry | undefined, b: LogEntry): boolean {
  const plain = (entry: LogEntry | undefined): unknown =>
    entry && isBound(entry) ? withBinding(entry, { itemId: null, boundTo: null }) : entry;
  return same(plain(a), plain(b));
}

/** Whether a log still has what a single edit set. */
function stands(log: DailyLog, edit: LogEdit): boolean {
  switch (edit.type) {
    case 'refill':
      return same(log.hours, edit.hours);
    case 'remove':
      return !findEntry(log, edit.entryId);
    case 'insert':
      return sameButBinding(findEntry(log, edit.entry.id), edit.entry);
    case 'move':
      return edit.to.beforeId === edit.entryId || same(placeOf(log, edit.entryId), edit.to);
    case 'swap':
    case 'batch':
      return true;
  }
  const entry = findEntry(log, edit.entryId);
  if (!entry) return false;
  switch (edit.type) {
    case 'replace':
      return isFree(entry) && entry.itemId === edit.itemId && entry.origin === edit.origin;
    case 'open':
      return isFree(entry) && entry.itemId === null && entry.origin === edit.origin;
    case 'length':
      return ownLength(entry) === edit.durationMs;
    case 'lock':
      return entry.kind === 'pick' && entry.locked === edit.locked;
    case 'note':
      return entry.note === edit.note;
    case 'spots':
      return entry.kind === 'break' && same(entry.spots ?? null, edit.spots);
  }
}

function isFree(entry: LogEntry): entry is PickEntry {
  return entry.kind === 'pick' && !entry.locked;
}

/** Of edits of one kind to one entry only the last can still stand. */
function lastOfEach(edits: readonly LogEdit[]): LogEdit[] {
  const last = new Map<string, LogEdit>();
  for (const edit of edits) {
    // An item put in and an item taken out are of one kind, and so are putting an entry in and taking it out.
    const kind = ({ open: 'replace', remove: 'insert' } as const)[edit.type as 'open' | 'remove'] ?? edit.type;
    const key =
      edit.type === 'refill' ? edit.type + String(last.size) : `${kind} ${[...touchedEntries(edit)].join(' ')}`;
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
    if (same(entry, then.entries[n]) && !fixed.has(entry.id)) return elementAt(before.entries, n);
    if (!same(entry, before.entries[n])) left.push(entry.id);
    return entry;
  });
}

function sameEntries(a: LogHour, b: LogHour): boolean {
  return a.entries.length === b.entries.length && a.entries.every(({ id }, n) => id === elementAt(b.entries, n).id);
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
