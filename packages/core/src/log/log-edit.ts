import { elementAt } from '../values/look-up.js';
import {
  allEntries,
  findEntry,
  type DailyLog,
  type LogEntry,
  type LogHour,
  type OpenReason,
  type PickEntry,
} from './daily-log.js';

/** A change of a log as a value: it applies, it inverts, it tells what it touches, and it is its own JSON. */
export type LogEdit =
  | ReplaceEdit
  | OpenEdit
  | SwapEdit
  | InsertEdit
  | RemoveEdit
  | MoveEdit
  | LengthEdit
  | LockEdit
  | NoteEdit
  | RefillEdit
  | BatchEdit;

/** Puts another item into a slot. */
export interface ReplaceEdit {
  readonly type: 'replace';
  readonly entryId: string;
  readonly itemId: string;
  readonly origin: 'engine' | 'hand';
}

/** Takes the item out of a slot. */
export interface OpenEdit {
  readonly type: 'open';
  readonly entryId: string;
  readonly origin: 'engine' | 'hand';
  /** Why nothing fills it; null where it was opened by hand. */
  readonly reason: OpenReason | null;
}

/** Two slots change items; both stand there by hand then. */
export interface SwapEdit {
  readonly type: 'swap';
  readonly entryId: string;
  readonly withId: string;
}

/** Where an entry stands: in an hour of the log, before another entry of it or, with null, at its end. */
export interface LogPlace {
  readonly hourIndex: number;
  readonly beforeId: string | null;
}

/** Puts an entry in whose id the log does not have. */
export interface InsertEdit {
  readonly type: 'insert';
  readonly at: LogPlace;
  readonly entry: LogEntry;
}

/** Takes an entry out. */
export interface RemoveEdit {
  readonly type: 'remove';
  readonly entryId: string;
}

/** Puts an entry elsewhere; a place before itself leaves it where it is. */
export interface MoveEdit {
  readonly type: 'move';
  readonly entryId: string;
  readonly to: LogPlace;
}

/** Gives a break another length, milliseconds. */
export interface LengthEdit {
  readonly type: 'length';
  readonly entryId: string;
  readonly durationMs: number;
}

/** Locks a slot's item, or lets it go again. */
export interface LockEdit {
  readonly type: 'lock';
  readonly entryId: string;
  readonly locked: boolean;
}

/** Writes a note on an entry; an empty one takes it away. */
export interface NoteEdit {
  readonly type: 'note';
  readonly entryId: string;
  readonly note: string;
  /** False where the note is the clock's. */
  readonly byHand?: boolean;
}

/** Puts whole hours in place of the log's hours, as a new run does. */
export interface RefillEdit {
  readonly type: 'refill';
  readonly hours: readonly LogHour[];
}

/** Several edits in order; all of them or none. */
export interface BatchEdit {
  readonly type: 'batch';
  readonly edits: readonly LogEdit[];
}

/** An edit as a person makes it. */
export type HandEdit =
  | Pick<ReplaceEdit, 'type' | 'entryId' | 'itemId'>
  | Pick<OpenEdit, 'type' | 'entryId'>
  | SwapEdit
  | RemoveEdit
  | MoveEdit
  | LockEdit
  | NoteEdit;

/** What an edit made by hand is to the log. */
export function byHand(edit: HandEdit): LogEdit {
  switch (edit.type) {
    case 'replace':
      return { ...edit, origin: 'hand' };
    case 'open':
      return { ...edit, origin: 'hand', reason: null };
    default:
      return edit;
  }
}

/** The log after an edit, or why the edit cannot apply. */
export type EditOutcome = { readonly ok: true; readonly log: DailyLog } | { readonly ok: false; readonly why: string };

const GONE = 'that entry is no longer in the log';

/** The log after an edit, the very same log when the edit changes nothing, or why it cannot apply. */
export function applyEdit(log: DailyLog, edit: LogEdit): EditOutcome {
  switch (edit.type) {
    case 'replace':
      return changeSlot(log, edit.entryId, (slot) =>
        slot.itemId === edit.itemId && slot.origin === edit.origin && slot.open === null
          ? slot
          : { ...slot, itemId: edit.itemId, origin: edit.origin, open: null },
      );
    case 'open':
      return changeSlot(log, edit.entryId, (slot) =>
        slot.itemId === null && slot.origin === edit.origin && slot.open === edit.reason
          ? slot
          : { ...slot, itemId: null, origin: edit.origin, open: edit.reason },
      );
    case 'swap':
      return swap(log, edit);
    case 'insert':
      return insert(log, edit.entry, edit.at);
    case 'remove':
      return findEntry(log, edit.entryId) ? { ok: true, log: without(log, edit.entryId) } : { ok: false, why: GONE };
    case 'move':
      return move(log, edit);
    case 'length':
      return changeEntry(log, edit.entryId, (entry) => {
        if (entry.kind !== 'break') return 'only a break has a length of its own';
        if (!Number.isInteger(edit.durationMs) || edit.durationMs < 0)
          return 'a length is a whole number of milliseconds';
        return entry.durationMs === edit.durationMs ? entry : { ...entry, durationMs: edit.durationMs };
      });
    case 'lock':
      return changeEntry(log, edit.entryId, (entry) => {
        if (entry.kind !== 'pick') return 'only a slot filled from a category can be locked';
        if (entry.itemId === null && edit.locked) return 'an open slot cannot be locked';
        return entry.locked === edit.locked ? entry : { ...entry, locked: edit.locked };
      });
    case 'note':
      return changeEntry(log, edit.entryId, (entry) => withNote(entry, edit.note, edit.byHand ?? true));
    case 'refill':
      return { ok: true, log: edit.hours === log.hours ? log : { ...log, hours: edit.hours } };
    case 'batch':
      return applyBatch(log, edit.edits);
  }
}

