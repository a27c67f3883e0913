import { elementAt } from '../values/look-up.js';
import {
  findEntry,
  isBound,
  type BoundEntry,
  type BreakEntry,
  type DailyLog,
  type FixedEntry,
  type LogEntry,
  type LogHour,
  type NoteEntry,
  type PickEntry,
  type Spot,
} from './daily-log.js';
import type { LogEdit, MoveEdit, SwapEdit } from './log-edit.js';
import { placeOf, type LogPlace } from './log-place.js';

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
          : { ...withoutLength(slot), itemId: edit.itemId, origin: edit.origin, open: null },
      );
    case 'open':
      return changeSlot(log, edit.entryId, (slot) =>
        slot.itemId === null && slot.origin === edit.origin && slot.open === edit.reason
          ? slot
          : { ...withoutLength(slot), itemId: null, origin: edit.origin, open: edit.reason },
      );
    case 'swap':
      return swap(log, edit);
    case 'insert':
      return insert(log, edit.entry, edit.at);
    case 'remove':
      return findEntry(log, edit.entryId)
        ? { ok: true, log: without(log, edit.entryId, edit.keepOut) }
        : { ok: false, why: GONE };
    case 'move':
      return move(log, edit);
    case 'length':
      return changeEntry(log, edit.entryId, (entry) => {
        if (entry.kind === 'note') return 'a note takes no time';
        if (isBound(entry)) return 'a tease or a sweeper is as long as its audio';
        const { durationMs } = edit;
        if (durationMs !== null && (!Number.isInteger(durationMs) || durationMs < 0))
          return 'a length is a whole number of milliseconds';
        return withLength(entry, durationMs);
      });
    case 'lock':
      return changeEntry(log, edit.entryId, (entry) => {
        if (entry.kind !== 'pick') return 'only a slot filled from a category can be locked';
        if (entry.itemId === null && edit.locked) return 'an open slot cannot be locked';
        return entry.locked === edit.locked ? entry : { ...entry, locked: edit.locked };
      });
    case 'note':
      return changeEntry(log, edit.entryId, (entry) => withNote(entry, edit.note, edit.byHand ?? true));
    case 'spots':
      return changeEntry(log, edit.entryId, (entry) =>
        entry.kind === 'break' ? withSpots(entry, edit.spots) : 'only a break has spots',
      );
    case 'refill':
      return { ok: true, log: edit.hours === log.hours ? log : { ...log, hours: edit.hours } };
    case 'batch':
      return applyBatch(log, edit.edits);
  }
}

/** As applyEdit, throwing RangeError with the reason when the edit does not apply. */
export function mustApply(log: DailyLog, edit: LogEdit): DailyLog {
  const outcome = applyEdit(log, edit);
  if (!outcome.ok) throw new RangeError(outcome.why);
  return outcome.log;
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

function insert(before: DailyLog, entry: LogEntry, { hourIndex, beforeId }: LogPlace): EditOutcome {
  if (findEntry(before, entry.id)) return { ok: false, why: 'the log has an entry with that id' };
  const hour = before.hours[hourIndex];
  if (!hour) return { ok: false, why: 'the log has no such hour' };
  const at = beforeId === null ? hour.entries.length : hour.entries.findIndex(({ id }) => id === beforeId);
  if (at < 0) return { ok: false, why: 'the place it was to stand at is no longer there' };
  const log = withoutRemoved(before, entry.id);
  return { ok: true, log: withEntries(log, hourIndex, hour.entries.toSpliced(at, 0, entry)) };
}

function move(log: DailyLog, { entryId, to, placed }: MoveEdit): EditOutcome {
  const entry = findEntry(log, entryId);
  const from = placeOf(log, entryId);
  if (!entry || !from) return { ok: false, why: GONE };
  const stays = to.beforeId === entryId || (to.hourIndex === from.hourIndex && to.beforeId === from.beforeId);
  if (stays && (placed === undefined || placed === (entry.placed === 'hand'))) return { ok: true, log };
  return insert(without(log, entryId), withPlaced(entry, placed), stays ? from : to);
}

function withPlaced(entry: LogEntry, byHand: boolean | undefined): LogEntry {
  if (byHand === undefined) return entry;
  const { placed, ...rest } = entry;
  void placed;
  return byHand ? { ...rest, placed: 'hand' } : rest;
}

function withSpots(entry: BreakEntry, spots: readonly Spot[] | null): LogEntry {
  if (JSON.stringify(entry.spots ?? null) === JSON.stringify(spots)) return entry;
  const { spots: before, ...rest } = entry;
  void before;
  return spots === null ? rest : { ...rest, spots };
}

function withLength(entry: Exclude<LogEntry, NoteEntry | BoundEntry>, durationMs: number | null): LogEntry | string {
  if (entry.kind === 'break') {
    if (entry.spots) return 'a break takes the time of its spots';
    if (durationMs === null) return 'a break has no length but its own';
    return entry.durationMs === durationMs ? entry : { ...entry, durationMs };
  }
  if (durationMs === null) return withoutLength(entry);
  if (entry.itemId === null) return 'an open slot has no length to fix';
  return entry.lengthMs === durationMs ? entry : { ...entry, lengthMs: durationMs };
}

function withoutLength<E extends PickEntry | FixedEntry>(entry: E): E {
  if (entry.lengthMs === undefined) return entry;
  const { lengthMs, ...rest } = entry;
  void lengthMs;
  return rest as E;
}

function without(log: DailyLog, entryId: string, keepOut?: true | number): DailyLog {
  const hourIndex = log.hours.findIndex(({ entries }) => entries.some(({ id }) => id === entryId));
  const hour = elementAt(log.hours, hourIndex);
  const entries = hour.entries.filter(({ id }) => id !== entryId);
  const rest = withHour(log, hourIndex, { ...hour, entries });
  if (keepOut === undefined) return rest;
  const notedIn = keepOut === true ? hourIndex : keepOut;
  const noting = elementAt(rest.hours, notedIn);
  return withHour(rest, notedIn, { ...noting, removed: [...(noting.removed ?? []), entryId].sort() });
}

/** The log without an id among what was removed from an hour: it stands in the log again. */
function withoutRemoved(log: DailyLog, entryId: string): DailyLog {
  const hourIndex = log.hours.findIndex(({ removed }) => removed?.includes(entryId));
  if (hourIndex < 0) return log;
  const { removed = [], ...hour } = elementAt(log.hours, hourIndex);
  const left = removed.filter((id) => id !== entryId);
  return withHour(log, hourIndex, left.length > 0 ? { ...hour, removed: left } : hour);
}

function withHour(log: DailyLog, hourIndex: number, hour: LogHour): DailyLog {
  return { ...log, hours: log.hours.map((one, index) => (index === hourIndex ? hour : one)) };
}

function withEntries(log: DailyLog, hourIndex: number, entries: readonly LogEntry[]): DailyLog {
  return withHour(log, hourIndex, { ...elementAt(log.hours, hourIndex), entries });
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