/**
 * Where an entry stands after one step up or down the log, over the border of its hour as well; null at either end of the
 * day, or when it is not in the log.
 */
export function placeBeside(log: DailyLog, entryId: string, step: 1 | -1): LogPlace | null {
  const from = placeOf(log, entryId);
  if (!from) return null;
  const { entries } = elementAt(log.hours, from.hourIndex);
  const at = entries.findIndex(({ id }) => id === entryId);
  const other = entries[at + step];
  if (other) {
    const beforeId = step < 0 ? other.id : (entries[at + 2]?.id ?? null);
    return { hourIndex: from.hourIndex, beforeId };
  }
  const hourIndex = from.hourIndex + step;
  const hour = log.hours[hourIndex];
  return hour ? { hourIndex, beforeId: step < 0 ? null : (hour.entries[0]?.id ?? null) } : null;
}

/** The edit that undoes another; pass the log as it was before. Throws RangeError when the edit does not apply. */
export function invertEdit(before: DailyLog, edit: LogEdit): LogEdit {
  switch (edit.type) {
    case 'replace':
    case 'open':
      return restoring(mustFindSlot(before, edit.entryId));
    case 'swap':
      return { type: 'batch', edits: [edit.entryId, edit.withId].map((id) => restoring(mustFindSlot(before, id))) };
    case 'insert':
      return { type: 'remove', entryId: edit.entry.id };
    case 'remove':
      return { type: 'insert', at: mustPlace(before, edit.entryId), entry: mustFind(before, edit.entryId) };
    case 'move':
      return { type: 'move', entryId: edit.entryId, to: mustPlace(before, edit.entryId) };
    case 'length': {
      const entry = mustFind(before, edit.entryId);
      if (entry.kind !== 'break') throw new RangeError('only a break has a length to give back');
      return { type: 'length', entryId: entry.id, durationMs: entry.durationMs };
    }
    case 'lock': {
      const entry = mustFind(before, edit.entryId);
      return { type: 'lock', entryId: entry.id, locked: entry.kind === 'pick' && entry.locked };
    }
    case 'note': {
      const { note, noteBy } = mustFind(before, edit.entryId);
      return { type: 'note', entryId: edit.entryId, note, byHand: noteBy === 'hand' };
    }
    case 'refill':
      return { type: 'refill', hours: before.hours };
    case 'batch': {
      const inverses: LogEdit[] = [];
      let log = before;
      for (const part of edit.edits) {
        inverses.unshift(invertEdit(log, part));
        log = mustApply(log, part);
      }
      return { type: 'batch', edits: inverses };
    }
  }
}

/** Ids of the entries an edit sets, puts in or takes out; others keep what they have, though not always their times. */
export function touchedEntries(edit: LogEdit): ReadonlySet<string> {
  switch (edit.type) {
    case 'insert':
      return new Set([edit.entry.id]);
    case 'swap':
      return new Set([edit.entryId, edit.withId]);
    case 'refill':
      return new Set(edit.hours.flatMap(({ entries }) => entries.map(({ id }) => id)));
    case 'batch':
      return new Set(edit.edits.flatMap((one) => [...touchedEntries(one)]));
    default:
      return new Set([edit.entryId]);
  }
}

/** As applyEdit, throwing RangeError with the reason when the edit does not apply. */
export function mustApply(log: DailyLog, edit: LogEdit): DailyLog {
  const outcome = applyEdit(log, edit);
  if (!outcome.ok) throw new RangeError(outcome.why);
  return outcome.log;
}

/** Where an entry stands; null when it is not in the log. */
export function placeOf(log: DailyLog, entryId: string): LogPlace | null {
  for (const [hourIndex, { entries }] of log.hours.entries()) {
    const at = entries.findIndex(({ id }) => id === entryId);
    if (at >= 0) return { hourIndex, beforeId: entries[at + 1]?.id ?? null };
  }
  return null;
}

function restoring({ id: entryId, itemId, origin, open }: PickEntry): ReplaceEdit | OpenEdit {
  return itemId === null
    ? { type: 'open', entryId, origin, reason: open }
    : { type: 'replace', entryId, itemId, origin };
}

function withNote(entry: LogEntry, note: string, byHand: boolean): LogEntry {
  if (entry.note === note) return entry;
  const { noteBy, ...rest } = entry;
  void noteBy;
  return { ...rest, note, ...(byHand && note !== '' ? { noteBy: 'hand' as const } : {}) };
}

function swap(log: DailyLog, { entryId, withId }: SwapEdit): EditOutcome {
  const [one, other] = [findEntry(log, entryId), findEntry(log, withId)];
  if (one?.kind !== 'pick' || other?.kind !== 'pick') return { ok: false, why: one && other ? ONLY_SLOTS : GONE };
  if (one.itemId === null || other.itemId === null) return { ok: false, why: 'an open slot has no item to swap' };
  if (one === other) return { ok: false, why: 'an entry has nothing to swap with itself' };
  return applyBatch(log, [
    { type: 'replace', entryId, itemId: other.itemId, origin: 'hand' },
    { type: 'replace', entryId: withId, itemId: one.itemId, origin: 'hand' },
  ]);
}

function insert(log: DailyLog, entry: LogEntry, { hourIndex, beforeId }: LogPlace): EditOutcome {
  if (findEntry(log, entry.id)) return { ok: false, why: 'the log has an entry with that id' };
  const hour = log.hours[hourIndex];
  if (!hour) return { ok: false, why: 'the log has no such hour' };
  const at = beforeId === null ? hour.entries.length : hour.entries.findIndex(({ id }) => id === beforeId);
  if (at < 0) return { ok: false, why: 'the place it was to stand at is no longer there' };
  return { ok: true, log: withEntries(log, hourIndex, hour.entries.toSpliced(at, 0, entry)) };
}

function move(log: DailyLog, { entryId, to }: MoveEdit): EditOutcome {
  const entry = findEntry(log, entryId);
  const from = placeOf(log, entryId);
  if (!entry || !from) return { ok: false, why: GONE };
  if (to.beforeId === entryId || (to.hourIndex === from.hourIndex && to.beforeId === from.beforeId))
    return { ok: true, log };
  return insert(without(log, entryId), entry, to);
}

function without(log: DailyLog, entryId: string): DailyLog {
  const hourIndex = log.hours.findIndex(({ entries }) => entries.some(({ id }) => id === entryId));
  return withEntries(
    log,
    hourIndex,
    elementAt(log.hours, hourIndex).entries.filter(({ id }) => id !== entryId),
  );
}

function withEntries(log: DailyLog, hourIndex: number, entries: readonly LogEntry[]): DailyLog {
  return { ...log, hours: log.hours.map((hour, index) => (index === hourIndex ? { ...hour, entries } : hour)) };
}

function applyBatch(log: DailyLog, edits: readonly LogEdit[]): EditOutcome {
  let current = log;
  for (const edit of edits) {
    const outcome = applyEdit(current, edit);
    if (!outcome.ok) return outcome;
    current = outcome.log;
  }
  return { ok: true, log: current };
}

const ONLY_SLOTS = 'only a slot filled from a category can be given another item';

/** Changes a slot that is free to change. */
function changeSlot(log: DailyLog, entryId: string, change: (slot: PickEntry) => PickEntry): EditOutcome {
  return changeEntry(log, entryId, (entry) => {
    if (entry.kind !== 'pick') return ONLY_SLOTS;
    if (entry.locked) return 'the entry is locked';
    if (entry.out) return 'the entry is left out of the hour';
    return change(entry);
  });
}

function changeEntry(log: DailyLog, entryId: string, change: (entry: LogEntry) => LogEntry | string): EditOutcome {
  const hourIndex = log.hours.findIndex((hour) => hour.entries.some((entry) => entry.id === entryId));
  const hour = log.hours[hourIndex];
  const entry = hour?.entries.find((candidate) => candidate.id === entryId);
  if (!hour || !entry) return { ok: false, why: GONE };
  const changed = change(entry);
  if (typeof changed === 'string') return { ok: false, why: changed };
  if (changed === entry) return { ok: true, log };
  const entries = hour.entries.map((candidate) => (candidate === entry ? changed : candidate));
  return { ok: true, log: withEntries(log, hourIndex, entries) };
}

function mustFind(log: DailyLog, entryId: string): LogEntry {
  const entry = findEntry(log, entryId);
  if (!entry) throw new RangeError(`no entry “${entryId}” among ${allEntries(log).length}`);
  return entry;
}

function mustFindSlot(log: DailyLog, entryId: string): PickEntry {
  const entry = mustFind(log, entryId);
  if (entry.kind !== 'pick') throw new RangeError('only a slot has an item to give back');
  return entry;
}

function mustPlace(log: DailyLog, entryId: string): LogPlace {
  const place = placeOf(log, entryId);
  if (!place) throw new RangeError(`no entry “${entryId}” in the log`);
  return place;
}
